import { traitsOf } from "../catalogue/traits.ts";
import { bearsOf } from "../loom/bears.ts";
import { wiresByEnd } from "../loom/reach.ts";
import { type Loom, screwIdOf } from "../loom/wire.ts";
import type { Circuitry } from "../readings/circuitry.ts";
import type { Piece } from "../readings/piece.ts";
import { AT_REST } from "../readings/threadReading.ts";
import { atOnce, type Steps } from "../record/steps.ts";
import type { Swept } from "./screen.ts";
import { type Sweep, sweep } from "./sweep.ts";

/** Sweeps of pieces, with what the pins of plugs bore on which their wires end. */
const known = new WeakMap<Piece, { made: Sweep; pins: string }>();

/** What can go wrong in each piece of a railway by anything that can be set, in the order of its pieces. */
export function sweepsOf(circuitry: Circuitry): Sweep[] {
  const limits = pinLimits(circuitry.loom);
  return circuitry.pieces.map((_, number) => atOnce(sweepOf(circuitry, number, limits)));
}

/** The same in steps, for pieces that were not swept before: how far it is at each of them, 0 to 1. */
export function* sweeping(circuitry: Circuitry): Generator<number, void> {
  const limits = pinLimits(circuitry.loom);
  for (const number of circuitry.pieces.keys())
    for (const _ of sweepOf(circuitry, number, limits)) yield number / circuitry.pieces.length;
}

function* sweepOf(circuitry: Circuitry, number: number, limits: ReadonlyMap<string, number>): Steps<Sweep> {
  const piece = circuitry.pieces[number] as Piece;
  if (!piece.canFlow) return NOTHING;
  const pins = limits.size === 0 ? "" : piece.wires.flatMap(({ id }) => limits.get(id) ?? []).join();
  const before = known.get(piece);
  if (before?.pins === pins) return before.made;
  const made = yield* sweep(sweptPiece(circuitry, number, limits));
  known.set(piece, { made, pins });
  return made;
}

/** What comes of a piece in which nothing can flow. */
const NOTHING: Sweep = { found: [], worst: { when: [], blocked: false, given: new Map() } };

/**
 * What each wire of a piece bears for long, amps, by its name in the circuit: by its gauge, and by the pins of the plugs on
 * which it ends.
 */
function bearsIn({ wires }: Piece, loom: Loom, pins: ReadonlyMap<string, number>): Map<string, number> {
  const at = wiresByEnd(loom);
  return new Map(
    wires.map(({ id, nodes }) => {
      const laid = at.get(nodes[0])?.find(({ element }) => element === id);
      const byGauge = laid ? bearsOf(loom, laid) : Number.POSITIVE_INFINITY;
      return [id, Math.min(byGauge, pins.get(id) ?? Number.POSITIVE_INFINITY)];
    }),
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

/** A piece of a railway as it is swept. @param pins what pins of plugs bear, amps, by the wires that end on them */
export function sweptPiece(circuitry: Circuitry, number: number, pins: ReadonlyMap<string, number>): Swept {
  const piece = circuitry.pieces[number] as Piece;
  const { members, wires } = piece;
  const own = bearsIn(piece, circuitry.loom, pins);
  const alternates = members.some(({ type }) => traitsOf(type).alternating);
  return {
    members,
    states: circuitry.statesOf(piece, AT_REST.N),
    wires,
    elementsOf: (place, state) => circuitry.elementsIn(number, members[place] as (typeof members)[number], state),
    fedBy: (deviceId) => circuitry.fedBy(deviceId),
    effective: (node) => (alternates && circuitry.isAlternating(node) ? Math.SQRT1_2 : 1),
    feederOf: (deviceId) => circuitry.feederOf(deviceId),
    bears: own,
    leastBorne: Math.min(Number.POSITIVE_INFINITY, ...own.values()),
    alternates,
    solve: (states) => circuitry.solveAs(number, states),
  };
}
