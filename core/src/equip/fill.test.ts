import { readFileSync } from "node:fs";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { drafted, railway, typed } from "../../testing/build.ts";
import { DRIVING, FROGS, LAMPS } from "../../testing/recipes.ts";
import { edit, openRailwayFile } from "../catalogue/edit.ts";
import { Derived } from "../derive.ts";
import { turnoutsInOrder } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { COLUMNS } from "./columns.ts";
import { copyBlock, equipLike, fillDown, pasteBlock } from "./fill.ts";
import { addTurnout, writeCell } from "./write.ts";

const add = (record: RailwayRecord, ...labels: string[]) =>
  labels.reduce((now, label) => edit(now, addTurnout(now, label).edits).record, record);
const cells = (record: RailwayRecord, id: string, ...columns: string[]) =>
  columns.map((column) =>
    COLUMNS.find((each) => each.id === column)!.read(record, record.turnouts.find((t) => t.id === id)!),
  );
const apply = (record: RailwayRecord, group: { edits: Parameters<typeof edit>[1] }) => edit(record, group.edits).record;

const first = () => railway(["A", "", "stall-motor", "stall-decoder-8", "", "lamp-two-colour from S2", "S1"]);

describe("filling down", () => {
  it("gives each motor with a decoder built in the next address", () => {
    const record = typed(add(railway(["A", "", "slow-motor-decoder"]), "B"), "a", "address", "21");
    const filled = apply(record, fillDown(record, ["a", "b"], ["motor", "address"]));
    expect(cells(filled, "a", "address")).toEqual(["21"]);
    expect(cells(filled, "b", "address")).toEqual(["22"]);
    expect(new Derived(filled).addresses.map(({ throws, address }) => `${throws} ${address}`)).toEqual([
      "A 21",
      "B 22",
    ]);
  });

  it("gives each turnout devices, outputs and contacts of its own, and the next address", () => {
    const record = typed(add(first(), "B", "C"), "a", "address", "21");
    const filled = apply(record, fillDown(record, ["a", "b", "c"], ["motor", "driver", "lamp", "frog", "address"]));
    expect(cells(filled, "b", "motor", "driver", "lamp", "frog", "address")).toEqual([
      "Stall motor with two contacts",
      "D1-2",
      "LP2 from S2",
      "S1",
      "22",
    ]);
    expect(cells(filled, "c", "driver", "lamp", "frog", "address")).toEqual(["D1-3", "LP3 from S2", "S1", "23"]);
    expect(new Derived(filled).complete).toEqual(["a", "b", "c"]);
  });

  it("goes on to another board of the kind when one is full", () => {
    const labels = [..."BCDEFGHIJ"];
    const record = add(first(), ...labels);
    const ids = ["a", ...labels.map((label) => label.toLowerCase())];
    const filled = apply(record, fillDown(record, ids, ["motor", "driver"]));
    expect(ids.map((id) => cells(filled, id, "driver")[0])).toEqual([
      ...[1, 2, 3, 4, 5, 6, 7, 8].map((way) => `D1-${way}`),
      "D2-1",
      "D2-2",
    ]);
  });

  it("refuses with turnout and column, and changes nothing", () => {
    const record = add(first(), "B");
    expect(() => fillDown(record, ["a", "b"], ["lamp"])).toThrow(/B, Lamp: .*no motor/);
    expect(() => fillDown(record, ["a"], ["motor"])).toThrow(/at least two turnouts/);
    expect(() => fillDown(record, ["a", "b"], ["label"])).toThrow(/Labels are not filled down/);
    expect(() => fillDown(record, ["b", "a"], ["name"])).toThrow(/Nothing to fill in/);
  });

  const all = { ...DRIVING, ...FROGS, ...LAMPS };
  const alone = [
    ...["detector as a button", "servo board behind a decoder"],
    ...["a zone that is followed", "a sensor at the throw bar"],
  ];
  const plain = Object.keys(all).filter(
    (name) =>
      !alone.includes(name) && !/two toggles|crossover|for each|two motors|two stall|reverser|dual-control/.test(name),
  );

  it.each(plain)("equips another turnout like the first, and both work: %s", (name) => {
    const before = all[name]!();
    const record = add(before, "Z");
    const now = apply(record, equipLike(record, "a", ["z"]));
    const derived = new Derived(now);
    const [a, z] = derived.schematic.threads;
    expect(derived.complete).toEqual(["a", "z"]);
    for (const position of ["N", "R"] as const) {
      expect(derived.reading(z!, position, "throwing").motors.map(({ goesTo }) => goesTo)).toEqual([position]);
      expect(derived.reading(a!, position, "throwing").motors.map(({ goesTo }) => goesTo)).toEqual([position]);
    }
    // nothing of the first has been taken away or shared, boards and supplies apart
    const kept = (all: RailwayRecord) =>
      all.assignments.filter((each) => "turnoutId" in each && each.turnoutId === "a").map(({ id, ...rest }) => rest);
    expect(kept(now)).toEqual(kept(before));
  });

  it("says what it cannot copy", () => {
    const record = add(DRIVING["detector as a button"]!(), "Z");
    expect(() => equipLike(record, "a", ["z"])).toThrow(/Z, Control: BD1-1 commands one turnout only/);
  });
});

describe("pasting a block", () => {
  const three = () => add(first(), "B", "C");

  it("writes cell by cell, in whatever order they depend on one another", () => {
    const record = three();
    const rows = [
      ["left", "Yard", "", "stall-motor", "D1-4"],
      ["right", "Yard", "", "twin-coil-surface", "cdu"],
    ];
    const pasted = apply(record, pasteBlock(record, ["b", "c"], ["hand", "zone", "with", "motor", "driver"], rows));
    expect(cells(pasted, "b", "hand", "zone", "driver")).toEqual(["left", "Yard", "D1-4"]);
    expect(cells(pasted, "c", "motor", "driver")).toEqual(["Twin-coil motor, surface-mount, no contact", "CD1"]);
  });

  it("gives back what was copied", () => {
    const record = three();
    expect(copyBlock(record, ["a", "b"], ["label", "motor", "driver"])).toBe(
      "A\tStall motor with two contacts\tD1-1\nB\t\t",
    );
  });

  it("names row and column of what cannot be, and changes nothing", () => {
    const record = three();
    const paste = (rows: string[][], from = ["b", "c"], columns = ["label", "name", "hand"]) =>
      pasteBlock(record, from, columns, rows);
    expect(() => paste([["B", "x", "up"]])).toThrow(/Row 1, Hand of B: "up" is no hand/);
    expect(() => paste([["A"]])).toThrow(/Row 1, Turnout of B: There is already a turnout called A/);
    expect(() => paste([["=A1"]])).toThrow(/"=A1" is a formula. Paste what it gives/);
    expect(() => paste([["1"], ["2"], ["3"]])).toThrow(/3 rows to paste and only 2 turnouts from here down/);
    expect(() => paste([["B", "x", "left", "more"]])).toThrow(/4 columns to paste and only 3 from here/);
    expect(() => paste([["B"]])).toThrow(/Nothing changes/);
    expect(() => writeCell(record, "b", "name", "=SUM(A1)")).toThrow(/is a formula/);
  });
});

it("changes nothing when what was copied is pasted where it came from, for any part of the demo's list", () => {
  const demo = openRailwayFile(readFileSync(new URL("../../../samples/skerrin-ferry.json", import.meta.url), "utf8"));
  const ids = turnoutsInOrder(demo).map(({ id }) => id);
  const columns = COLUMNS.map(({ id }) => id).filter((id) => id !== "label");
  const part = fc.tuple(fc.nat(ids.length - 1), fc.nat(4), fc.nat(columns.length - 1), fc.nat(4));
  fc.assert(
    fc.property(part, ([top, height, left, width]) => {
      const rows = ids.slice(top, top + 1 + height);
      const cells = columns.slice(left, left + 1 + width);
      const text = copyBlock(demo, rows, cells);
      const block = text.split("\n").map((line) => line.split("\t"));
      expect(() => pasteBlock(demo, rows, cells, block)).toThrow("Nothing changes: the cells hold that already.");
    }),
    { numRuns: 80 },
  );
});

it("leaves a blank row of a pasted block blank, and moves nothing up into it", () => {
  const three = railway(["A", "", ""], ["B", "", ""], ["C", "", ""]);
  const names = drafted(three, (draft) => {
    for (const turnout of three.turnouts) draft.put("turnout", { ...turnout, name: "old" });
  });
  const group = pasteBlock(names, ["a", "b", "c"], ["name", "hand"], [["alpha", "left"], [""], ["gamma", "left"]]);
  expect(edit(names, group.edits).record.turnouts.map(({ name, hand }) => [name, hand])).toEqual([
    ["alpha", "left"],
    ["", "unknown"],
    ["gamma", "left"],
  ]);
});

it("says of a block what it cannot write beside a turnout that moves with another", () => {
  const pair = railway(["A", "", "stall-motor", "stall-decoder-8"], ["B", "A", "stall-motor"]);
  expect(() => pasteBlock(pair, ["b"], ["driver"], [["D1-2"]])).toThrow(/^Row 1, Driver of B: it moves with A/);
});
