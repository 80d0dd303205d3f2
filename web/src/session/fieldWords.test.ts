import { KINDS, type Kind } from "@alderman/core";
import { smallRailway } from "@alderman/core/testing/build";
import { expect, it } from "vitest";
import { fieldName, valueWords } from "./fieldWords.ts";

it("calls fields by words, and things by their labels", () => {
  const record = smallRailway();
  const [turnout] = record.turnouts;
  expect(fieldName("runMetres")).toBe("run");
  expect(fieldName("metres")).toBe("length");
  expect(fieldName("zoneId")).toBe("zone");
  expect(fieldName("movesWith")).toBe("moves with");
  expect(valueWords(record, "turnout", "movesWith", turnout?.id)).toBe(turnout?.label);
  expect(valueWords(record, "turnout", "zoneId", "zz")).toBe("something that is gone");
  expect(valueWords(record, "turnout", "runMetres", 1.5)).toBe("1.5 m");
  expect(valueWords(record, "railway", "reelMetres", 25)).toBe("25 m");
  expect(valueWords(record, "turnout", "zoneId", null)).toBe("empty");
  expect([true, false].map((value) => valueWords(record, "wire", "kept", value))).toEqual(["yes", "no"]);
});

it("never says an identifier of a thing that has a label", () => {
  for (const kind of Object.keys(KINDS) as Kind[])
    for (const field of Object.keys(KINDS[kind].refs ?? {}))
      expect(valueWords(smallRailway(), kind, field, "q17"), `${kind} ${field}`).toBe("something that is gone");
});
