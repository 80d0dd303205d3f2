import { findType } from "../catalogue/catalogue.ts";
import type { Circuit } from "../circuit/circuit.ts";
import type { Element } from "../circuit/elements.ts";
import type { OperatingPoint } from "../circuit/solution.ts";
import { find } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { DevicePart } from "./kit.ts";

/** How far a voltage may be from the solved one because single parts differ from their figures. Volts. */
export interface Spread {
  /** Every part at the end of its tolerance that changes it the same way. */
  corner: number;
  /** Standard deviation, parts independent of each other and each anywhere within its tolerance alike. */
  sigma: number;
}

/** No part differs. */
export const NO_SPREAD: Spread = { corner: 0, sigma: 0 };

/** Standard deviation of what is anywhere between two ends alike, by half of their distance. */
const UNIFORM = 1 / Math.sqrt(3);

/** Ohms of copper between 5 and 35 C, as a share of those at 20 C (3.93e-3 a kelvin: IEC 60028). */
const COPPER_SHARE = 0.00393 * 15;
/** By how much one rectifier's drop differs from another's, or from its own when it is warm, volts (common practice). */
const RECTIFIER_VOLTS = 0.05;

/** A piece of the railway, solved. */
export interface Solved {
  circuit: Circuit;
  point: OperatingPoint;
  parts: readonly DevicePart[];
  wires: readonly Element[];
  /** Brings a circuit that others use as well back to the solution; nothing where nobody else does. */
  bringBack?: () => void;
}

/** What single builds differ in: all that goes by one key differs together, by as much of its own extent. */
export interface Variation {
  key: string;
  /** Place of the element in the circuit. */
  index: number;
  element: Element;
  /** At the end of the tolerance: a share of the element's own value, or the volts that a diode drops more. */
  share: number;
  volts: number;
}

/** All in which builds of a circuit differ: parts by the tolerance of their figure, diodes by their drop, copper by its temperature. */
export function variationsOf(record: RailwayRecord, { circuit, parts, wires }: Solved): Variation[] {
  const found: Variation[] = [];
  const add = (element: Element, key: string, share: number, volts = 0) =>
    found.push({ key, index: circuit.indexOf.get(element.id) ?? 0, element, share, volts });
  for (const { element, figure, deviceId } of parts) {
    const device = figure === null ? undefined : find(record, "device", deviceId);
    const own = figure && device ? findType(record, device.typeId)?.figures[figure] : undefined;
    const tolerance = own?.tolerance ?? 0;
    if (element.kind === "diode") {
      if (own) add(element, `${deviceId} ${figure}`, 0, own.value * tolerance);
      else add(element, element.id, 0, RECTIFIER_VOLTS);
    } else if (tolerance > 0) add(element, `${deviceId} ${figure}`, tolerance);
    if (element.kind === "coil") add(element, COPPER, COPPER_SHARE);
  }
  for (const element of wires) if (element.kind === "resistor") add(element, COPPER, COPPER_SHARE);
  return found;
}

const COPPER = "copper";

/** What each of the things in which builds differ changes of the volts between two nodes of a solved circuit. */
export type Changes = ReadonlyMap<string, number>;

/** The same between any two nodes, by the places of the things' keys. */
export interface Changing {
  keys: readonly string[];
  between(plus: string, minus: string): Float64Array;
}

/** Where nothing is joined, nothing differs. */
export const NO_CHANGING: Changing = { keys: [], between: () => new Float64Array(0) };

/** What builds that differ change of the volts between two nodes of a solved circuit. */
export function changesIn(record: RailwayRecord, solved: Solved, plus: string, minus: string): Changes {
  const { keys, between } = changingIn(record, solved);
  const changes = between(plus, minus);
  return new Map(keys.map((key, number) => [key, changes[number] as number]));
}

/**
 * What builds that differ change of the volts between any two nodes of one solved circuit, found from the adjoint network about the
 * solution.
 */
export function changingIn(record: RailwayRecord, solved: Solved): Changing {
  const { circuit, parts } = solved;
  const point = circuit.point();
  // a regulator undoes what changes its output, and thereby changes what is looked at
  const held = parts.flatMap(({ element }) => {
    const source = circuit.indexOf.get(element.id) ?? 0;
    if (element.kind !== "voltage" || !element.holds || !circuit.isHolding(source)) return [];
    return [{ source, answers: circuit.adjoint(...element.holds.nodes) }];
  });
  const numberOf = new Map<string, number>();
  const weighed: Weighed[] = [];
  for (const each of variationsOf(record, solved)) {
    const number = numberOf.get(each.key) ?? numberOf.size;
    numberOf.set(each.key, number);
    const own = weigh(each, point, number);
    if (own.weight !== 0) weighed.push(own);
  }
  const between = (plus: string, minus: string) => {
    solved.bringBack?.();
    return summed(weighed, throughRegulators(circuit.adjoint(plus, minus), held), numberOf.size);
  };
  return { keys: [...numberOf.keys()], between };
}

/** A variation with the answer of a voltage by which it changes that, its weight there, and the number of its key. */
interface Weighed {
  by: "volts" | "amps" | "undone";
  weight: number;
  index: number;
  number: number;
}

function weigh({ element, index, share, volts }: Variation, point: OperatingPoint, number: number): Weighed {
  if (element.kind === "diode") return { by: "amps", weight: volts, index, number };
  if (element.kind !== "voltage")
    return { by: "volts", weight: point.ampsAt(index) * conductanceShare(share), index, number };
  // a regulator at its drop-out passes its supply on, and nothing of its own
  return element.holds
    ? { by: "undone", weight: element.holds.volts * share, index, number }
    : { by: "amps", weight: element.volts * share, index, number };
}

/** What all that goes by a key changes together, by the keys' numbers. */
function summed(
  weighed: readonly Weighed[],
  { volts, amps, undone }: ReturnType<typeof throughRegulators>,
  count: number,
): Float64Array {
  const changes = new Float64Array(count);
  for (const { by, weight, index, number } of weighed) {
    const answer = by === "volts" ? volts[index] : by === "amps" ? amps[index] : undone.get(index);
    changes[number] = (changes[number] as number) + (answer ?? 0) * weight;
  }
  return changes;
}

/** Half of the distance between the conductances of a resistance at both ends of its tolerance, as a share: more than that of its ohms. */
const conductanceShare = (share: number) => share / (1 - share ** 2);

/** How a voltage answers to each element. */
type Answers = ReturnType<Circuit["adjoint"]>;

/**
 * Answers of a voltage while regulators hold their outputs: each takes as much more or less as brings its output back, and what that
 * does to the voltage is added. Regulators that stand one behind the other are taken one after the other.
 * @returns the answers, and what one volt more at each regulator's output does
 */
function throughRegulators(
  answers: Answers,
  held: readonly { source: number; answers: Answers }[],
): Answers & { undone: Map<number, number> } {
  const undone = new Map<number, number>();
  const [volts, amps] = [answers.volts.slice(), answers.amps.slice()];
  for (const { source, answers: own } of held) {
    const answer = own.amps[source] ?? 0;
    if (answer === 0) continue;
    const share = (amps[source] ?? 0) / answer;
    undone.set(source, share);
    if (Math.abs(share) < NEGLIGIBLE) continue;
    takeAway(volts, own.volts, share);
    takeAway(amps, own.amps, share);
  }
  return { volts, amps, undone };
}

/** Takes a share of each of some values away, in a loop of its own: `map` takes ten times as long. */
function takeAway(from: Float64Array, values: Float64Array, share: number): void {
  for (let index = 0; index < from.length; index++)
    from[index] = (from[index] as number) - share * (values[index] as number);
}

/** What a regulator elsewhere does to a voltage, volts per volt, up to which it does nothing. */
const NEGLIGIBLE = 1e-6;

/** Changes that have nothing to do with each other, taken together. @param changes at the end of each one's tolerance */
export function combined(changes: Iterable<number>): Spread {
  let [corner, squares] = [0, 0];
  for (const change of changes) {
    corner += Math.abs(change);
    squares += (change * UNIFORM) ** 2;
  }
  return { corner, sigma: Math.sqrt(squares) };
}

/**
 * Standard deviations that hold 98 % of what parts make together, by the excess kurtosis of their sum: 1.70 for one part alone, which
 * is anywhere within its tolerance alike, 2.10 for two that do as much, 2.33 for many (uniform, triangular and normal distribution).
 */
const sigmasFor = (excess: number) => 2.326 + 0.2192 * excess - 0.2542 * excess ** 2;

/** Half-width of the band in which some 98 of 100 sound builds lie, by the variances of what differs. */
export function bandOf(changes: readonly number[]): number {
  const squares = changes.reduce((sum, each) => sum + each ** 2, 0);
  const fourths = changes.reduce((sum, each) => sum + each ** 4, 0);
  if (squares === 0) return 0;
  return sigmasFor((-1.2 * fourths) / squares ** 2) * Math.sqrt(squares) * UNIFORM;
}

/**
 * Share of builds in which a value is below a limit, both of them spread. What parts that are anywhere within their tolerance can
 * never reach is none, whatever a bell curve says.
 * @returns 0 to 1
 */
export function shareBelow(value: number, spread: Spread, limit: number, limitTolerance: number): number {
  const all = combined([limit * limitTolerance]);
  const [corner, sigma] = [spread.corner + all.corner, Math.hypot(spread.sigma, all.sigma)];
  if (value - corner >= limit) return 0;
  if (value + corner <= limit) return 1;
  if (sigma === 0) return value < limit ? 1 : 0;
  // one part alone is anywhere alike; two that do as much are near enough to a bell
  const alone = Math.max(0, (Math.SQRT2 - (corner / sigma) * UNIFORM) / (Math.SQRT2 - 1));
  const evenly = (limit - value + corner) / (2 * corner);
  return alone * evenly + (1 - alone) * normalBelow((limit - value) / sigma);
}

/**
 * Share of a normal distribution below so many standard deviations.
 *
 * Source: Abramowitz, Stegun, Handbook of Mathematical Functions, 26.2.17; within 7.5e-8.
 */
export function normalBelow(deviations: number): number {
  const t = 1 / (1 + 0.2316419 * Math.abs(deviations));
  const terms = [0.31938153, -0.356563782, 1.781477937, -1.821255978, 1.330274429];
  const sum = terms.reduce((total, term, index) => total + term * t ** (index + 1), 0);
  const tail = (Math.exp(-(deviations ** 2) / 2) / Math.sqrt(2 * Math.PI)) * sum;
  return deviations < 0 ? tail : 1 - tail;
}
