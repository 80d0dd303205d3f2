// What is sent of a list makes the list again, and names nothing that the other side has.
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { isSameList, listChange, stretchOf, withList } from "./listChange.ts";

const THINGS = Array.from({ length: 12 }, (_, number) => ({ number }));
const list = fc.shuffledSubarray(THINGS);
/** Lists of which most stands where it stood, as after an edit. */
const pairs = fc.oneof(
  fc.tuple(list, list),
  fc.tuple(fc.subarray(THINGS, { minLength: 9 }), fc.subarray(THINGS, { minLength: 9 })),
);

describe("a list that is sent as what changed of the one before", () => {
  it("comes out again, the same one where nothing changed", () => {
    fc.assert(
      fc.property(pairs, ([now, before]) => {
        const made = withList(before, listChange(now, before));
        expect(isSameList(made, now)).toBe(true);
        expect(made === before).toBe(isSameList(now, before));
      }),
    );
  });

  it("names as things those only that were not there, and as few stretches as may be", () => {
    fc.assert(
      fc.property(pairs, ([now, before]) => {
        const change = listChange(now, before);
        expect(change.flatMap((each) => ("item" in each ? [each.item] : []))).toEqual(
          now.filter((item) => !before.includes(item)),
        );
        for (const [index, each] of change.entries()) {
          const next = change[index + 1];
          if (!("from" in each)) continue;
          expect(each.count).toBeGreaterThan(0);
          if (next && "from" in next) expect(next.from).not.toBe(each.from + each.count);
        }
      }),
    );
  });
});

describe("the stretch in which two lists differ", () => {
  it("is all that has to be looked at, and no more at its ends", () => {
    fc.assert(
      fc.property(pairs, ([now, before]) => {
        const { from, to, was } = stretchOf(now, before);
        expect(now.slice(0, from)).toEqual(before.slice(0, from));
        expect(now.slice(to)).toEqual(before.slice(was));
        if (from < to && from < was) {
          expect(now[from]).not.toBe(before[from]);
          expect(now[to - 1]).not.toBe(before[was - 1]);
        }
      }),
    );
  });
});
