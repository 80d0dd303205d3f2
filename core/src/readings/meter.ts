import type { Circuit } from "../circuit/circuit.ts";
import type { Element } from "../circuit/elements.ts";
import { laidWires } from "../loom/laidWires.ts";
import { milliamps, volts } from "../units/format.ts";
import type { Circuitry, Extra } from "./circuitry.ts";
import { spreadBetween } from "./spread.ts";
import type { RailwayState } from "./states.ts";

export type Range = "V" | "ohm" | "mA" | "diode";

/** What a real hand-held meter should show between two terminals. */
export interface MeterReading {
  range: Range;
  /** Volts, ohms or amps; null when the meter shows open, or stands where it can show nothing. */
  value: number | null;
  /** Half-width of the band that passes: parts' tolerances and the meter's own. */
  tolerance: number;
  /** The reading is the effective value of an alternating voltage or current. */
  ac: boolean;
  /** How it came about, in a plain sentence. */
  reckoned: string;
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
/** The meter's own uncertainty: share of the reading, and the last digits (common practice). */
const METER_SHARE = 0.01;
const METER_DIGITS = { V: 0.02, ohm: 0.1, mA: 0.0001, diode: 0.03 };
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
 * test voltage; a diode with some milliamp from red to black; milliamps with the meter's shunt in the place of the wire that joins the two. The tolerance adds up what
 * each toleranced figure of the parts changes by itself, found from the adjoint network about the solution.
 * @param red terminal under the red probe, `deviceId:terminal` or a strip's screw as "k1/3"
 * @param black terminal under the black probe
 * @param fault what is amiss in the circuit; nothing when not said
 */
export function measure(
  circuitry: Circuitry,
  red: string,
  black: string,
  range: Range,
  state: RailwayState,
  fault: Extra = SOUND,
): MeterReading {
  if (range === "mA") return measureAmps(circuitry, red, black, state);
  const isOff = range === "ohm" || range === "diode";
  const at: RailwayState = isOff ? { ...state, moment: "rest", acting: null, off: true } : state;
  const ac = range === "V" && circuitry.isAlternating(red) && circuitry.isAlternating(black);
  const reckoned = range === "diode" ? RECKONED_DIODE : range === "ohm" ? RECKONED_OFF : reckonVolts(ac, at);
  if (red === black) return { range, value: 0, tolerance: METER_DIGITS[range], ac, reckoned };
  const piece = circuitry.piece(red);
  const open = (why: string): MeterReading => ({ range, value: null, tolerance: 0, ac, reckoned: why });
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
    const { circuit, parts } = solved;
    return {
      value: voltsBetween(circuit, red, black),
      spread: spreadBetween(circuitry.record, circuit, parts, red, black).corner,
    };
  };
  const isOnTrack = range === "V" && circuitry.isOnTrack(red);
  const solved = solve(isOnTrack ? 1 : (at.half ?? 1));
  if (!solved) return open("Nothing is joined to these terminals.");
  const { value: across, spread } = solved;
  const otherHalf = isOnTrack ? solve(-1) : null;
  if (otherHalf) return onTrack(solved, otherHalf);
  if (range === "V") {
    const scale = ac ? Math.SQRT1_2 : 1;
    const tolerance = METER_DIGITS.V + METER_SHARE * Math.abs(across) + spread;
    return { range, value: across * scale, tolerance: tolerance * scale, ac, reckoned };
  }
  if (range === "diode") {
    if (across > DIODE_OPEN) return open("Nothing conducts from the red probe to the black one.");
    return { range, value: across, tolerance: METER_DIGITS.diode + METER_SHARE * across, ac, reckoned };
  }
  const left = TEST_VOLTS - across;
  const ohms = left > 0 ? (TEST_OHMS * across) / left : Number.POSITIVE_INFINITY;
  if (!(ohms < OPEN_ABOVE)) return open("Nothing conducts between the two probes.");
  // d(ohms)/d(across) of the divider that the meter's inside resistance makes
  const slope = (TEST_OHMS * TEST_VOLTS) / left ** 2;
  const value = Math.max(0, ohms);
  return { range, value, tolerance: METER_DIGITS.ohm + METER_SHARE * value + slope * spread, ac, reckoned };
}

/** Nothing amiss. */
const SOUND: Extra = { elements: [] };

/** What is read in one half cycle, and how far parts may bring it from that. */
interface Half {
  value: number;
  spread: number;
}

/** Under the track's square wave a meter's DC shows the mean of the two half cycles, its AC half of their difference; what is more is told. */
function ofBothHalves(one: Half, other: Half): Half & { mean: number; ac: boolean } {
  const [mean, swing] = [(one.value + other.value) / 2, Math.abs(one.value - other.value) / 2];
  const ac = swing > Math.abs(mean);
  return { value: ac ? swing : mean, spread: (one.spread + other.spread) / 2, mean, ac };
}

/** Volts under the track's square wave. */
function onTrack(one: Half, other: Half): MeterReading {
  const { value, spread, ac } = ofBothHalves(one, other);
  // which kind of meter it is, nobody has said: what either shows passes
  const byKind = ac ? (FORM_FACTOR - 1) * value : 0;
  const tolerance = METER_DIGITS.V + METER_SHARE * Math.abs(value) + spread + byKind;
  const reckoned = ac
    ? `Half of what the track's square wave swings between the probes; on DC the meter shows next to nothing. A meter that averages shows ${volts(value * FORM_FACTOR)}, since it takes every wave for a sine, and one that does not follow 8 kHz less.`
    : "The mean of the two half cycles of the track.";
  return { range: "V", value, tolerance, ac, reckoned };
}

/** By which a meter that averages multiplies the mean of what it rectifies, so that a sine reads right: pi / (2 sqrt 2). */
const FORM_FACTOR = Math.PI / (2 * Math.SQRT2);

/** Current in the wire between two terminals, with the meter's shunt in its way. */
function measureAmps(circuitry: Circuitry, red: string, black: string, state: RailwayState): MeterReading {
  const range = "mA" as const;
  const wire = laidWires(circuitry.loom).find(
    ({ from, to }) => (from.key === red && to.key === black) || (from.key === black && to.key === red),
  );
  const nothing = (reckoned: string, caution?: string): MeterReading => {
    return { range, value: null, tolerance: 0, ac: false, reckoned, ...(caution ? { caution } : {}) };
  };
  if (!wire) {
    return nothing(
      "On mA the meter takes the place of a wire. Put the probes on the two ends of one wire.",
      "Across anything else it is a short circuit: it blows the meter's fuse, or worse.",
    );
  }
  const id = wire.element;
  const extra: Extra = { elements: [], added: { wire: id, ohms: SHUNT_OHMS } };
  const ohms = wire.ohms + SHUNT_OHMS;
  const flowing = (at: RailwayState) => {
    const solved = circuitry.solveWith(red, at, extra);
    if (!solved) return null;
    const { circuit, parts } = solved;
    const spread = spreadBetween(circuitry.record, circuit, parts, red, black).corner / ohms;
    return { value: voltsBetween(circuit, red, black) / ohms, spread };
  };
  const isOnTrack = circuitry.isOnTrack(red);
  const one = flowing(isOnTrack ? { ...state, half: 1 } : state);
  if (!one) return nothing("Nothing is joined to these terminals.");
  const inWire = `The current in ${wire.label}, taken off at one end, with the meter's ${SHUNT_OHMS} ohm in its way`;
  const other = isOnTrack ? flowing({ ...state, half: -1 }) : null;
  const most = Math.max(Math.abs(one.value), Math.abs(other?.value ?? 0));
  const caution = most > FUSE_AMPS ? { caution: FUSE_CAUTION } : {};
  if (other) {
    const { value, spread, mean, ac } = ofBothHalves(one, other);
    const tolerance = METER_DIGITS.mA + METER_SHARE * Math.abs(value) + spread;
    const what = ac
      ? `on the track's square wave: half of its swing on AC; on DC the mean of the two half cycles, ${milliamps(mean * 1000)}`
      : "the mean of the two half cycles of the track";
    return { range, value, tolerance, ac, reckoned: `${inWire}, ${what}.`, ...caution };
  }
  const ac = circuitry.isAlternating(red) && circuitry.isAlternating(black);
  const scale = ac ? Math.SQRT1_2 : 1;
  const tolerance = METER_DIGITS.mA + METER_SHARE * Math.abs(one.value) + one.spread;
  return { range, value: one.value * scale, tolerance: tolerance * scale, ac, reckoned: `${inWire}.`, ...caution };
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
