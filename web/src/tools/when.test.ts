import { expect, it } from "vitest";
import { date, dateAndTime, shortDateAndTime, time } from "./when.ts";

const AT = "2026-05-12T20:14:00.000Z";

it("writes moments as the locale does: the day, the time, or both", () => {
  const there = new Date(AT);
  expect(date(AT)).toBe(there.toLocaleDateString());
  expect(time(AT)).toBe(there.toLocaleTimeString([], { hour: "2-digit", minute: "2-digit" }));
  expect(dateAndTime(AT)).toBe(there.toLocaleString([], { dateStyle: "medium", timeStyle: "short" }));
  expect(shortDateAndTime(AT)).toContain(String(there.getDate()));
});

it("tells two moments of one day apart by their time only", () => {
  const later = "2026-05-12T20:15:00.000Z";
  expect(date(later)).toBe(date(AT));
  expect(time(later)).not.toBe(time(AT));
  expect(shortDateAndTime(later)).not.toBe(shortDateAndTime(AT));
  expect(dateAndTime(later)).not.toBe(dateAndTime(AT));
});

it("refuses what is no moment rather than writing nonsense", () => {
  for (const write of [date, time, dateAndTime, shortDateAndTime]) expect(() => write("yesterday")).toThrow(RangeError);
});
