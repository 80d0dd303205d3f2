import { expect, it } from "vitest";
import { hasHeadings, readTable } from "./readTable.ts";

it("reads commas, semicolons and tabs, quotes and a byte order mark", () => {
  expect(readTable('\uFEFFlabel,name\r\nA1,"Goods, west"\r\n')).toEqual([
    ["label", "name"],
    ["A1", "Goods, west"],
  ]);
  expect(readTable("label;name\nA1;x\n\nA2;y\n\n\n")).toEqual([
    ["label", "name"],
    ["A1", "x"],
    // blank lines keep their place, those at the end are none
    [""],
    ["A2", "y"],
  ]);
  expect(readTable('label\tname\nA1\tsaid "so"\n')).toEqual([
    ["label", "name"],
    ["A1", 'said "so"'],
  ]);
});

it("names the row in which a quotation mark is not closed", () => {
  expect(() => readTable('label,name\nA1,x\nA2,"never\n')).toThrow(/^Row \d: a quotation mark is not closed/);
});

it("tells a table with headings from a block of cells", () => {
  expect(hasHeadings(readTable("label\tmotor\nA\tservo"))).toBe(true);
  expect(hasHeadings(readTable("Turnout;Colour\nA;red"))).toBe(true);
  expect(hasHeadings(readTable("left\tYard\nright\tYard"))).toBe(false);
  expect(hasHeadings(readTable("label"))).toBe(false);
});
