// Makes samples/*.json through the product's own edits, so that a sample is never more than an owner could enter.
import { writeFileSync } from "node:fs";
import {
  type Assignment,
  addBoard,
  changeType,
  Derived,
  Draft,
  edit,
  emptyRecord,
  type RailwayRecord,
  RULES,
  setAddress,
  type TestStep,
  testResult,
  turnoutsFromTable,
  writeRailwayFile,
} from "@alderman/core";
import { MISTAKES } from "../core/testing/mistakes.ts";
import { DRIVING, FROGS, LAMPS } from "../core/testing/recipes.ts";
import { clubRailway } from "./clubRailway.ts";
import { merged } from "./merged.ts";

/** The part of Skerrin Ferry that can be planned so far. */
function skerrinFerry(): RailwayRecord {
  let record = emptyRecord("Skerrin Ferry");
  record.railway.note =
    "Train-ferry terminal on a shelf 5.2 m by 0.6 m with a drop-down wing, H0. An invented railway; three things on it are wired wrong on purpose.";
  const apply = (edits: Parameters<typeof edit>[1]) => {
    record = edit(record, edits).record;
  };
  apply(addBoard(record, "cdu").edits);
  apply(addBoard(record, "stall-decoder-8").edits);
  const yard = ["Y1", "Y2", "Y3", "Y4", "Y5"];
  const stall = "stall-motor";
  const coil = "twin-coil-under-board";
  const lamp = "lamp-two-colour";
  const toggle = "toggle-centre-off";
  apply(
    turnoutsFromTable(record, [
      ["label", "name", "hand", "zone", "with", "motor", "driver", "control", "lamp", "address", "run", "frog"],
      ["M1", "Main line, west end of crossover", "left", "Main line", "", stall, "D1-1", "", lamp, "21", "1.2", "S2"],
      ["M2", "Main line, east end of crossover", "left", "Main line", "M1", stall, "", "", "", "", "0.9", "S2"],
      ["L1", "Linkspan, road 1", "right", "Linkspan", "", stall, "D1-2", "", lamp, "22", "2.1", "S2"],
      ["L2", "Linkspan, road 2", "left", "Linkspan", "", stall, "D1-3", "", lamp, "23", "2.4", "S2 crossed"],
      ["S1", "Engine shed", "left", "Shed", "", stall, "D1-4", "", lamp, "24", "1.6", "S2"],
      ["S2", "Coal road", "right", "Shed", "", stall, "D1-5", "", "", "25", "1.8", "S1"],
      ...yard.map((label, index) => [
        label,
        `Ferry yard, ladder turnout ${index + 1}`,
        index % 2 === 0 ? "right" : "left",
        "Ferry yard",
        "",
        label === "Y5" ? "twin-coil-surface" : coil,
        "CD1",
        toggle,
        label === "Y5" ? "" : lamp,
        "",
        String(0.8 + index * 0.3),
        // one contact each, which the lamp has; the motor without a contact needs a unit for the frog
        label === "Y5" ? "polarity unit" : "",
      ]),
    ]).edits,
  );
  const draft = new Draft(record);
  const board = record.devices.find((device) => device.label === "D1");
  // outputs not in use follow the run of the board
  if (board) for (const way of [6, 7, 8]) setAddress(draft, board.id, way, 20 + way);
  // M2 hangs on the far side of the baseboard beam, and its leads were not crossed
  const motor = record.assignments.find(
    (a): a is Extract<Assignment, { role: "motor" }> => a.role === "motor" && a.turnoutId === "m2",
  );
  if (motor) draft.put("assignment", { ...motor, opposite: true });
  apply(draft.edits);
  record = withTests(record);
  // after the tests somebody fitted a latching toggle for Y4
  const latching = record.devices.find((device) => device.label === "T4");
  if (latching) apply(changeType(record, latching.id, "toggle-latching").edits);
  return record;
}

/** Some tests of L1 and Y1, one of them made before its turnout's wire was moved. */
function withTests(record: RailwayRecord): RailwayRecord {
  const derived = new Derived(record);
  const draft = new Draft(record);
  let minute = 14;
  const note = (
    turnoutId: string,
    wanted: (step: TestStep) => boolean,
    change?: (chain: TestStep["chain"]) => TestStep["chain"],
  ) => {
    for (const { step } of derived.sheet(turnoutId).filter(({ step }) => wanted(step))) {
      const read = step.expected === null ? null : Number((step.expected * 1.01).toFixed(1));
      const found = step.unit === "seen" ? { seen: step.wanted ?? "" } : { read };
      const at = `2026-05-12T20:${String(minute++).padStart(2, "0")}:00.000Z`;
      const result = testResult(step, found, `${turnoutId}-${step.key}`.slice(0, 40), at);
      draft.put("test", change ? { ...result, chain: change(step.chain) } : result);
    }
  };
  note("l1", () => true);
  note("y1", (step) => step.key.startsWith("coil") || step.key.startsWith("charge"));
  note(
    "y1",
    (step) => step.key.startsWith("throw-n"),
    (chain) =>
      Object.fromEntries(
        Object.entries(chain).map(([name, was]) => [name, name.includes("Y1-N") ? "AWG 24, 1.4 m, BU" : was]),
      ),
  );
  return edit(record, draft.edits).record;
}

/** One turnout for each way of driving and commanding, feeding the frog and showing. */
function schools(): RailwayRecord {
  const all = { ...titled("", DRIVING), ...titled("Frog by ", FROGS), ...titled("Lamp from ", LAMPS) };
  const exhibits = Object.entries(all).map(([name, make]) => ({ name, record: make() }));
  return merged(
    "Schools",
    "Every way of driving, feeding the frog and showing, one turnout each, side by side.",
    exhibits,
  );
}

/** One railway for each rule, wired wrong in the way that the rule is about. */
function mistakes(): RailwayRecord {
  const exhibits = RULES.map(({ id, title }) => ({ name: title, record: MISTAKES[id]?.() ?? emptyRecord(id) }));
  const note = "One mistake for each rule of the findings, wired wrong on purpose. Nothing here is to be copied.";
  return merged("Mistakes", note, exhibits);
}

function titled(before: string, recipes: Record<string, () => RailwayRecord>): Record<string, () => RailwayRecord> {
  return Object.fromEntries(
    Object.entries(recipes).map(([name, make]) => {
      const title = `${before}${name}`;
      return [`${title.charAt(0).toUpperCase()}${title.slice(1)}`, make];
    }),
  );
}

const folder = new URL("../samples/", import.meta.url);
writeFileSync(new URL("club-400.json", folder), writeRailwayFile(clubRailway(400, 400)));
writeFileSync(new URL("schools.json", folder), writeRailwayFile(schools()));
writeFileSync(new URL("mistakes.json", folder), writeRailwayFile(mistakes()));
writeFileSync(new URL("skerrin-ferry.json", folder), writeRailwayFile(skerrinFerry()));
