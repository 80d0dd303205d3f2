import type { DeviceType, Model } from "./deviceType.ts";

/** What moves a motor or an arm. */
export type MovedBy =
  /** Amps for a moment, through one coil or the other. */
  | "pulse"
  /** DC that stays on, reversed to throw. */
  | "reversal"
  /** 5 V and a servo's signal. */
  | "signal"
  /** Commands from the track, which its own decoder understands. */
  | "commands";

/** What a source gives to what it feeds or commands. */
export type Gives = "ac" | "dc" | "track" | "bus" | "pins" | "pulse";

/** How a control asks: by making one side or the other, reversing two poles, a press, a position, or a board's inputs. */
export type Asks = "side" | "poles" | "press" | "position" | "signal";

/** Everything about a model that is not a figure: what rules, recipes and drawings ask of it. */
export interface Traits {
  movedBy: MovedBy | null;
  gives: Gives | null;
  asks: Asks | null;
  /** Stays where its coil put it, or only while the coil has current. */
  relay: "held" | "latching" | null;
  /** What a lamp is: LEDs on wires of their own, LEDs between frog and rails, a box with an input, or a flag without wires. */
  shows: "leds" | "frog-leds" | "box" | "flag" | null;
  /** What it is to the track. */
  inTrack: "frog" | "polarity-unit" | "reverser" | "detector" | "spot-sensor" | null;
  /** It does something only while its supply is on. */
  powered: boolean;
  /** It stands otherwise in the other half cycle. */
  alternating: boolean;
  /** It draws another current while it moves. */
  moving: boolean;
  /** It has terminals for a supply. */
  takesSupply: boolean;
  /** Its supply terminals, plus first. */
  power: readonly [string, string];
  /** The type of supply that it is given when none is said; null when it needs none of its own. */
  usualSupply: (type: DeviceType) => string | null;
}

const none = () => null;

/** What a model is unless it says otherwise: a thing without power, moved by nothing, asking for nothing. */
const PLAIN: Traits = {
  movedBy: null,
  gives: null,
  asks: null,
  relay: null,
  shows: null,
  inTrack: null,
  powered: false,
  alternating: false,
  moving: false,
  takesSupply: false,
  power: ["+", "−"],
  usualSupply: none,
};

/** Lamps with a greater resistor than this are made for 12 V, ohms. */
const FOR_12_VOLTS = 800;

const led = ({ figures }: DeviceType) => ((figures.resistorOhms?.value ?? 0) > FOR_12_VOLTS ? "dc-12" : "dc-5");
const board = ({ hears, drives }: DeviceType) => (hears === "pins" ? null : drives === "coil" ? "dc-18" : "dc-12");

/** The traits of each model; a new model is one row here, and its elements in `readings/models.ts`. */
export const TRAITS: Record<Model, Traits> = {
  "twin-coil": { ...PLAIN, movedBy: "pulse" },
  "stall-motor": { ...PLAIN, movedBy: "reversal", moving: true },
  servo: { ...PLAIN, movedBy: "signal", moving: true },
  "decoder-motor": {
    ...PLAIN,
    ...{ movedBy: "commands", moving: true, takesSupply: true, power: ["J", "K"], usualSupply: () => "track-bus" },
  },
  relay: { ...PLAIN, relay: "held", takesSupply: true },
  "latching-relay": { ...PLAIN, relay: "latching", takesSupply: true },
  cdu: { ...PLAIN, gives: "pulse", powered: true, takesSupply: true, power: ["~1", "~2"], usualSupply: () => "ac-16" },
  "diode-board": { ...PLAIN, takesSupply: true, usualSupply: () => "cdu" },
  board: { ...PLAIN, powered: true, takesSupply: true, usualSupply: board },
  controller: { ...PLAIN, gives: "pins", powered: true, takesSupply: true, usualSupply: () => "dc-9" },
  reverser: { ...PLAIN, inTrack: "reverser", powered: true, takesSupply: true, usualSupply: () => "track-bus" },
  "polarity-unit": {
    ...PLAIN,
    ...{ inTrack: "polarity-unit", takesSupply: true, power: ["J", "K"], usualSupply: () => "track-bus" },
  },
  detector: { ...PLAIN, inTrack: "detector", powered: true, takesSupply: true, usualSupply: () => "dc-12" },
  "spot-sensor": { ...PLAIN, inTrack: "spot-sensor", powered: true, takesSupply: true, usualSupply: () => "dc-12" },
  "ac-supply": { ...PLAIN, gives: "ac", powered: true, alternating: true, power: ["~1", "~2"] },
  "dc-supply": { ...PLAIN, gives: "dc", powered: true },
  "track-bus": { ...PLAIN, gives: "track", powered: true, alternating: true, power: ["J", "K"] },
  "control-bus": { ...PLAIN, gives: "bus", powered: true },
  "momentary-toggle": { ...PLAIN, asks: "side" },
  "latching-toggle": { ...PLAIN, asks: "side" },
  "reversing-toggle": { ...PLAIN, asks: "poles" },
  "push-button": { ...PLAIN, asks: "press" },
  "push-poles": { ...PLAIN, asks: "press" },
  rotary: { ...PLAIN, asks: "position" },
  "touch-button": { ...PLAIN, asks: "signal", takesSupply: true, usualSupply: () => "dc-12" },
  "two-colour-lamp": { ...PLAIN, shows: "leds", takesSupply: true, usualSupply: led },
  "frog-lamps": { ...PLAIN, shows: "frog-leds", takesSupply: true },
  "signal-box": { ...PLAIN, shows: "box", powered: true, takesSupply: true, usualSupply: () => "dc-12" },
  "key-switch": PLAIN,
  "resistor-board": PLAIN,
  frog: { ...PLAIN, inTrack: "frog", takesSupply: true, power: ["L", "R"], usualSupply: () => "track-bus" },
  unwired: { ...PLAIN, shows: "flag" },
};

/** The traits of a type's model; those of nothing in particular when there is no type. */
export function traitsOf(type: Pick<DeviceType, "model"> | undefined | null): Traits {
  return type ? TRAITS[type.model] : PLAIN;
}

/** The supply that a type is given when none is said, or null when it needs none of its own. */
export function usualSupply(type: DeviceType): string | null {
  return traitsOf(type).usualSupply(type);
}
