import { findType } from "../catalogue/catalogue.ts";
import type { Circuit } from "../circuit/circuit.ts";
import type { Element } from "../circuit/elements.ts";
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

/**
 * What the tolerances of the parts' figures can change of the volts between two nodes of a solved circuit, found from the adjoint
 * network about the solution. All parts of a device that go by one figure differ together.
 */
export function spreadBetween(
  record: RailwayRecord,
  circuit: Circuit,
  parts: readonly DevicePart[],
  plus: string,
  minus: string,
): Spread {
  return spreadsIn(record, circuit, parts)(plus, minus);
}

/** The same for any two nodes of one solved circuit: what its regulators answer is found once. */
export function spreadsIn(
  record: RailwayRecord,
  circuit: Circuit,
  parts: readonly DevicePart[],
): (plus: string, minus: string) => Spread {
  const point = circuit.point();
  const placeOf = (element: Element) => circuit.indexOf.get(element.id) ?? 0;
  // a regulator undoes what changes its output, and thereby changes what is looked at
  const held = parts.flatMap(({ element }) => {
    if (element.kind !== "voltage" || !element.holds || !circuit.isHolding(placeOf(element))) return [];
    return [{ source: placeOf(element), answers: circuit.adjoint(...element.holds.nodes) }];
  });
  const toleranced = parts.flatMap(({ element, figure, deviceId }) => {
    const device = figure === null ? undefined : find(record, "device", deviceId);
    const tolerance = (figure && device && findType(record, device.typeId)?.figures[figure]?.tolerance) || 0;
    return tolerance === 0 ? [] : [{ element, index: placeOf(element), key: `${deviceId} ${figure}`, tolerance }];
  });
  return (plus, minus) => {
    const adjoint = throughRegulators(circuit.adjoint(plus, minus), held);
    const changes = new Map<string, number>();
    for (const { element, index, key, tolerance } of toleranced) {
      const change =
        element.kind !== "voltage"
          ? (adjoint.volts[index] ?? 0) * (point.amps(element.id) ?? 0)
          : element.holds
            ? // one at its drop-out passes its supply on, and nothing of its own
              (adjoint.undone.get(index) ?? 0) * element.holds.volts
            : (adjoint.amps[index] ?? 0) * element.volts;
      changes.set(key, (changes.get(key) ?? 0) + change * tolerance);
    }
    return combined([...changes.values()]);
  };
}

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
  let { volts, amps } = answers;
  for (const { source, answers: own } of held) {
    const answer = own.amps[source] ?? 0;
    if (answer === 0) continue;
    const share = (amps[source] ?? 0) / answer;
    undone.set(source, share);
    if (Math.abs(share) < NEGLIGIBLE) continue;
    volts = volts.map((each, index) => each - share * (own.volts[index] ?? 0));
    amps = amps.map((each, index) => each - share * (own.amps[index] ?? 0));
  }
  return { volts, amps, undone };
}

/** What a regulator elsewhere does to a voltage, volts per volt, up to which it does nothing. */
const NEGLIGIBLE = 1e-6;

/** Changes that have nothing to do with each other, taken together. @param changes at the end of each one's tolerance */
export function combined(changes: readonly number[]): Spread {
  return {
    corner: changes.reduce((sum, each) => sum + Math.abs(each), 0),
    sigma: Math.sqrt(changes.reduce((sum, each) => sum + (each * UNIFORM) ** 2, 0)),
  };
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
  return sigma === 0 ? (value < limit ? 1 : 0) : normalBelow((limit - value) / sigma);
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
