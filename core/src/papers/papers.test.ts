// What must hold of every paper, of every exhibit.
import { describe, expect, it } from "vitest";
import { coilStation, smallRailway } from "../../testing/build.ts";
import { EXHIBITS } from "../../testing/exhibits.ts";
import { edit } from "../catalogue/edit.ts";
import { Derived } from "../derive.ts";
import { completed } from "../loom/completion.ts";
import { tickWires } from "../loom/work.ts";
import { emptyRecord, type RailwayRecord } from "../record/kinds.ts";
import { cutGroups } from "./cutList.ts";
import { LABEL_SHEETS, type LabelSheet } from "./labelSheets.ts";
import { type Paper, tablesOf } from "./paper.ts";
import { PAPERS, type PaperOptions } from "./papers.ts";

const OPTIONS: PaperOptions = {
  turnouts: null,
  openOnly: false,
  labels: { sheet: LABEL_SHEETS[0] as LabelSheet, style: "flag", code: false, used: 0 },
};
const make = (id: string, derived: Derived, options = OPTIONS): Paper =>
  PAPERS.find((paper) => paper.id === id)!.make(derived, options);

const NONSENSE = /NaN|undefined|null|\[object|Infinity/;

describe.each(Object.entries({ ...EXHIBITS, nothing: () => emptyRecord("Empty") }))("%s", (_, make) => {
  it("has papers whose rows are as wide as their heads, and say nothing that was not worked out", () => {
    const derived = new Derived(make());
    for (const { id, make: paperOf } of PAPERS) {
      const paper = paperOf(derived, OPTIONS);
      const names = paper.parts.flatMap((part) => (part.kind === "table" ? [part.name] : []));
      expect(new Set(names).size, id).toBe(names.length);
      for (const { name, rows } of tablesOf(paper)) {
        const [head] = rows;
        for (const row of rows) {
          expect(row.length, `${id}: ${name}`).toBe(head?.length);
          for (const cell of row) expect(String(cell), `${id}: ${name}`).not.toMatch(NONSENSE);
        }
      }
    }
  });

  it("has every wire once in the schedule, twice on labels, and every single wire once in the cut list", () => {
    const derived = new Derived(make());
    const { wires } = derived.loom;
    const first = (id: string) => tablesOf(PAPERS.find((paper) => paper.id === id)!.make(derived, OPTIONS));
    expect(
      first("wire-schedule")[0]!
        .rows.slice(1)
        .map(([wire]) => wire),
    ).toEqual(wires.map(({ label }) => label));
    const labels = first("labels").flatMap(({ rows }) => rows.map(([text]) => String(text)));
    expect(labels.sort()).toEqual(wires.flatMap(({ flags }) => flags).sort());
    const pieces = cutGroups(derived, wires).flatMap(({ plan }) => [
      ...plan.reels.flatMap((reel) => reel.pieces),
      ...plan.tooLong,
    ]);
    const single = wires.filter(({ core }) => core === null);
    expect(pieces.map(({ name }) => name).sort()).toEqual(single.map(({ label }) => label).sort());
  });
});

it("leaves out what is cut and labelled already, when that is wanted", () => {
  const record = completed(smallRailway());
  const { loom } = new Derived(record);
  const half = loom.wires.filter((_, index) => index % 2 === 0).map(({ id }) => id);
  const derived = new Derived(
    edit(record, tickWires(record, loom, half, "labelledAt", "2026-05-12T20:00:00.000Z")!.edits).record,
  );
  const open = { ...OPTIONS, openOnly: true };
  const labels = tablesOf(make("labels", derived, open)).flatMap(({ rows }) => rows);
  expect(labels).toHaveLength(2 * (loom.wires.length - half.length));
  const cut = JSON.stringify(make("cut-list", derived, open));
  const done = loom.wires.find(({ id, core }) => half.includes(id) && !core)!;
  expect(cut).not.toContain(`"${done.label}"`);
});

it("is made for some turnouts only: their wires, their sheets", () => {
  const derived = new Derived(coilStation(4));
  const some = { ...OPTIONS, turnouts: ["y2", "y3"] };
  const titles = make("connection-sheets", derived, some).parts.flatMap((part) =>
    part.kind === "heading" ? [part.text] : [],
  );
  expect(titles).toEqual(["Turnout Y2", "Turnout Y3", "How to join"]);
  const wires = derived.loom.wires.filter(({ turnoutId }) => turnoutId === "y2" || turnoutId === "y3");
  expect(tablesOf(make("labels", derived, some)).flatMap(({ rows }) => rows)).toHaveLength(2 * wires.length);
});

it("says how each kind of joint is made: screws without solder, tags with a sleeve", () => {
  const text = JSON.stringify(make("connection-sheets", new Derived(smallRailway())).parts);
  expect(text).toContain("Screw: ferrule, or strands bare and twisted; never tinned.");
  expect(text).toContain("Solder tag: sleeve on first");
});

it("ticks what has passed on a test sheet and says what was found, and no other step", () => {
  const record = smallRailway();
  const step = new Derived(record).sheet("y1")[0]!.step;
  const { turnoutId, key, position, unit, expected, low, high, chain } = step;
  const result = {
    ...{ id: "t", turnoutId, step: key, position, unit, expected, low, high, read: 4.04, seen: null },
    ...{ verdict: "passed" as const, instrument: "meter" as const, note: "", at: "2026-05-12T20:00:00.000Z", chain },
  };
  const sheet = make("test-sheets", new Derived({ ...record, tests: [result] }));
  const rows = sheet.parts.flatMap((part) => (part.kind === "table" ? part.rows : []));
  const ticked = rows.filter((row) => row.at(-1) === true);
  expect(ticked).toEqual([expect.arrayContaining([step.title, "4.0 ohm"])]);
  expect(rows.filter((row) => row.at(-1) === false).every((row) => row.at(-2) === "")).toBe(true);
});

it("asks for volts below nothing with both ends of the range below", () => {
  const sheet = JSON.stringify(make("test-sheets", new Derived(smallRailway())).parts);
  expect(sheet).toMatch(/"\u2212\d+\.\d to \u2212\d+\.\d V"/);
  expect(sheet).not.toMatch(/"0\.0 (V )?to \u2212/);
});

it("cuts from what is on the shelf now, not from what was there when it was counted", () => {
  const record = completed(smallRailway());
  const counted = "2026-05-01T08:00:00.000Z";
  const stock = { id: "s", thing: "wire:BU:0.5 mm2", have: 3, price: null, supplier: "", at: counted };
  const stocked: RailwayRecord = { ...record, stocks: [stock] };
  const { loom } = new Derived(stocked);
  const blue = loom.wires.find(({ colour, core, cutMetres }) => colour === "BU" && !core && cutMetres > 0.5)!;
  const offcut = (of: RailwayRecord) => {
    const derived = new Derived(of);
    const [group] = cutGroups(
      derived,
      derived.loom.wires.filter(({ colour }) => colour === "BU"),
    );
    return group!.plan.reels[0]!.millimetres;
  };
  expect(offcut(stocked)).toBe(3000);
  const cut = edit(stocked, tickWires(stocked, loom, [blue.id], "cutAt", "2026-05-02T08:00:00.000Z")!.edits).record;
  expect(offcut(cut)).toBe(3000 - Math.round(blue.cutMetres * 1000));
});
