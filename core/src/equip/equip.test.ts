import { describe, expect, it } from "vitest";
import { HEAD, railway, smallRailway, typed } from "../../testing/build.ts";
import { typeOf } from "../catalogue/catalogue.ts";
import { edit } from "../catalogue/edit.ts";
import { Derived } from "../derive.ts";
import { emptyRecord, type RailwayRecord } from "../record/kinds.ts";
import { RecordError } from "../record/problems.ts";
import { COLUMNS } from "./columns.ts";
import { addBoard, changeType, copyType, hangsOn, removeDevice, setFigure } from "./devices.ts";
import { turnoutsFromTable, unknownHeadings } from "./table.ts";
import { removeTurnouts } from "./turnouts.ts";
import { addTurnout, writeCell } from "./write.ts";

const labels = (record: RailwayRecord) => record.devices.map(({ label }) => label).sort();
const cell = (record: RailwayRecord, id: string, column: string) =>
  COLUMNS.find((each) => each.id === column)!.read(record, record.turnouts.find((turnout) => turnout.id === id)!);

it("brings what a board needs, and only once", () => {
  let record = edit(emptyRecord("Test"), addBoard(emptyRecord("Test"), "stall-decoder-8").edits).record;
  expect(labels(record)).toEqual(["D1", "PS1", "TB1"]);
  record = edit(record, addBoard(record, "stall-decoder-8").edits).record;
  expect(labels(record)).toEqual(["D1", "D2", "PS1", "TB1"]);
});

it("fills the cells of the list from what is assigned", () => {
  const record = smallRailway();
  expect(COLUMNS.map(({ id }) => cell(record, "m1", id))).toEqual([
    "M1",
    "",
    "right",
    "",
    "",
    "Stall motor with two contacts",
    "D1-1",
    "",
    "",
    "LP2",
    "1",
    "",
  ]);
  expect(cell(record, "m2", "with")).toBe("M1");
  expect(cell(record, "m2", "driver")).toBe("D1-1");
});

it("puts both ends of a crossover on one output, in whichever order it is typed", () => {
  let record = railway(
    ["A", "", "stall-motor", "stall-decoder-8", "", ""],
    ["B", "", "stall-motor", "D1", "", "lamp-two-colour"],
  );
  expect([cell(record, "a", "driver"), cell(record, "b", "driver")]).toEqual(["D1-1", "D1-2"]);
  record = typed(record, "b", "with", "A");
  expect(cell(record, "b", "driver")).toBe("D1-1");
  expect(labels(record)).toContain("LP1");
  record = typed(record, "a", "driver", "D1-5");
  expect(record.assignments.filter((a) => a.role === "driver").map((a) => a.way)).toEqual([5, 5]);
});

it("keeps the motor's driver and lamp when only its type changes, and lets the label follow", () => {
  let record = typed(smallRailway(), "y1", "motor", "surface");
  expect(cell(record, "y1", "motor")).toMatch(/surface-mount/);
  expect([cell(record, "y1", "driver"), cell(record, "y1", "lamp")]).toEqual(["CD1", "LP1"]);
  record = typed(record, "y1", "label", "Yard 1");
  expect(labels(record)).toContain("Yard 1");
});

it("shares a control when its label is typed and drops the one that commands nothing any more", () => {
  const record = typed(smallRailway(), "y2", "control", "T1");
  expect([cell(record, "y1", "control"), cell(record, "y2", "control")]).toEqual(["T1", "T1"]);
  expect(labels(record)).not.toContain("T2");
});

it.each([
  ["m1", "driver", "D1-9", /D1 has outputs 1 to 8; there is no D1-9/],
  ["m1", "driver", "D7-1", /no board called D7/],
  ["m2", "driver", "D1-3", /discharge unit of its own, and nothing else/],
  ["y1", "motor", "coil", /could be more than one motor type; say "twin-coil-under-board", "twin-coil-surface"/],
  ["y1", "motor", "steam", /is no motor type; say/],
  ["y1", "hand", "up", /type left, right or wye/],
  ["y1", "with", "Q9", /no turnout called Q9/],
  ["y1", "with", "M2", /M2 follows M1 already/],
  ["m1", "with", "Y1", /M1 leads another turnout/],
  ["y1", "address", "5", /Only a decoder output, or a motor with a decoder built in, has an address/],
  ["m1", "address", "many", /is no address; type a whole number/],
  ["m1", "run", "far", /type metres/],
  ["y1", "label", "m1", /already a turnout called M1/],
])("says what may be typed: %s %s %s", (id, column, text, message) => {
  const record = smallRailway();
  expect(() => writeCell(record, id, column, text)).toThrow(message);
});

it("changes nothing when a cell is left as it was", () => {
  expect(writeCell(smallRailway(), "m1", "driver", "D1-1")).toBeNull();
  expect(() => addTurnout(smallRailway(), "m1")).toThrow(/already a turnout called m1/);
});

it("removes a turnout with what serves it alone, and keeps what others use", () => {
  const shared = typed(smallRailway(), "y2", "control", "T1");
  const record = edit(shared, removeTurnouts(shared, ["y1", "m1"]).edits).record;
  expect(labels(record)).toEqual(["CD1", "D1", "M2", "PS1", "PS2", "PS3", "T1", "TB1", "Y2"]);
  expect(record.turnouts.find(({ id }) => id === "m2")?.movesWith).toBeNull();
});

it("removes a device with its assignments and, with a motor, the lamp on its contact", () => {
  const record = smallRailway();
  const after = edit(record, removeDevice(record, "y1").edits).record;
  expect(labels(after)).not.toContain("LP1");
  expect(after.assignments.some((a) => JSON.stringify(a).includes('"y1"') && a.role !== "control")).toBe(false);
});

it("copies a type, changes its figures and fits it", () => {
  let record = smallRailway();
  const { group, id } = copyType(record, "cdu", "My unit");
  record = edit(record, group.edits).record;
  record = edit(record, setFigure(record, id, "farads", 0.01).edits).record;
  record = edit(record, changeType(record, "cd1", id).edits).record;
  expect(typeOf(record, record.devices.find((device) => device.id === "cd1")!).figures.farads?.value).toBe(0.01);
  expect(() => setFigure(record, "cdu", "farads", 1)).toThrow(/Copy the type first/);
  expect(edit(record, setFigure(record, id, "farads", null).edits).record.types[0]!.figures).toEqual({});
});

const problemsOf = (rows: string[][]) => {
  try {
    turnoutsFromTable(smallRailway(), rows);
  } catch (error) {
    if (error instanceof RecordError) return error.problems.map(({ message }) => message);
    throw error;
  }
  return [];
};

it("names row and column of what is wrong in a table, and takes nothing over", () => {
  expect(
    problemsOf([
      ["label", "speed", "motor", "colour"],
      ["A", "1", "", "red"],
    ])[0],
  ).toMatch(/^Row 1: "speed" and "colour" are no headings of the turnout list\. Its headings are label, /);
  expect(problemsOf([["name"], ["A"]])[0]).toMatch(/no column is headed "label"/);
  expect(
    problemsOf([
      ["label", "turnout"],
      ["A", "B"],
    ])[0],
  ).toMatch(/two columns are headed label/);
  expect(problemsOf([HEAD])[0]).toMatch(/no rows below/);
  expect(problemsOf([["label"], ...Array.from({ length: 1001 }, (_, i) => [`A${i}`])])[0]).toMatch(
    /1001 rows; at most 1000/,
  );
  expect(
    problemsOf([
      ["label", "hand"],
      ["A", "left"],
      ["A", "up"],
      ["M1", ""],
      ["", "left"],
    ]),
  ).toEqual([
    "Row 3, label: there is already a turnout called A.",
    "Row 4, label: there is already a turnout called M1.",
    expect.stringMatching(/^Row 5, label: the label must/),
  ]);
  expect(
    problemsOf([
      ["label", "Hand", "motor"],
      ["A", "up", "stall"],
      ["B", "left", "=1+1", "x"],
    ]),
  ).toEqual([expect.stringMatching(/^Row 3, column 4: there are 4 cells but 3 headings/)]);
  expect(
    problemsOf([
      ["label", "Hand", "motor"],
      ["A", "up", "=1+1"],
    ]),
  ).toEqual([
    expect.stringMatching(/^Row 2, Hand: "up" is no hand/),
    expect.stringMatching(/^Row 2, motor: "=1\+1" is a formula/),
  ]);
});

it("takes headings of other wording, blank rows and a leader further down", () => {
  const record = emptyRecord("Test");
  const group = turnoutsFromTable(record, [
    ["Turnout", "Moves with"],
    ["B2", "B1"],
    ["", ""],
    ["B1", ""],
  ]);
  const after = edit(record, group.edits).record;
  expect(after.turnouts.find(({ label }) => label === "B2")?.movesWith).toBe("b1");
  expect(group.words).toBe("Took in 2 turnouts from a table");
});

it("feeds a control that has electronics, and takes the supply away again when another kind is fitted", () => {
  const record = railway(["A", "", "stall-motor", "input-decoder-4", "touch-button"]);
  const fed = (of: RailwayRecord) => of.assignments.filter((a) => a.role === "supply" && a.toDeviceId === "tc1").length;
  expect(fed(record)).toBe(1);
  const plain = edit(record, changeType(record, "tc1", "toggle-centre-off").edits).record;
  expect(fed(plain)).toBe(0);
  expect(fed(edit(plain, changeType(plain, "tc1", "touch-button").edits).record)).toBe(1);
});

describe("a table from elsewhere", () => {
  const taken = (rows: string[][], mapped = {}) => {
    const record = emptyRecord("Test");
    return edit(record, turnoutsFromTable(record, rows, mapped).edits).record;
  };

  it("has its headings mapped to columns of the list, or left out", () => {
    const rows = [
      ["Points", "Machine", "Colour"],
      ["A", "stall-motor", "red"],
    ];
    expect(unknownHeadings(rows[0]!)).toEqual(["Points", "Machine", "Colour"]);
    const record = taken(rows, { Points: "label", Machine: "motor", Colour: null });
    expect(record.turnouts.map(({ label }) => label)).toEqual(["A"]);
    expect(record.devices.map(({ typeId }) => typeId)).toEqual(["stall-motor"]);
    expect(() => taken(rows, { Points: "label", Machine: "motor" })).toThrow(/"Colour" is no heading/);
  });

  it("keeps the numbers that its rows have in the file, blank ones counted", () => {
    expect(() => taken([["label", "hand"], ["A", "left"], [""], ["B", "up"]])).toThrow(/^Row 4, hand: /);
  });

  it("drops nothing that is said of a turnout that moves with another without a word", () => {
    const rows = (driver: string) => [
      ["label", "with", "motor", "driver"],
      ["A", "", "stall-motor", "stall-decoder-8"],
      ["B", "A", "stall-motor", driver],
    ];
    expect(() => taken(rows("D1-2"))).toThrow(/^Row 3, driver: B moves with A, and this is said of A for both\./);
    expect(taken(rows("")).turnouts).toHaveLength(2);
    // the same as the leading one's is true
    expect(taken(rows("D1-1")).turnouts).toHaveLength(2);
  });
});

it("says what hangs on a device before it is removed", () => {
  const record = smallRailway();
  const id = (label: string) => record.devices.find((device) => device.label === label)!.id;
  expect(hangsOn(record, id("D1"))).toEqual(["drives M1", "drives M2"]);
  expect(hangsOn(record, id("PS1"))).toEqual(["feeds CD1"]);
  expect(hangsOn(record, id("M1"))).toEqual(["lights LP2"]);
  const spare = edit(record, addBoard(record, "servo-board-4").edits).record;
  expect(hangsOn(spare, "sb1")).toEqual([]);
});

it("gives the second motor of a pair a discharge unit of its own, which stays beside the leader's", () => {
  const pair = railway(
    ["A", "", "twin-coil-surface", "cdu-motor", "toggle-centre-off"],
    ["B", "A", "twin-coil-surface"],
  );
  let record = typed(pair, "b", "driver", "cdu-motor");
  expect([cell(record, "a", "driver"), cell(record, "b", "driver")]).toEqual(["CU1", "CU2"]);
  expect(new Derived(record).complete).toEqual(["a"]);
  record = typed(record, "a", "driver", "cdu");
  expect([cell(record, "a", "driver"), cell(record, "b", "driver")]).toEqual(["CD1", "CU2"]);
  // on a decoder's output both go together again
  expect(cell(typed(record, "a", "driver", "coil-decoder-4"), "b", "driver")).toBe("D1-1");
  expect(cell(typed(record, "b", "driver", ""), "b", "driver")).toBe("CD1");
  expect(() => typed(record, "b", "driver", "coil-decoder-4")).toThrow(
    "B is driven with A; it may have a discharge unit of its own, and nothing else.",
  );
});
