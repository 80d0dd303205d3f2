import { findType } from "../catalogue/catalogue.ts";
import type { Element } from "../circuit/elements.ts";
import type { Circuitry, RailwayState, Tweak } from "./circuitry.ts";

export type Range = "V" | "ohm";

/** What a real hand-held meter should show between two terminals. */
export interface MeterReading {
  range: Range;
  /** Volts or ohms; null when the meter shows open. */
  value: number | null;
  /** Half-width of the band that passes: parts' tolerances and the meter's own. */
  tolerance: number;
  /** The reading is the effective value of an alternating voltage. */
  ac: boolean;
  /** How it came about, in a plain sentence. */
  reckoned: string;
}

/** Input resistance of a common digital meter, ohms (common practice). */
const METER_OHMS = 10e6;
/** Test voltage and inside resistance on the ohm range (common practice): too little to light an LED. */
const TEST_VOLTS = 0.2;
const TEST_OHMS = 1000;
/** Above this the display shows open, ohms (common practice). */
const OPEN_ABOVE = 20e6;
/** The meter's own uncertainty: share of the reading, and the last digits (common practice). */
const METER_SHARE = 0.01;
const METER_DIGITS = { V: 0.02, ohm: 0.1 };

/**
 * The reading between two terminals in a state of the railway.
 *
 * Volts are solved with the meter's input resistance across the terminals; ohms with the supplies off and the meter's
 * own test voltage. The tolerance adds what each toleranced figure of the parts in the piece changes by itself.
 * @param red terminal under the red probe, `deviceId:terminal` or a strip's screw
 * @param black terminal under the black probe
 */
export function measure(
  circuitry: Circuitry,
  red: string,
  black: string,
  range: Range,
  state: RailwayState,
): MeterReading {
  const at: RailwayState = range === "ohm" ? { ...state, moment: "rest", acting: null, off: true } : state;
  const read = (tweak?: Tweak) => rawReading(circuitry, red, black, range, at, tweak);
  const nominal = read();
  const ac = range === "V" && circuitry.isAlternating(red) && circuitry.isAlternating(black);
  const scale = ac ? Math.SQRT1_2 : 1;
  if (nominal === null) {
    const reckoned =
      range === "ohm"
        ? "Nothing conducts between the two probes."
        : "Nothing joins the two probes, so there is no steady voltage.";
    return { range, value: null, tolerance: 0, ac, reckoned };
  }
  let spread = METER_DIGITS[range] + METER_SHARE * Math.abs(nominal);
  for (const tweak of tweaksFor(circuitry, red)) spread += Math.abs((read(tweak) ?? nominal) - nominal);
  return { range, value: nominal * scale, tolerance: spread * scale, ac, reckoned: reckon(range, ac, at) };
}

function rawReading(
  circuitry: Circuitry,
  red: string,
  black: string,
  range: Range,
  state: RailwayState,
  tweak?: Tweak,
): number | null {
  if (red === black) return 0;
  const piece = circuitry.piece(red);
  if (piece === undefined || piece !== circuitry.piece(black)) return null;
  const extra = { key: `${range} ${red} ${black}`, elements: probes(red, black, range) };
  if (range === "V") {
    const loose = circuitry.volts(red, black, state, tweak);
    return loose === undefined ? null : (circuitry.volts(red, black, state, tweak, extra) ?? null);
  }
  const solved = circuitry.solve(red, state, tweak, extra);
  const amps = -(solved?.amps.get("meter.emf") ?? 0);
  const ohms = TEST_VOLTS / amps - TEST_OHMS;
  return amps > 0 && ohms < OPEN_ABOVE ? Math.max(0, ohms) : null;
}

function probes(red: string, black: string, range: Range): Element[] {
  if (range === "V") return [{ kind: "resistor", id: "meter", nodes: [red, black], ohms: METER_OHMS }];
  return [
    { kind: "voltage", id: "meter.emf", nodes: ["meter", black], volts: TEST_VOLTS },
    { kind: "resistor", id: "meter.inside", nodes: ["meter", red], ohms: TEST_OHMS },
  ];
}

/** One change for each toleranced figure of the devices in the piece: up by its tolerance. */
function tweaksFor(circuitry: Circuitry, key: string): Tweak[] {
  const { record } = circuitry;
  return circuitry.devicesWith(key).flatMap((device) =>
    Object.entries(findType(record, device.typeId)?.figures ?? {})
      .filter(([, figure]) => figure.tolerance > 0)
      .map(([figure, { tolerance }]) => ({ deviceId: device.id, figure, factor: 1 + tolerance })),
  );
}

function reckon(range: Range, ac: boolean, state: RailwayState): string {
  if (range === "ohm") return "Supplies off and capacitors empty; all ways between the probes counted.";
  if (ac) return "Effective value of the alternating supply.";
  return state.moment === "rest"
    ? "Everything at rest, the meter's 10 Mohm included."
    : "While it is thrown: a coil in the first instant of its pulse, a stall motor on its way.";
}
