// Beside a sound record the same is found as by looking at everything, whatever was done to any of the lists.
import fc from "fast-check";
import { expect, it } from "vitest";
import { randomRailway } from "../../testing/exhibits.ts";
import { LINE_MISTAKES } from "../../testing/lines.ts";
import { ROUTED } from "../../testing/routes.ts";
import { checkTypes } from "../catalogue/checkTypes.ts";
import { checkRecord } from "./checkRecord.ts";
import { KIND_ENTRIES, type RailwayRecord, thingsOf } from "./kinds.ts";

type Thing = Record<string, unknown> & { id: string };

/** Something done to a list that may break a rule: a thing taken out, doubled, or with a field of another one. */
function harmed(record: RailwayRecord, [kind, which, what, other]: readonly number[]): RailwayRecord {
  const filled = KIND_ENTRIES.filter(([each]) => thingsOf(record, each).length > 0);
  if (filled.length === 0) return record;
  const [name, { list }] = filled[kind! % filled.length]!;
  const things = thingsOf(record, name) as unknown as Thing[];
  const thing = things[which! % things.length]!;
  const model = things[other! % things.length]!;
  const fields = Object.keys(thing).filter((field) => field !== "id");
  const field = fields[other! % fields.length]!;
  const now = [
    () => things.filter((each) => each !== thing),
    () => [...things, { ...thing, id: `${thing.id}-again` }],
    () => things.map((each) => (each === thing ? { ...thing, [field]: model[field] } : each)),
    () => [...things],
  ][what! % 4]!();
  return { ...record, [list]: now };
}

const harms = fc.array(fc.tuple(fc.nat(40), fc.nat(60), fc.nat(3), fc.nat(60)), { minLength: 1, maxLength: 3 });

const same = (before: RailwayRecord, deeds: readonly (readonly number[])[]) => {
  const after = deeds.reduce(harmed, before);
  const found = checkRecord(after, before);
  expect(found).toEqual(checkRecord(after));
  // rules of the catalogue hold between things that are there
  if (found.length === 0) expect(checkTypes(after, before)).toEqual(checkTypes(after));
  return found.length;
};

it("finds the same beside a sound record as by itself, on any railway", () => {
  let broken = 0;
  fc.assert(
    fc.property(randomRailway(12), harms, (record, deeds) => {
      broken += same(record, deeds) > 0 ? 1 : 0;
    }),
    { numRuns: 200 },
  );
  expect(broken).toBeGreaterThan(30);
});

it.each(Object.entries({ ...ROUTED, ...LINE_MISTAKES }))("and on one with routes or a line: %s", (_name, make) => {
  const record = make();
  expect([...checkRecord(record), ...checkTypes(record)]).toEqual([]);
  fc.assert(
    fc.property(harms, (deeds) => {
      same(record, deeds);
    }),
    { numRuns: 15 },
  );
});
