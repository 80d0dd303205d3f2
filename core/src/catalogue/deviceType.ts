import type { Place } from "../record/schemas.ts";

/** Where a figure comes from; `own` is the owner's data sheet or measurement. */
export type Origin = "common practice" | "derived" | "from memory" | "own";

export type Unit = "V" | "A" | "ohm" | "F" | "H" | "J" | "s" | "";

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

export type Family = "motor" | "driver" | "supply" | "control" | "lamp";

/** How a type behaves electrically; each model is turned into circuit elements in one place. */
export type Model =
  | "twin-coil"
  | "stall-motor"
  | "cdu"
  | "ac-supply"
  | "dc-supply"
  | "track-bus"
  | "momentary-toggle"
  | "latching-toggle"
  | "stall-decoder"
  | "two-colour-lamp";

export interface Terminal {
  name: string;
  about: string;
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
  /** Numbered outputs of a decoder, 0 for others. */
  outputs: number;
  /** Changeover contacts of a motor, 0 for others. */
  contactSets: number;
  figures: Readonly<Record<string, Figure>>;
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
