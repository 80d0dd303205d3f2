import type { Place } from "../record/schemas.ts";

/** Where a figure comes from; `own` is the owner's data sheet or measurement. */
export type Origin = "common practice" | "derived" | "from memory" | "own";

/** `money` is the railway's currency. */
export type Unit = "V" | "A" | "ohm" | "F" | "H" | "J" | "W" | "s" | "m" | "money" | "";

/** A number in SI units that a type's electrical model or limit is made of. */
export interface Figure {
  about: string;
  value: number;
  unit: Unit;
  origin: Origin;
  /** Share of the value by which single pieces differ, 0 to 1. */
  tolerance: number;
  /** What the owner may set it to. */
  min: number;
  max: number;
}

export type Family = "motor" | "driver" | "reader" | "supply" | "control" | "lamp" | "track" | "lock" | "wiring";

/** How a type behaves electrically; each model is turned into circuit elements in one place. */
export type Model =
  | "twin-coil"
  | "stall-motor"
  | "servo"
  | "decoder-motor"
  | "relay"
  | "latching-relay"
  | "cdu"
  | "diode-board"
  | "board"
  | "controller"
  | "reverser"
  | "polarity-unit"
  | "detector"
  | "spot-sensor"
  | "ac-supply"
  | "dc-supply"
  | "track-bus"
  | "control-bus"
  | "momentary-toggle"
  | "latching-toggle"
  | "reversing-toggle"
  | "push-button"
  | "push-poles"
  | "rotary"
  | "touch-button"
  | "two-colour-lamp"
  | "frog-lamps"
  | "signal-box"
  | "key-switch"
  | "resistor-board"
  | "frog"
  | "unwired";

/**
 * What a numbered output gives: a pair that is reversed, a pulse to one coil or the other, the pulses of a servo, a
 * changeover contact, a path to 0 V, or what the button of a route sends through a diode board.
 */
export type OutputKind = "pair" | "coil" | "servo" | "contact" | "sink" | "matrix";

/** Where a board takes its commands from: the track bus, the control bus, or the pins of a controller. */
export type Hears = "track" | "bus" | "pins";

export interface Terminal {
  name: string;
  about: string;
  /** What is printed beside it on the owner's own kind, when that is not its name. */
  printed?: string;
}

/** Something that is set in the device itself, by a program or a button, and lost when it is reset. */
export interface Setting {
  name: string;
  about: string;
  factory: string;
  /** What may be set, in words. */
  range: string;
  /** Under which number, jumper or menu entry it is kept, as far as such things are alike. */
  number?: string;
  /** Each output has its own. */
  each?: boolean;
  /** Its place in the order of writing; those without one come last. */
  rank?: number;
  /** What is done by hand when it is set, before the next one. */
  afterwards?: string;
  /** Holds a key while others are written, and another value afterwards. */
  isLock?: boolean;
  /** It is the number of the first input of an encoder. */
  isStart?: boolean;
  /** It says who turns an encoder's messages into commands. */
  isActor?: boolean;
  /** It is the number of a node, which its switches say. */
  isNodeNumber?: boolean;
  /** It is the switch that makes a node learn, which must not stay on. */
  isLearn?: boolean;
  /** It turns normal into reverse: the sense ledger holds it. */
  isSense?: boolean;
  /** What may be set, when that is a choice. */
  values?: readonly string[];
}

/** How an address is put into a board: what is done and seen, with `{output}` and `{address}` for those in hand (common practice). */
export interface Programming {
  /** Outputs that get addresses in a row from one number; such runs of four begin where a decoder of the standard does. */
  block: 1 | 2 | 4 | 8;
  choose: string;
  enter: string;
  /** What its read-out shows then. */
  shows: string;
  send: string;
  leave: string;
}

/** The switches and jumpers by which a node's number is set, read when power comes on: number = offset + sum of weight x bit. */
export interface NumberSwitches {
  /** What is printed beside each, from bit 0 on; those that begin with J are jumpers. */
  names: readonly string[];
  /** What one that is on stands for: 1, or 0 where it is inverted. */
  onMeans: readonly (0 | 1)[];
  offset: number;
}

/** The switches by which a node is taught events: what is printed beside those that choose an output, bit 0 first, and beside the others. */
export interface Teaching {
  select: readonly string[];
  learn: string;
  unlearn: string;
  inverted: string;
  onOnly: string;
}

/** What a device does when power comes back: stays as it was, goes to normal, or is off until told. */
export type PowerOn = "stays" | "normal" | "off";

/** A diode or a plain wire between two terminals: a diode lets current through from the first to the second, a turned one back. */
export interface LaidPart {
  from: string;
  to: string;
  with: "wire" | "diode";
  turned: boolean;
}

/** A generic kind of device: what it can be wired by, how it behaves, what it bears. */
export interface DeviceType {
  id: string;
  name: string;
  /** One word for a narrow column. */
  short: string;
  family: Family;
  model: Model;
  about: string;
  /** Where it usually stands. */
  place: Place;
  /** Letters of the labels given to new ones. */
  prefix: string;
  terminals: readonly Terminal[];
  /** Numbered outputs of a board, 0 for others. */
  outputs: number;
  /** Changeover contacts of a motor or relay, 0 for others. */
  contactSets: number;
  figures: Readonly<Record<string, Figure>>;
  /** What its outputs give. */
  drives?: OutputKind;
  hears?: Hears;
  /** Numbered inputs that tell others what happens at them. */
  inputs?: number;
  /** Each output has inputs of its own for a control. */
  ownInputs?: boolean;
  /** Stretches of track or spots that it watches. */
  zones?: number;
  /** Pieces of a resistor board, each for one lamp. */
  pieces?: number;
  /** Poles of a button that has more than one. */
  poles?: number;
  /** Diodes and plain wires on a diode board, as they lie on one of them. */
  laid?: readonly LaidPart[];
  /** A control that stays where it is put. */
  maintained?: boolean;
  /** Terminals of a lamp: lit at normal, lit at reverse, common. */
  leads?: readonly [string, string, string];
  /** Colours of a lamp: lit at normal, lit at reverse. */
  colours?: readonly [string, string];
  /** The common of a lamp goes to plus instead of 0 V. */
  commonPlus?: boolean;
  settings?: readonly Setting[];
  programming?: Programming;
  numberSwitches?: NumberSwitches;
  teaching?: Teaching;
  powerOn?: PowerOn;
  /** Shown wherever the type is chosen or its finding is read. */
  caution?: string;
}

type FigureOptions = Partial<Pick<Figure, "origin" | "tolerance" | "min" | "max">>;

/** A figure of common practice unless said otherwise; the owner may set it to between a hundredth and a hundredfold. */
export function figure(value: number, unit: Unit, about: string, options: FigureOptions = {}): Figure {
  return {
    value,
    unit,
    about,
    origin: "common practice",
    tolerance: 0,
    min: value / 100,
    max: value * 100,
    ...options,
  };
}

/** Terminals from `name: what it is` pairs. */
export function terminals(pairs: Record<string, string>): Terminal[] {
  return Object.entries(pairs).map(([name, about]) => ({ name, about }));
}

/** How many numbered inputs of a board read controls; the rows of a diode board lead on to coils, and read nothing. */
export function readingInputs({ inputs = 0, drives }: DeviceType): number {
  return drives === "matrix" ? 0 : inputs;
}

/** Numbers from 1 to `count`. */
export function numbered(count: number): number[] {
  return Array.from({ length: count }, (_, index) => index + 1);
}

/** Changeover contacts, set by set. */
export function contacts(sets: number): Terminal[] {
  return numbered(sets).flatMap((set) =>
    terminals({
      [`S${set}c`]: `contact ${set}, common`,
      [`S${set}n`]: `contact ${set}, made at normal`,
      [`S${set}r`]: `contact ${set}, made at reverse`,
    }),
  );
}

export const CONTACT_OHMS = figure(0.05, "ohm", "resistance of a closed contact", { origin: "from memory", max: 20 });
