import { expect, it } from "vitest";
import { rangeOf, withRow } from "./range.ts";

it("spans two cells whichever corner one began at, and ends with the last turnout", () => {
  const cells = (a: [number, number], b: [number, number], rows = 10) => {
    const { top, bottom, left, right } = rangeOf({ row: a[0], column: a[1] }, { row: b[0], column: b[1] }, rows);
    return [top, bottom, left, right];
  };
  expect(cells([2, 5], [4, 1])).toEqual([2, 4, 1, 5]);
  expect(cells([4, 1], [2, 5])).toEqual([2, 4, 1, 5]);
  // the row that adds is no turnout
  expect(cells([10, 0], [10, 0])).toEqual([10, 9, 0, 0]);
});

it("keeps the current row among those in sight", () => {
  expect(withRow([4, 5, 6], 2)).toEqual([2, 4, 5, 6]);
  expect(withRow([4, 5, 6], 5)).toEqual([4, 5, 6]);
  expect(withRow([4, 5], 9)).toEqual([4, 5, 9]);
  expect(withRow([4, 5], -1)).toEqual([4, 5]);
});
