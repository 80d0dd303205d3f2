import fc from "fast-check";
import { expect, it } from "vitest";
import { Places, Row, Rows } from "./filling.ts";

it("gives the first free place at which a condition holds, and none of those that are to be left spare", () => {
  const strip = new Places({ id: "p1" }, 4, 3);
  strip.take(1);
  expect(strip.free()).toBe(2);
  expect(strip.free((number) => number > 2)).toBe(3);
  strip.take(3);
  strip.take(3);
  expect([strip.isFree(2), strip.isFree(3), strip.isFree(5), strip.isFull]).toEqual([true, false, false, false]);
  strip.take(2);
  expect([strip.isFull, strip.free(), strip.isFree(4)]).toEqual([true, null, true]);
});

it("passes over what is full, and over nothing else, in whatever order things come and fill", () => {
  const step = fc.oneof(
    fc.record({ ways: fc.integer({ min: 1, max: 4 }), spare: fc.integer({ min: 0, max: 1 }) }),
    fc.record({ at: fc.nat(9), way: fc.integer({ min: 1, max: 4 }) }),
  );
  fc.assert(
    fc.property(fc.array(step, { maxLength: 40 }), (steps) => {
      const row = new Row<{ id: string }>();
      for (const each of steps) {
        if ("ways" in each) row.add(new Places({ id: `${row.all.length}` }, each.ways, each.ways - each.spare));
        else row.all[each.at]?.take(each.way);
        const naive = row.all.flatMap((places, spot) => (places.isFull ? [] : [{ places, spot }]));
        expect(row.notFull).toEqual(naive);
      }
      expect(row.all.map(({ thing }) => row.spotOf(thing))).toEqual(row.all.map((_, spot) => spot));
      expect(row.spotOf({ id: "none" })).toBe(-1);
    }),
  );
});

it("keeps a row for each thing that it is for", () => {
  const rows = new Rows<string | null, { id: string }>();
  rows.of(null).add(new Places({ id: "a" }, 1, 1));
  expect([rows.of(null).all.length, rows.of("zone").all.length]).toEqual([1, 0]);
});
