import type { DeviceType } from "../catalogue/deviceType.ts";
import { opensFrom, protectionOf } from "../catalogue/protection.ts";
import { traitsOf } from "../catalogue/traits.ts";
import type { Element } from "../circuit/elements.ts";
import type { OperatingPoint } from "../circuit/solution.ts";
import type { Member } from "./piece.ts";

/** The supplies of a piece that shut down by themselves, and from which current on, amps, by the name of their inside resistance. */
export function shutDownsOf(members: readonly Member[]): ReadonlyMap<string, number> {
  return new Map(
    members.flatMap(({ device, type }) => {
      const from = shutsDownFrom(type);
      return Number.isFinite(from) ? [[`${device.id}.inside`, from] as const] : [];
    }),
  );
}

/**
 * The current from which a supply switches itself off at once, amps; infinite where none does. Regulated supplies and the track's
 * command station do so by electronics; a transformer's cut-out takes seconds, and what it gives until then its windings decide.
 */
function shutsDownFrom(type: DeviceType): number {
  const { gives } = traitsOf(type);
  return type.family === "supply" && (gives === "dc" || gives === "track")
    ? opensFrom(protectionOf(type))
    : Number.POSITIVE_INFINITY;
}

/**
 * Solves a state in which supplies that are asked for more than they bear shut down, and give nothing: what is left then, which
 * tells what would have flowed.
 * @param shutDowns as of `shutDownsOf`
 * @param solve the circuit with elements that may stand otherwise than those given
 */
export function solvedWithin(
  elements: readonly Element[],
  shutDowns: ReadonlyMap<string, number>,
  solve: (elements: readonly Element[]) => OperatingPoint,
): OperatingPoint {
  const asked = solve(elements);
  const shut = new Set<string>();
  for (let point = asked; ; ) {
    const before = shut.size;
    for (const [id, from] of shutDowns) if (Math.abs(point.amps(id) ?? 0) > from) shut.add(id);
    if (shut.size === before) return shut.size === 0 ? asked : point.insteadOf(asked, shut);
    point = solve(elements.map((each) => opened(each, shut)));
  }
}

/** An element as it stands with some switches opened. */
export function opened(element: Element, shut: ReadonlySet<string>): Element {
  return element.kind === "switch" && shut.has(element.id) ? { ...element, closed: false } : element;
}
