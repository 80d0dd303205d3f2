import fc from "fast-check";
import { describe, expect, it } from "vitest";
import type { Bin, Item, Packed } from "./bins.ts";
import { pack } from "./pack.ts";

const FRESH: Bin = { outputs: 8, amps: 0.32, zone: null };
const item = (zone: string, size = 1, amps = 0.015): Item => ({ size, amps, zone });

/** Outputs away from their zone, and whether every board has room, worked out anew. */
function checked(items: readonly Item[], present: readonly Bin[], fresh: Bin, { bin, fresh: boards }: Packed): number {
  let away = 0;
  for (let number = 0; number < present.length + boards; number++) {
    const on = items.filter((_, index) => bin[index] === number);
    const room = present[number] ?? fresh;
    expect(on.reduce((sum, { size }) => sum + size, 0)).toBeLessThanOrEqual(room.outputs);
    expect(on.reduce((sum, { amps }) => sum + amps, 0)).toBeLessThanOrEqual(room.amps + 1e-9);
    if (number >= present.length) expect(on.length).toBeGreaterThan(0);
    const zones = new Map<string, number>();
    for (const { zone, size } of on) if (zone !== "") zones.set(zone, (zones.get(zone) ?? 0) + size);
    const all = [...zones.values()].reduce((sum, each) => sum + each, 0);
    away += all - (room.zone === null ? Math.max(0, ...zones.values()) : (zones.get(room.zone) ?? 0));
  }
  expect(bin.every((number) => number >= 0)).toBe(true);
  return away;
}

/** The best there is, by putting each item on every board in turn, and on a new one. */
function exhaustive(
  items: readonly Item[],
  present: readonly Bin[],
  fresh: Bin,
): { fresh: number; away: number } | null {
  let best: { fresh: number; away: number } | null = null;
  const boards: { room: Bin; on: Item[] }[] = present.map((room) => ({ room, on: [] }));
  const better = (found: { fresh: number; away: number }) =>
    !best || found.fresh < best.fresh || (found.fresh === best.fresh && found.away < best.away);
  const sum = (on: readonly Item[], of: (item: Item) => number) => on.reduce((total, each) => total + of(each), 0);
  const away = () =>
    boards.reduce((total, { room, on }) => {
      const zones = [...new Set(on.map(({ zone }) => zone))].filter((zone) => zone !== "");
      const of = (zone: string) =>
        sum(
          on.filter((each) => each.zone === zone),
          ({ size }) => size,
        );
      const all = zones.reduce((each, zone) => each + of(zone), 0);
      return total + all - (room.zone === null ? Math.max(0, ...zones.map(of)) : of(room.zone));
    }, 0);
  const next = (index: number) => {
    const each = items[index];
    if (!each) {
      const found = { fresh: boards.length - present.length, away: away() };
      if (better(found)) best = found;
      return;
    }
    const put = (board: { room: Bin; on: Item[] }) => {
      board.on.push(each);
      const { room, on } = board;
      if (sum(on, ({ size }) => size) <= room.outputs && sum(on, ({ amps }) => amps) <= room.amps + 1e-9)
        next(index + 1);
      board.on.pop();
    };
    for (const board of [...boards]) put(board);
    if (best && boards.length - present.length >= (best as { fresh: number }).fresh) return;
    boards.push({ room: fresh, on: [] });
    put(boards.at(-1)!);
    boards.pop();
  };
  next(0);
  return best;
}

const anyItem = fc.record({
  size: fc.constantFrom(1, 1, 1, 2),
  amps: fc.constantFrom(0.015, 0.03, 0.1),
  zone: fc.constantFrom("", "a", "b", "c"),
});
const anyBin = fc.record({
  outputs: fc.integer({ min: 0, max: 4 }),
  amps: fc.constantFrom(0.05, 0.32),
  zone: fc.constantFrom("a", "b", null),
});
const anyFresh = fc.record({
  outputs: fc.integer({ min: 2, max: 8 }),
  amps: fc.constantFrom(0.16, 0.32),
  zone: fc.constant(null),
});

describe("pack", () => {
  it("is the best there is, by trying everything, for few items", () => {
    fc.assert(
      fc.property(
        fc.array(anyItem, { maxLength: 7 }),
        fc.array(anyBin, { maxLength: 2 }),
        anyFresh,
        (items, present, fresh) => {
          const packed = pack(items, present, fresh);
          const best = exhaustive(items, present, fresh);
          expect(packed && { fresh: packed.fresh, away: packed.away }).toEqual(best);
          if (packed) expect(checked(items, present, fresh, packed)).toBe(packed.away);
        },
      ),
      { numRuns: 150 },
    );
  });

  it("is the best there is for twelve turnouts", () => {
    const zones = ["a", "b", "a", "c", "b", "a", "c", "c", "b", "a", "", "b"];
    const items = zones.map((zone, index) => item(zone, 1, index % 3 === 0 ? 0.03 : 0.015));
    const present: Bin[] = [{ outputs: 2, amps: 0.03, zone: "c" }];
    const fresh: Bin = { outputs: 4, amps: 0.16, zone: null };
    const packed = pack(items, present, fresh)!;
    expect({ fresh: packed.fresh, away: packed.away }).toEqual(exhaustive(items, present, fresh));
    expect(checked(items, present, fresh, packed)).toBe(packed.away);
  });

  it("keeps many turnouts sound, with no more boards than their outputs need", () => {
    fc.assert(
      fc.property(
        fc.array(fc.constantFrom("", "a", "b", "c", "d", "e"), { minLength: 13, maxLength: 80 }),
        fc.array(anyBin, { maxLength: 3 }),
        (zones, bins) => {
          const items = zones.map((zone) => item(zone));
          const present = bins.map((bin) => ({ ...bin, amps: 0.32 }));
          const packed = pack(items, present, FRESH)!;
          expect(checked(items, present, FRESH, packed)).toBe(packed.away);
          const free = present.reduce((sum, { outputs }) => sum + outputs, 0);
          expect(packed.fresh).toBe(Math.max(0, Math.ceil((items.length - free) / 8)));
        },
      ),
      { numRuns: 60 },
    );
  });

  it("leaves no more outputs away than the zones' remainders make unavoidable", () => {
    // 10 + 9 + 5 = 24 outputs on three boards: one board each holds 8, 8 and 5; two and one of the others are left over
    const items = [..."aaaaaaaaaabbbbbbbbbccccc"].map((zone) => item(zone));
    expect(pack(items, [], FRESH)).toMatchObject({ fresh: 3, away: 3 });
  });

  it("tells how far it is, and says when something fits nowhere", () => {
    const told: number[] = [];
    pack(
      [..."abcde".repeat(20)].map((zone) => item(zone)),
      [],
      FRESH,
      (share) => told.push(share),
    );
    expect(told.at(-1)).toBe(1);
    expect(told.every((share) => share >= 0 && share <= 1)).toBe(true);
    expect(pack([item("a", 9)], [], FRESH)).toBeNull();
    expect(pack([item("a", 1, 0.5)], [], FRESH)).toBeNull();
    expect(pack([], [], FRESH)).toEqual({ bin: [], fresh: 0, away: 0 });
  });
});
