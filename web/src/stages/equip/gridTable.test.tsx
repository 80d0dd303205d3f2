import { readFileSync } from "node:fs";
import { type Finding, type RailwayRecord, readRailwayFile } from "@alderman/core";
import fc from "fast-check";
import { renderToStaticMarkup } from "react-dom/server";
import { expect, it } from "vitest";
import { cellVerdicts, type GridItem, type Look, PLAIN_LOOK, useGridTable } from "./gridTable.ts";

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

/** What the list shows, looked at in some way. */
function shown(look: Partial<Look>): { items: GridItem[]; columns: string[]; headings: string[] } {
  const seen: ReturnType<typeof shown> = { items: [], columns: [], headings: [] };
  const Probe = () => {
    const { table, items, columns } = useGridTable(record, verdicts, { ...PLAIN_LOOK, ...look }, () => {});
    seen.items = items;
    seen.columns = columns.map(({ id }) => id);
    seen.headings = table.getHeaderGroups()[0]?.headers.map(({ column }) => column.id) ?? [];
    return null;
  };
  renderToStaticMarkup(<Probe />);
  return seen;
}
const labels = (look: Partial<Look>) =>
  shown(look).items.map((item) => (item.kind === "zone" ? item.title : item.turnout.label));
const by = (id: string, desc = false) => ({ sorting: [{ id, desc }] });

it("shows the worst of each cell", () => {
  expect(verdicts.get("y1")?.get("lamp")).toBe("wrong");
  expect(verdicts.get("s2")?.get("motor")).toBe("open");
  expect(cellVerdicts([{ ...finding("x", "lamp", "stop", ["y1"]), kept: "as it is" }]).size).toBe(0);
});

it("keeps the owner's order until a column is chosen, and numbers as people count", () => {
  expect(labels({})).toEqual(["M1", "M2", "L1", "L2", "L3", "S1", "S2", "Q1", "B1", "Y1", "Y2", "Y3", "Y4", "Y5"]);
  expect(labels(by("label")).slice(0, 5)).toEqual(["B1", "L1", "L2", "L3", "M1"]);
  expect(labels(by("run", true))[0]).toBe("L3");
  // those without an address stand at the foot, up or down
  for (const desc of [true, false])
    expect(labels(by("address", desc)).slice(-5)).toEqual(["Y1", "Y2", "Y3", "Y4", "Y5"]);
});

it("finds by any cell, what is not finished, and what has findings", () => {
  expect(labels({ text: "crossover" })).toEqual(["M1", "M2"]);
  expect(labels({ text: "d1-4" })).toEqual(["L3"]);
  expect(labels({ show: "open" })).toEqual(["S2"]);
  expect(labels({ show: "findings" })).toEqual(["S2", "Y1"]);
});

it("has each heading above its own cells, grouped, sorted, or with columns left out", () => {
  for (const look of [{}, { grouped: true }, by("zone"), { grouped: true, columnVisibility: { name: false } }]) {
    const { columns, headings } = shown(look);
    expect(columns.length).toBeGreaterThan(8);
    expect(headings).toEqual(columns);
  }
});

it("groups by zone in the owner's order, with how many", () => {
  expect(labels({ grouped: true, text: "s" }).filter((title) => title.includes("("))).toContain("Shed (2)");
  const { items } = shown({ grouped: true });
  const numbers = items.flatMap((item) => (item.kind === "turnout" ? [item.row] : []));
  expect(numbers).toEqual([...numbers.keys()]);
  const zones = [...record.zones].sort((a, b) => a.order - b.order).map(({ label }) => label);
  const titles = items.flatMap((item) => (item.kind === "zone" ? [item.title.split(/[,(]/)[0]!.trim()] : []));
  expect(titles).toEqual(zones.filter((label) => titles.includes(label)));
});

it("leaves out the columns that are not wanted", () => {
  expect(shown({}).columns).toHaveLength(12);
  expect(shown({ columnVisibility: { hand: false, run: false } }).columns).not.toContain("hand");
});

it("shows each turnout at most once, numbered in a row, however it is looked at", () => {
  const looks = fc.record({
    text: fc.constantFrom("", "y", "stall", "linkspan", "no such thing"),
    show: fc.constantFrom("all", "open", "findings"),
    sorting: fc.array(fc.record({ id: fc.constantFrom("label", "run", "zone", "motor"), desc: fc.boolean() }), {
      maxLength: 1,
    }),
    grouped: fc.boolean(),
  }) as fc.Arbitrary<Pick<Look, "text" | "show" | "sorting" | "grouped">>;
  fc.assert(
    fc.property(looks, (look) => {
      const rows = shown(look).items.flatMap((item) => (item.kind === "turnout" ? [item] : []));
      expect(rows.map(({ row }) => row)).toEqual([...rows.keys()]);
      expect(new Set(rows.map(({ turnout }) => turnout.id)).size).toBe(rows.length);
      if (look.text === "" && look.show === "all") expect(rows).toHaveLength(record.turnouts.length);
      if (look.text === "no such thing") expect(rows).toEqual([]);
      // the same turnouts in whatever order
      expect(rows).toHaveLength(shown({ ...look, sorting: [], grouped: false }).items.length);
    }),
    { numRuns: 40 },
  );
});
