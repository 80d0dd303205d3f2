import { readFileSync } from "node:fs";
import { type Finding, type RailwayRecord, readRailwayFile } from "@alderman/core";
import fc from "fast-check";
import { expect, it } from "vitest";
import { cellVerdicts, type Look, PLAIN_LOOK, rowsOf, withRow } from "./gridRows.ts";

const record: RailwayRecord = readRailwayFile(
  readFileSync(new URL("../../../../samples/skerrin-ferry.json", import.meta.url), "utf8"),
);
const finding = (ruleId: string, column: string | null, severity: Finding["severity"], turnoutIds: string[]) =>
  ({ ruleId, column, severity, turnoutIds, kept: null }) as unknown as Finding;
const verdicts = cellVerdicts([
  finding("turnout-incomplete", "motor", "look", ["s2"]),
  finding("lamp-current", "lamp", "look", ["y1"]),
  finding("lamp-common", "lamp", "stop", ["y1"]),
]);
const labels = (look: Partial<Look>) =>
  rowsOf(record, verdicts, { ...PLAIN_LOOK, ...look }).map((item) =>
    item.kind === "zone" ? item.title : item.turnout.label,
  );

it("shows the worst of each cell", () => {
  expect(verdicts.get("y1")?.get("lamp")).toBe("wrong");
  expect(verdicts.get("s2")?.get("motor")).toBe("open");
  expect(cellVerdicts([{ ...finding("x", "lamp", "stop", ["y1"]), kept: "as it is" }]).size).toBe(0);
});

it("keeps the owner's order until a column is chosen, and numbers as people count", () => {
  expect(labels({})).toEqual(["M1", "M2", "L1", "L2", "L3", "S1", "S2", "Q1", "B1", "Y1", "Y2", "Y3", "Y4", "Y5"]);
  expect(labels({ sort: { column: "label", down: false } }).slice(0, 5)).toEqual(["B1", "L1", "L2", "L3", "M1"]);
  const runs = { column: "run", down: true };
  expect(labels({ sort: runs })[0]).toBe("L3");
  // those without an address stand at the foot, up or down
  expect(labels({ sort: { column: "address", down: true } }).slice(-5)).toEqual(["Y1", "Y2", "Y3", "Y4", "Y5"]);
});

it("finds by any cell, what is not finished, and what has findings", () => {
  expect(labels({ text: "crossover" })).toEqual(["M1", "M2"]);
  expect(labels({ text: "d1-4" })).toEqual(["L3"]);
  expect(labels({ show: "open" })).toEqual(["S2"]);
  expect(labels({ show: "findings" })).toEqual(["S2", "Y1"]);
});

it("groups by zone in the owner's order, with how many", () => {
  expect(labels({ grouped: true, text: "s" }).filter((title) => title.includes("("))).toContain("Shed (2)");
  const rows = rowsOf(record, verdicts, { ...PLAIN_LOOK, grouped: true });
  const numbers = rows.flatMap((item) => (item.kind === "turnout" ? [item.row] : []));
  expect(numbers).toEqual([...numbers.keys()]);
});

it("shows each turnout at most once, numbered in a row, however it is looked at", () => {
  const looks = fc.record({
    text: fc.constantFrom("", "y", "stall", "linkspan", "no such thing"),
    show: fc.constantFrom("all", "open", "findings"),
    sort: fc.option(fc.record({ column: fc.constantFrom("label", "run", "zone", "motor"), down: fc.boolean() })),
    grouped: fc.boolean(),
  }) as fc.Arbitrary<Look>;
  fc.assert(
    fc.property(looks, (look) => {
      const rows = rowsOf(record, verdicts, look).flatMap((item) => (item.kind === "turnout" ? [item] : []));
      expect(rows.map(({ row }) => row)).toEqual([...rows.keys()]);
      expect(new Set(rows.map(({ turnout }) => turnout.id)).size).toBe(rows.length);
      if (look.text === "" && look.show === "all") expect(rows).toHaveLength(record.turnouts.length);
      if (look.text === "no such thing") expect(rows).toEqual([]);
      // the same turnouts in whatever order
      const plain = rowsOf(record, verdicts, { ...look, sort: null, grouped: false });
      expect(rows).toHaveLength(plain.length);
    }),
  );
});

it("keeps the current row among those drawn, wherever it is scrolled to", () => {
  expect(withRow([4, 5, 6], 5)).toEqual([4, 5, 6]);
  expect(withRow([4, 5, 6], 1)).toEqual([1, 4, 5, 6]);
  expect(withRow([4, 5, 6], 90)).toEqual([4, 5, 6, 90]);
  expect(withRow([4, 5, 6], -1)).toEqual([4, 5, 6]);
});
