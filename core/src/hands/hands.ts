import { traitsOf } from "../catalogue/traits.ts";
import { type Loom, screwIdOf } from "../loom/wire.ts";
import type { Circuitry } from "../readings/circuitry.ts";
import type { Piece } from "../readings/pieces.ts";
import { AT_REST } from "../readings/threadReading.ts";
import { continuousAmps } from "../units/gauge.ts";
import type { Swept } from "./screen.ts";
import { type Sweep, sweep } from "./sweep.ts";

/** Sweeps of pieces, with what the pins of plugs bore on which their wires end. */
const known = new WeakMap<Piece, { made: Sweep; pins: string }>();

/** What can go wrong in each piece of a railway by anything that can be set, in the order of its pieces. */
export function sweepsOf(circuitry: Circuitry): Sweep[] {
  let bears: ReadonlyMap<string, number> | null = null;
  const limits = pinLimits(circuitry.loom);
  return circuitry.pieces.map((piece, number) => {
    const own = limits.size === 0 ? [] : piece.wires.flatMap(({ id }) => limits.get(id) ?? []);
    const pins = own.join();
    const before = known.get(piece);
    if (before?.pins === pins) return before.made;
    bears ??= bearsOf(circuitry);
    const made = sweep(sweptPiece(circuitry, number, bears));
    known.set(piece, { made, pins });
    return made;
  });
}

/**
 * What each wire of a railway bears for long, amps, by its name in the circuit: by its gauge, and by the pins of the plugs on
 * which it ends.
 */
export function bearsOf({ loom }: Circuitry): Map<string, number> {
  const pins = pinLimits(loom);
  return new Map(
    loom.wires.map(({ element, gauge }) => [
      element,
      Math.min(continuousAmps(gauge), pins.get(element) ?? Number.POSITIVE_INFINITY),
    ]),
  );
}

/** What a pin bears on which a wire ends, amps, by the wire's name in the circuit; only wires that end on plugs. */
export function pinLimits({ strips, wires }: Loom): Map<string, number> {
  const plugs = new Map(strips.flatMap(({ id, pinAmps }) => (pinAmps === null ? [] : [[id, pinAmps] as const])));
  const limits = new Map<string, number>();
  if (plugs.size === 0) return limits;
  for (const { element, from, to } of wires)
    for (const { key, of } of [from, to]) {
      const amps = of ? undefined : plugs.get(screwIdOf(key));
      if (amps !== undefined) limits.set(element, Math.min(amps, limits.get(element) ?? amps));
    }
  return limits;
}

/** A piece of a railway as it is swept. */
export function sweptPiece(circuitry: Circuitry, number: number, bears: ReadonlyMap<string, number>): Swept {
  const piece = circuitry.pieces[number] as Piece;
  const { members, wires } = piece;
  const own = new Map(wires.map(({ id }) => [id, bears.get(id) ?? Number.POSITIVE_INFINITY]));
  return {
    members,
    states: circuitry.statesOf(piece, AT_REST.N),
    wires,
    elementsOf: (place, state) => circuitry.elementsIn(number, members[place] as (typeof members)[number], state),
    fedBy: (deviceId) => circuitry.fedBy(deviceId),
    effective: (node) => (circuitry.isAlternating(node) ? Math.SQRT1_2 : 1),
    feederOf: (deviceId) => circuitry.feederOf(deviceId),
    bears: own,
    leastBorne: Math.min(Number.POSITIVE_INFINITY, ...own.values()),
    alternates: members.some(({ type }) => traitsOf(type).alternating),
    solve: (states) => circuitry.solveAs(number, states),
  };
}
