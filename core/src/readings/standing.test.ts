// How devices stand is put together of what most states share: it has to be what each of them does by itself.
import fc from "fast-check";
import { expect, it } from "vitest";
import { EXHIBITS, randomRailway } from "../../testing/exhibits.ts";
import { Derived } from "../derive.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { controlsOf } from "../schematic/thread.ts";
import { Behaviour } from "./behaviour.ts";
import { Roles } from "./roles.ts";
import { Standing } from "./standing.ts";
import { EVERY, type Moment, type RailwayState } from "./states.ts";

/** States of a railway with turnouts chosen by numbers: asked, thrown by any of their controls, thrown along. */
const chosen = fc.record({
  reversed: fc.array(fc.nat(), { maxLength: 3 }),
  otherwise: fc.constantFrom("N" as const, "R" as const),
  moment: fc.constantFrom<Moment>("rest", "throwing", "held"),
  acting: fc.option(fc.nat()),
  by: fc.option(fc.nat()),
  along: fc.array(fc.nat(), { maxLength: 2 }),
  every: fc.constantFrom(false, false, true),
  off: fc.boolean(),
  half: fc.constantFrom(1 as const, -1 as const),
});

type Chosen = typeof chosen extends fc.Arbitrary<infer T> ? T : never;

function stateOf({ schematic: { threads } }: Derived, each: Chosen): RailwayState {
  const at = (number: number) => threads[number % threads.length];
  const leader = (number: number) => at(number)?.turnout.id ?? "";
  const acting = each.acting === null ? undefined : at(each.acting);
  const other = each.otherwise === "N" ? "R" : "N";
  const controls = acting ? controlsOf(acting) : [];
  const by = each.by === null ? undefined : controls[each.by % controls.length]?.assignment.id;
  return {
    ...{ otherwise: each.otherwise, moment: each.moment, off: each.off, half: each.half },
    asked: Object.fromEntries(each.reversed.map((number) => [leader(number), other])),
    acting: each.every ? EVERY : (acting?.turnout.id ?? null),
    ...(by === undefined ? {} : { by }),
    also: new Map(each.along.map((number) => [leader(number), null])),
  };
}

function expectAlike(record: RailwayRecord, all: readonly Chosen[]): void {
  const derived = new Derived(record);
  const { circuitry, schematic } = derived;
  if (schematic.threads.length === 0) return;
  const roles = new Roles(record, schematic);
  const behaviour = new Behaviour(roles, circuitry);
  const standing = new Standing(roles, behaviour);
  for (const state of all.map((each) => stateOf(derived, each)))
    for (const piece of circuitry.pieces)
      expect(standing.in(piece, state).states).toEqual(piece.members.map((each) => behaviour.stateOf(each, state)));
}

it.each(Object.keys(EXHIBITS))("puts together how the devices of %s stand", (name) => {
  const record = EXHIBITS[name]?.();
  if (!record) throw new Error("No such exhibit.");
  fc.assert(
    fc.property(fc.array(chosen, { minLength: 6, maxLength: 6 }), (states) => expectAlike(record, states)),
    { numRuns: 3 },
  );
});

it("does so for any railway", () => {
  fc.assert(fc.property(randomRailway(), fc.array(chosen, { minLength: 4, maxLength: 4 }), expectAlike), {
    numRuns: 60,
  });
});
