import { traitsOf } from "../catalogue/traits.ts";
import type { Circuitry } from "../readings/circuitry.ts";
import type { Piece } from "../readings/pieces.ts";
import { AT_REST } from "../readings/threadReading.ts";
import { continuousAmps } from "../units/gauge.ts";
import type { Swept } from "./screen.ts";
import { type Sweep, sweep } from "./sweep.ts";

const known = new WeakMap<Piece, Sweep>();

/** What can go wrong in each piece of a railway by anything that can be set, in the order of its pieces. */
export function sweepsOf(circuitry: Circuitry): Sweep[] {
  let bears: ReadonlyMap<string, number> | null = null;
  return circuitry.pieces.map((piece, number) => {
    const before = known.get(piece);
    if (before) return before;
    bears ??= bearsOf(circuitry);
    const made = sweep(sweptPiece(circuitry, number, bears));
    known.set(piece, made);
    return made;
  });
}

/** What each wire of a railway bears for long, amps, by its name in the circuit. */
export function bearsOf({ loom }: Circuitry): Map<string, number> {
  return new Map(loom.wires.map((wire) => [wire.element, continuousAmps(wire.gauge)]));
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
