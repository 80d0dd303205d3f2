import {
  type DeviceType,
  type Figure,
  figure,
  type NumberSwitches,
  numbered,
  type OutputKind,
  type Programming,
  type Setting,
  type Teaching,
  type Terminal,
  terminals,
} from "./deviceType.ts";

export const POWER = { "+": "supply in", "−": "supply in, 0 V" };
export const TRACK = { J: "track bus", K: "track bus" };
export const BUS = { H: "control bus, high", L: "control bus, low" };

/** Terminals of one numbered output, by what it gives. */
export const OUTPUT: Record<OutputKind, (way: number, of: string) => Record<string, string>> = {
  pair: (way, of) => ({ [`${way}A`]: `${of}, positive at normal`, [`${way}B`]: `${of}, other lead` }),
  coil: (way, of) => ({
    [`${way}N`]: `${of}, normal coil`,
    [`${way}C`]: `${of}, common`,
    [`${way}R`]: `${of}, reverse coil`,
  }),
  servo: (way, of) => ({ [`${way}S`]: `${of}, signal`, [`${way}+`]: `${of}, 5 V`, [`${way}−`]: `${of}, 0 V` }),
  contact: (way) => ({
    [`S${way}c`]: `relay ${way}, common`,
    [`S${way}n`]: `relay ${way}, normally closed`,
    [`S${way}r`]: `relay ${way}, normally open`,
  }),
  matrix: (way, of) => ({ [`${way}N`]: `${of}, normal coil`, [`${way}R`]: `${of}, reverse coil` }),
  sink: (way, of) => ({ [`${way}L`]: `${of}, to 0 V when on` }),
};

export function outputTerminals(kind: OutputKind, count: number): Terminal[] {
  return numbered(count).flatMap((way) => terminals(OUTPUT[kind](way, `output ${way}`)));
}

/** Inputs beside each output, by which a control asks for a position. */
export function ownInputs(count: number): Terminal[] {
  return [
    ...terminals({ "0": "common of the inputs, 0 V" }),
    ...numbered(count).flatMap((way) =>
      terminals({
        [`I${way}N`]: `input ${way}, asks for normal`,
        [`I${way}R`]: `input ${way}, asks for reverse`,
        [`I${way}T`]: `input ${way}, asks for the other position`,
      }),
    ),
  ];
}

export const INPUT_FIGURES = {
  pullOhms: figure(10_000, "ohm", "resistor that holds an open input high", { origin: "from memory", tolerance: 0.05 }),
  inputVolts: figure(5, "V", "an open input stands at", { tolerance: 0.05 }),
  thresholdVolts: figure(1.5, "V", "an input counts as closed below", { origin: "from memory", tolerance: 0.2 }),
  inputMost: figure(5.5, "V", "most at an input", { origin: "from memory" }),
  inputDiodes: figure(0, "", "diode in the lead of each input, its band outwards: 1 where it is soldered in", {
    min: 0,
    max: 1,
  }),
};

export const board = (idle: number, least: number, most: number): Record<string, Figure> => ({
  idleOhms: figure(idle, "ohm", "the board itself, as a resistance across its supply", {
    origin: "from memory",
    tolerance: 0.2,
  }),
  leastVolts: figure(least, "V", "supply from"),
  mostVolts: figure(most, "V", "supply to"),
});

export const ON_TRACK = {
  commandOhms: figure(100_000, "ohm", "load of the command input on the track bus", { origin: "from memory" }),
  factoryAddress: figure(1, "", "factory address of output 1", { min: 1, max: 2040 }),
};

export const PAIR = {
  outputOhms: figure(120, "ohm", "inside resistance of an output: (12 V open, 10.2 V at 15 mA)", {
    origin: "derived",
    tolerance: 0.1,
  }),
  outputAmps: figure(0.04, "A", "most from one output"),
};

export const COIL = {
  farads: figure(3300e-6, "F", "capacitor that gives the pulses", { origin: "from memory", tolerance: 0.2 }),
  chargeOhms: figure(47, "ohm", "charging resistor", { origin: "from memory", tolerance: 0.05 }),
  bleedOhms: figure(10_000, "ohm", "leakage across the capacitor", { origin: "from memory", tolerance: 0.2 }),
  seriesOhms: figure(0.05, "ohm", "inside resistance of the capacitor", { origin: "from memory" }),
  switchOhms: figure(0.2, "ohm", "inside resistance of an output that is on", { origin: "from memory" }),
  outputAmps: figure(6, "A", "most from one output, for the length of a pulse", { origin: "from memory" }),
};

export const SERVO = {
  signalVolts: figure(5, "V", "height of a pulse"),
  normalSeconds: figure(0.0012, "s", "pulse at normal", { min: 0.0005, max: 0.0025 }),
  reverseSeconds: figure(0.0018, "s", "pulse at reverse", { min: 0.0005, max: 0.0025 }),
  frameSeconds: figure(0.02, "s", "from pulse to pulse"),
  signalOhms: figure(220, "ohm", "inside resistance of a signal output", { origin: "from memory" }),
  regulatorVolts: figure(5, "V", "for the servos", { tolerance: 0.04, min: 4.8, max: 6 }),
  regulatorDrop: figure(2, "V", "least that its regulator takes of what comes in", { origin: "from memory" }),
  regulatorWatts: figure(12, "W", "most that its linear regulator turns into heat, on a heat sink", {
    origin: "from memory",
  }),
  outputOhms: figure(0.1, "ohm", "inside resistance of the 5 V at an output", { origin: "from memory" }),
  outputAmps: figure(1, "A", "most from one output", { origin: "from memory" }),
  boardAmps: figure(2, "A", "most from all outputs together"),
};

/** In the order in which a servo is set up: what comes later depends on what comes before (common practice). */
export const SERVO_SETTINGS: readonly Setting[] = [
  {
    ...{ name: "mid", about: "where the horn stands while it is fitted", factory: "1.5 ms", range: "1.2 to 1.8 ms" },
    ...{ each: true, rank: 1 },
    afterwards: "Fit the horn square to the linkage at mid, then the link, with the blades in the middle.",
  },
  {
    name: "normal end",
    about: "where the horn stands at normal; set narrow first, then widen",
    factory: "1.2 ms",
    range: "0.5 to 2.5 ms",
    ...{ each: true, rank: 2 },
  },
  {
    name: "reverse end",
    about: "where the horn stands at reverse; jitter means that it lies beyond what the blades allow",
    factory: "1.8 ms",
    range: "0.5 to 2.5 ms",
    ...{ each: true, rank: 3 },
    afterwards: "Throw both ways: the blades close, and the servo does not hum.",
  },
  {
    ...{ name: "speed", about: "1 slow, 9 fast", factory: "5", range: "1 to 9", each: true, rank: 4 },
    values: ["1", "2", "3", "4", "5", "6", "7", "8", "9"],
  },
];

export const ADDRESS: Setting = {
  name: "address",
  about: "of output 1; the others follow",
  factory: "1",
  range: "1 to 2040",
  // NMRA S-9.2.2, accessory decoders: low and high part of the address
  number: "variables 1 and 9",
};

/** A board with a button and a lamp for each output, each with an address of its own. */
export const EACH_OUTPUT: Programming = {
  block: 1,
  choose: "Press the board's button until the lamp of output {output} is lit.",
  enter: "Hold the button for three seconds.",
  shows: "The lamp blinks.",
  send: "Throw {address} to straight from the throttle.",
  leave: "The lamp goes steady. Press the button once: the lamp goes out.",
};

/** A board that takes one address for several outputs in a row. */
export const inBlocks = (block: 2 | 4 | 8): Programming => ({
  block,
  choose: "Take all other boards off the track bus, or be sure that none of them is learning.",
  enter: "Hold the board's button until its lamp is lit.",
  shows: "The lamp stays lit.",
  send: `Throw {address} to straight from the throttle: output {output} takes it, the next ${block - 1} follow.`,
  leave: "The lamp goes out by itself.",
});

/** The number of a node on the control bus, set by switches. */
export const NODE_NUMBER: Setting = {
  name: "node number",
  about: "of this node alone, read when power comes on; every event that others were taught carries it",
  factory: "none",
  range: "as its switches say",
  number: "switches",
  isNodeNumber: true,
};

/** Four switches that count when off, and two jumpers that count when fitted (common practice). */
export const MIXED_SWITCHES: NumberSwitches = {
  names: ["0", "1", "2", "3", "J1", "J2"],
  onMeans: [0, 0, 0, 0, 1, 1],
  offset: 1,
};

/** Seven switches that count when on (common practice). */
export const PLAIN_SWITCHES: NumberSwitches = {
  names: ["1", "2", "3", "4", "5", "6", "7"],
  onMeans: [1, 1, 1, 1, 1, 1, 1],
  offset: 0,
};

/** Left on, a node learns whatever goes over the bus. */
export const LEARN_SWITCH: Setting = {
  name: "learn switch",
  about: "on while the node is taught; left on, it learns whatever happens on the bus",
  factory: "off",
  range: "on or off",
  number: "switch L",
  values: ["off", "on"],
  isLearn: true,
};

/** Switches of a node that is taught without a computer, with as many as choose one of its outputs (common practice). */
export function teachSwitches(outputs: number): Teaching {
  const bits = Math.ceil(Math.log2(outputs));
  const select = Array.from({ length: bits }, (_, bit) => `S${bit + 1}`);
  return { select, learn: "L", unlearn: "U", inverted: "P", onOnly: "O" };
}

export type Given = Pick<DeviceType, "id" | "name" | "short" | "about" | "prefix" | "figures"> & Partial<DeviceType>;

/** A board under the layout, its terminals from what it gives, hears and reads. */
export function made(given: Given, power: Record<string, string>): DeviceType {
  const { drives, outputs = 0, inputs = 0, hears } = given;
  const commands = hears === "track" ? TRACK : hears === "bus" ? BUS : {};
  return {
    family: "driver",
    model: "board",
    place: "layout",
    contactSets: 0,
    terminals: [
      ...terminals({ ...commands, ...power }),
      ...(given.ownInputs ? ownInputs(outputs) : []),
      ...(inputs > 0 ? terminals({ "0": "common of the inputs, 0 V" }) : []),
      ...numbered(inputs).flatMap((way) => terminals({ [`I${way}`]: `input ${way}` })),
      ...(drives ? outputTerminals(drives, outputs) : []),
    ],
    ...given,
    outputs,
  };
}

export const COIL_CAUTION =
  "Its pulses carry amps: never join a lamp or a stall motor to a coil output. The board stores energy: discharge it before working on it.";
