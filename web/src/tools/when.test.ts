import { expect, it } from "vitest";
import { isClockBehind } from "./when.ts";

const NOW = Date.parse("2026-05-01T12:00:00.000Z");

it.each([
  ["nothing was done", [], false],
  ["all was done before", ["2026-04-30T12:00:00.000Z"], false],
  ["something was done some hours later, as in another time zone", ["2026-05-02T02:00:00.000Z"], false],
  ["something was done days later", ["2026-04-30T12:00:00.000Z", "2026-05-04T12:00:00.000Z"], true],
  ["a date cannot be read", ["yesterday"], false],
])("says whether the clock is behind when %s", (_what, done, behind) => {
  expect(isClockBehind(done, NOW)).toBe(behind);
});
