import type { Circuit } from "../circuit/circuit.ts";
import type { Element } from "../circuit/elements.ts";
import type { OperatingPoint } from "../circuit/solution.ts";
import { laidWires } from "../loom/laidWires.ts";
import { deviceOf } from "../record/find.ts";
import { amps, milliamps, volts } from "../units/format.ts";
import type { Circuitry } from "./circuitry.ts";
import type { Extra } from "./solving.ts";
import { bandOf, type Changes, changesIn, combined } from "./spread.ts";
import type { RailwayState } from "./states.ts";

export type Range = "V" | "ohm" | "mA" | "diode";

/** How a meter comes to what it shows on AC: by the mean, as if all were sines, or by the true effective value. */
export type MeterKind = "unknown" | "averaging" | "effective";

/** What a real hand-held meter should show between two terminals. */
export interface MeterReading {
  range: Range;
  /** Volts, ohms or amps; null when the meter shows open, or stands where it can show nothing. */
  value: number | null;
  /** Half-width of the band that passes, in which some 98 of 100 sound builds lie: parts' tolerances and the meter's own together. */
  tolerance: number;
  /** The same with every part and the meter at their worst at once. */
  corner: number;
  /** The reading is the effective value of an alternating voltage or current. */
  ac: boolean;
  /** How it came about, in a plain sentence. */
  reckoned: string;
  /** Another kind of meter shows another value. */
  byKind?: true;
  /** What to beware of with the meter in this place. */
  caution?: string;
}

/** Input resistance of a common digital meter on volts, and its shunt on milliamps, ohms (common practice). */
const METER_OHMS = 10e6;
const SHUNT_OHMS = 1;
/** Test voltage and inside resistance on the ohm range (common practice): too little to light an LED. */
const TEST_VOLTS = 0.2;
const TEST_OHMS = 1000;
/** Above this the display shows open, ohms (common practice). */
const OPEN_ABOVE = 20e6;
/**
 * The uncertainty of a common hand-held meter of 4000 counts: a share of the reading, and so many of the last digit of its range, the
 * first of which ends where it is said here (data sheets, from memory). Ohms include what the leads have.
 */
const COUNTS = 4000;
const UNCERTAIN = {
  V: { share: 0.008, digits: 3, first: 4, besides: 0 },
  AC: { share: 0.012, digits: 5, first: 4, besides: 0 },
  ohm: { share: 0.01, digits: 3, first: 400, besides: 0.2 },
  mA: { share: 0.012, digits: 3, first: 0.04, besides: 0 },
  diode: { share: 0.015, digits: 5, first: 4, besides: 0 },
} as const;

/** By how much the meter itself may be wrong at a reading. */
export function uncertainty(kind: keyof typeof UNCERTAIN, value: number): number {
  const { share, digits, first, besides } = UNCERTAIN[kind];
  const size = Math.abs(value);
  const range = first * 10 ** Math.max(0, Math.ceil(Math.log10(size / first) - 1e-9));
  return share * size + (digits * range) / COUNTS + besides;
}
/** On the diode range: some 1 mA from its own volts, and open above what the display can tell (common practice). */
const DIODE_VOLTS = 3;
const DIODE_OHMS = 2400;
const DIODE_OPEN = 2;

const RECKONED_DIODE =
  "Supplies off; some 1 mA from the red probe to the black one: what a diode drops, or open the other way round.";
const RECKONED_OFF = "Supplies off and capacitors empty; all ways between the probes counted.";

/**
 * The reading between two terminals in a state of the railway.
 *
 * Volts are solved with the meter's input resistance across the terminals; ohms with the supplies off and the meter's own
 * test voltage; a diode with some milliamp from red to black; milliamps with the meter's shunt in the place of the wire that joins the two. The band comes
 * from what each thing in which builds differ changes by itself, found from the adjoint network about the solution, and the meter's
 * own uncertainty.
 * @param red terminal under the red probe, `deviceId:terminal` or a strip's screw as "k1/3"
 * @param black terminal under the black probe
 * @param fault what is amiss in the circuit, or how a build differs from its figures; nothing when not said
 * @param kind of meter; what either shows passes when nobody has said it
 */
export function measure(
  circuitry: Circuitry,
  red: string,
  black: string,
  range: Range,
  state: RailwayState,
  fault: Extra = SOUND,
  kind: MeterKind = "unknown",
): MeterReading {
  if (range === "mA") return measureAmps(circuitry, red, black, state, fault);
  const isOff = range === "ohm" || range === "diode";
  const at: RailwayState = isOff ? { ...state, moment: "rest", acting: null, off: true } : state;
  const ac = range === "V" && circuitry.isAlternating(red) && circuitry.isAlternating(black);
  const reckoned = range === "diode" ? RECKONED_DIODE : range === "ohm" ? RECKONED_OFF : reckonVolts(ac, at);
  if (red === black) return { range, value: 0, ...bandAround(range, 0, ac), ac, reckoned };
  const piece = circuitry.piece(red);
  const open = (why: string): MeterReading => ({ range, value: null, tolerance: 0, corner: 0, ac, reckoned: why });
  if (piece === undefined || piece !== circuitry.piece(black)) {
    return open(
      isOff
        ? "Nothing conducts between the two probes."
        : "Nothing joins the two probes, so there is no steady voltage.",
    );
  }
  const solve = (half: 1 | -1) => {
    const solved = circuitry.solveWith(
      red,
      { ...at, half },
      {
        ...fault,
        elements: [...probes(red, black, range), ...fault.elements],
      },
    );
    if (!solved) return null;
    return {
      value: voltsBetween(solved.circuit, red, black),
      changes: changesIn(circuitry.record, solved, red, black),
      shut: shutWords(circuitry, solved.point),
    };
  };
  const isOnTrack = range === "V" && circuitry.isOnTrack(red);
  const solved = solve(isOnTrack ? 1 : (at.half ?? 1));
  if (!solved) return open("Nothing is joined to these terminals.");
  const { value: across, changes } = solved;
  const otherHalf = isOnTrack ? solve(-1) : null;
  if (otherHalf) return saying(solved.shut || otherHalf.shut, onTrack(solved, otherHalf, kind));
  if (range === "V") {
    const scale = ac ? Math.SQRT1_2 : 1;
    const band = bandAround(range, across * scale, ac, changes, scale);
    return saying(solved.shut, { range, value: across * scale, ...band, ac, reckoned });
  }
  if (range === "diode") {
    if (across > DIODE_OPEN) return open("Nothing conducts from the red probe to the black one.");
    return { range, value: across, ...bandAround(range, across, ac, changes), ac, reckoned };
  }
  const left = TEST_VOLTS - across;
  const ohms = left > 0 ? (TEST_OHMS * across) / left : Number.POSITIVE_INFINITY;
  if (!(ohms < OPEN_ABOVE)) return open("Nothing conducts between the two probes.");
  // d(ohms)/d(across) of the divider that the meter's inside resistance makes
  const slope = (TEST_OHMS * TEST_VOLTS) / left ** 2;
  const value = Math.max(0, ohms);
  return { range, value, ...bandAround(range, value, ac, changes, slope), ac, reckoned };
}

/**
 * The band about a reading, and its worst corner.
 * @param changes what builds differ by, in volts
 * @param scale of the reading by these volts
 */
function bandAround(range: Range, value: number, ac: boolean, changes: Changes = NONE, scale = 1) {
  const own = uncertainty(ac && range === "V" ? "AC" : range, value);
  const all = [own, ...[...changes.values()].map((change) => change * scale)];
  return { tolerance: bandOf(all), corner: combined(all).corner };
}

const NONE: Changes = new Map();

/** Nothing amiss. */
const SOUND: Extra = { elements: [] };

/** What is read in one half cycle, and what builds differ by. */
interface Half {
  value: number;
  changes: Changes;
}

/** Under the track's square wave a meter's DC shows the mean of the two half cycles, its AC half of their difference; what is more is told. */
function ofBothHalves(one: Half, other: Half): Half & { mean: number; ac: boolean } {
  const [mean, swing] = [(one.value + other.value) / 2, Math.abs(one.value - other.value) / 2];
  const ac = swing > Math.abs(mean);
  // what differs does so in both half cycles alike
  const sign = ac ? -1 : 1;
  const turned = ac && one.value < other.value ? -1 : 1;
  const keys = new Set([...one.changes.keys(), ...other.changes.keys()]);
  const changes = new Map(
    [...keys].map((key) => [key, ((one.changes.get(key) ?? 0) + sign * (other.changes.get(key) ?? 0)) * 0.5 * turned]),
  );
  return { value: ac ? swing : mean, changes, mean, ac };
}

/** Volts under the track's square wave. */
function onTrack(one: Half, other: Half, kind: MeterKind): MeterReading {
  const { value: truly, changes, ac } = ofBothHalves(one, other);
  if (!ac) {
    const reckoned = "The mean of the two half cycles of the track.";
    return { range: "V", value: truly, ...bandAround("V", truly, ac, changes), ac, reckoned };
  }
  const times = kind === "averaging" ? FORM_FACTOR : 1;
  const value = truly * times;
  // which kind of meter it is, nobody has said: what either shows passes
  const either = kind === "unknown" ? (FORM_FACTOR - 1) * value : 0;
  const { tolerance, corner } = bandAround("V", value, ac, changes, times);
  const reckoned = `Half of what the track's square wave swings between the probes${OF_KIND[kind](truly)}; on DC the meter shows next to nothing. One that does not follow 8 kHz shows less.`;
  return { range: "V", value, tolerance: tolerance + either, corner: corner + either, ac, byKind: true, reckoned };
}

/** What a kind of meter makes of the track's wave, as part of a sentence. */
const OF_KIND: Record<MeterKind, (truly: number) => string> = {
  unknown: (truly) =>
    `: a meter of true effective values shows that, one that averages ${volts(truly * FORM_FACTOR)}, since it takes every wave for a sine`,
  averaging: () => ", times 1.11: a meter that averages takes every wave for a sine",
  effective: () => ", which is its effective value",
};

/** By which a meter that averages multiplies the mean of what it rectifies, so that a sine reads right: pi / (2 sqrt 2). */
const FORM_FACTOR = Math.PI / (2 * Math.SQRT2);

/** Current in the wire between two terminals, with the meter's shunt in its way. */
function measureAmps(
  circuitry: Circuitry,
  red: string,
  black: string,
  state: RailwayState,
  fault: Extra,
): MeterReading {
  const range = "mA" as const;
  const wire = laidWires(circuitry.loom).find(
    ({ from, to }) => (from.key === red && to.key === black) || (from.key === black && to.key === red),
  );
  const nothing = (reckoned: string, caution?: string): MeterReading => {
    return { range, value: null, tolerance: 0, corner: 0, ac: false, reckoned, ...(caution ? { caution } : {}) };
  };
  if (!wire) {
    return nothing(
      "On mA the meter takes the place of a wire. Put the probes on the two ends of one wire.",
      "Across anything else it is a short circuit: it blows the meter's fuse, or worse.",
    );
  }
  const id = wire.element;
  const extra: Extra = { ...fault, added: { wire: id, ohms: SHUNT_OHMS } };
  const ohms = wire.ohms + SHUNT_OHMS;
  const flowing = (at: RailwayState) => {
    const solved = circuitry.solveWith(red, at, extra);
    if (!solved) return null;
    const changes = changesIn(circuitry.record, solved, red, black);
    const shut = shutWords(circuitry, solved.point);
    return { value: voltsBetween(solved.circuit, red, black) / ohms, changes, shut };
  };
  const isOnTrack = circuitry.isOnTrack(red);
  const one = flowing(isOnTrack ? { ...state, half: 1 } : state);
  if (!one) return nothing("Nothing is joined to these terminals.");
  const inWire = `The current in ${wire.label}, taken off at one end, with the meter's ${SHUNT_OHMS} ohm in its way`;
  const other = isOnTrack ? flowing({ ...state, half: -1 }) : null;
  const most = Math.max(Math.abs(one.value), Math.abs(other?.value ?? 0));
  const caution = most > FUSE_AMPS ? { caution: FUSE_CAUTION } : {};
  if (other) {
    const { value, changes, mean, ac } = ofBothHalves(one, other);
    const band = bandAround(range, value, ac, changes, 1 / ohms);
    const what = ac
      ? `on the track's square wave: half of its swing on AC; on DC the mean of the two half cycles, ${milliamps(mean * 1000)}`
      : "the mean of the two half cycles of the track";
    return saying(one.shut || other.shut, {
      ...{ range, value, ...band, ac, reckoned: `${inWire}, ${what}.` },
      ...caution,
    });
  }
  const ac = circuitry.isAlternating(red) && circuitry.isAlternating(black);
  const scale = ac ? Math.SQRT1_2 : 1;
  const value = one.value * scale;
  const band = bandAround(range, value, ac, one.changes, scale / ohms);
  return saying(one.shut, { range, value, ...band, ac, reckoned: `${inWire}.`, ...caution });
}

/** Supplies that have shut down in a solved state, and what was asked of them; empty when none has. */
function shutWords({ record }: Circuitry, { shut, prospective }: OperatingPoint): string {
  return [...shut]
    .map((inside) => {
      const { label } = deviceOf(record, inside.slice(0, inside.indexOf(".")));
      return ` ${label} has shut down: ${amps(Math.abs(prospective.amps(inside) ?? 0))} would flow.`;
    })
    .join("");
}

/** A reading with something more said of how it came about. */
function saying(more: string, reading: MeterReading): MeterReading {
  return more === "" ? reading : { ...reading, reckoned: reading.reckoned + more };
}

/** Fuse of the milliamp range of a common meter, amps (common practice: 0.2 to 0.5). */
const FUSE_AMPS = 0.2;
const FUSE_CAUTION =
  "More than 200 mA: the fuse of a meter's milliamp range opens. Use its range of 10 A with the lead in the other socket, or read the volts across something whose ohms are known.";

function probes(red: string, black: string, range: "V" | "ohm" | "diode"): Element[] {
  if (range === "V") return [{ kind: "resistor", id: "meter", nodes: [red, black], ohms: METER_OHMS }];
  const [volts, ohms] = range === "diode" ? [DIODE_VOLTS, DIODE_OHMS] : [TEST_VOLTS, TEST_OHMS];
  return [
    { kind: "voltage", id: "meter.emf", nodes: ["meter", black], volts },
    { kind: "resistor", id: "meter.inside", nodes: ["meter", red], ohms },
  ];
}

function voltsBetween(circuit: Circuit, plus: string, minus: string): number {
  return circuit.point().between(plus, minus) ?? 0;
}

function reckonVolts(ac: boolean, state: RailwayState): string {
  if (ac) return "Effective value of the alternating supply.";
  if (state.moment === "rest") return "Everything at rest, the meter's 10 Mohm included.";
  return state.moment === "held"
    ? "The control held long after the throw, the meter's 10 Mohm included."
    : "While it is thrown: a coil in the first instant of its pulse, a stall motor on its way.";
}
