import fc from "fast-check";
import { expect, it } from "vitest";
import { type CuttingPlan, cuttingPlan, type Piece } from "./cutting.ts";

const pieces = (...lengths: number[]): Piece[] =>
  lengths.map((millimetres, index) => ({ name: `W${index}`, millimetres }));

/** Fewest reels that hold all pieces, by trying every way. */
function fewest(lengths: readonly number[], reel: number): number {
  let best = lengths.length;
  const place = (index: number, rests: number[]) => {
    if (rests.length >= best) return;
    const length = lengths[index];
    if (length === undefined) {
      best = rests.length;
      return;
    }
    for (const [at, rest] of rests.entries()) {
      if (rest >= length)
        place(
          index + 1,
          rests.map((each, other) => (other === at ? each - length : each)),
        );
    }
    place(index + 1, [...rests, reel - length]);
  };
  place(0, []);
  return best;
}

function requireSound({ reels, tooLong }: CuttingPlan, wanted: readonly Piece[], reel: number) {
  const cut = [...reels.flatMap(({ pieces }) => pieces), ...tooLong];
  expect(cut.map(({ name }) => name).sort()).toEqual(wanted.map(({ name }) => name).sort());
  for (const { millimetres, pieces, rest } of reels) {
    expect(rest).toBe(millimetres - pieces.reduce((sum, piece) => sum + piece.millimetres, 0));
    expect(rest).toBeGreaterThanOrEqual(0);
  }
  for (const piece of tooLong) expect(piece.millimetres).toBeGreaterThan(reel);
}

it("cuts from as few reels as trying every way finds, and says when it knows that it is the least", () => {
  fc.assert(
    fc.property(fc.array(fc.integer({ min: 50, max: 1000 }), { maxLength: 8 }), (lengths) => {
      const wanted = pieces(...lengths);
      const plan = cuttingPlan(wanted, 1000);
      requireSound(plan, wanted, 1000);
      expect(plan.isLeast).toBe(true);
      expect(plan.reels).toHaveLength(fewest(lengths, 1000));
    }),
    { numRuns: 300 },
  );
});

it("leaves no two new reels whose pieces would go on one, and cuts every piece once", () => {
  fc.assert(
    fc.property(fc.array(fc.integer({ min: 1, max: 1200 }), { maxLength: 120 }), (lengths) => {
      const wanted = pieces(...lengths);
      const plan = cuttingPlan(wanted, 1000, [300, 700]);
      requireSound(plan, wanted, 1000);
      const fresh = plan.reels.filter(({ millimetres }) => millimetres === 1000).map(({ rest }) => 1000 - rest);
      const [least = 1000, next = 1000] = fresh.sort((a, b) => a - b);
      if (fresh.length > 1) expect(least + next).toBeGreaterThan(1000);
    }),
    { numRuns: 150 },
  );
});

it("needs three reels where best fit alone would take four", () => {
  // a worked example of the literature on bin packing: 44 + 8 + 8, 24 + 24 + 6 + 6, 22 + 21 + 17 of 60 each
  const { reels, isLeast } = cuttingPlan(pieces(440, 240, 240, 220, 210, 170, 80, 80, 60, 60), 600);
  expect(reels).toHaveLength(3);
  expect(isLeast).toBe(true);
});

it("uses what is left over first, the shortest piece of it that is long enough", () => {
  const { reels } = cuttingPlan(pieces(280, 900), 1000, [700, 300]);
  expect(reels.map(({ millimetres, rest }) => [millimetres, rest])).toEqual([
    [300, 20],
    [1000, 100],
  ]);
});

it("names what is longer than a reel, and refuses lengths that are none", () => {
  expect(cuttingPlan(pieces(1500), 1000).tooLong).toHaveLength(1);
  expect(() => cuttingPlan(pieces(0), 1000)).toThrow(/must be positive: 0 mm/);
  expect(() => cuttingPlan(pieces(5), -1)).toThrow(RangeError);
});

it("cuts five thousand wires in a moment, without a search that never ends", () => {
  const lengths = Array.from({ length: 5000 }, (_, index) => 200 + ((index * 7919) % 2300));
  const plan = cuttingPlan(pieces(...lengths), 25_000);
  const least = Math.ceil(lengths.reduce((sum, length) => sum + length, 0) / 25_000);
  expect(plan.reels.length).toBeLessThanOrEqual(least + 2);
});
