// The samples as they are shipped: what an owner who opens one will see.
import { readFileSync } from "node:fs";
import { expect, it } from "vitest";
import { edit, openRailwayFile } from "../src/catalogue/edit.ts";
import { Derived } from "../src/derive.ts";
import { writeCell } from "../src/equip/write.ts";
import { RULES } from "../src/findings/rules.ts";
import { matricesOf } from "../src/routes/boards.ts";

const sample = (name: string) =>
  openRailwayFile(readFileSync(new URL(`../../samples/${name}.json`, import.meta.url), "utf8"));

it("has five mistakes planted on the demo, a wire on another screw, an output and a setting that are otherwise, and two events amiss, found beside a note, and keeps what is noted", () => {
  const { findings, complete, schematic } = new Derived(sample("skerrin-ferry"));
  const found = (counts: boolean) =>
    findings
      .filter(({ kept }) => (kept === null) === counts)
      // wires are numbered as they come
      .map(({ ruleId, where }) => `${ruleId} ${where.replace(/^W\d+$/, "a wire")}`);
  expect(found(true)).toEqual([
    "coil-held-on Y4",
    "pair-thrown-against M2 of M1/M2",
    "frog-wrong-rail L2F",
    "lamp-common LP4",
    "route-sneak T2",
    "made-serves-nothing a wire",
    "lamp-reverse-voltage LP5",
    "answers-otherwise D1-3",
    "setting-differs IN1",
    "setting-differs SB1-2",
    "output-two-masters ON1-2",
    "event-unheard Lights of the quay",
    "hand-differs L3",
    "coils-together X1",
    "coils-together Y1",
    "train-keeps-asking B1",
    "block-unwatched Main and 1 more",
  ]);
  expect(found(false)).toEqual(["wire-not-protected PS2", "wire-not-protected TB1"]);
  expect(complete).toHaveLength(schematic.threads.length);
});

it("has nothing wrong on the yard of two ends but that two buttons can be pressed, and each button sets ten turnouts or fewer", () => {
  const { findings, schematic, complete } = new Derived(sample("yard"));
  expect(findings.map(({ ruleId }) => ruleId)).toEqual(["coils-together", "coils-together"]);
  expect(complete).toHaveLength(schematic.threads.length);
  const [matrix] = matricesOf(sample("yard"));
  // derived: two ladders of six roads, twenty links and six plain wires each
  expect([matrix?.boards.length, matrix?.joins.length, matrix?.construction.diodes]).toEqual([2, 40, 28]);
});

it("has nothing wrong on the shelf of four turnouts, and each goes where it is asked", () => {
  const derived = new Derived(sample("shelf"));
  expect(derived.findings).toEqual([]);
  expect(derived.complete).toHaveLength(4);
  for (const thread of derived.schematic.threads) {
    for (const position of ["N", "R"] as const)
      expect(derived.reading(thread, position, "throwing").motors[0]?.goesTo).toBe(position);
  }
});

/** About the railway as a whole: what one exhibit lacks another has. */
const WHOLE = new Set(["no-spare-core", "same-colours-beside"]);
/** About track and its rails, of which no turnout is part. */
const TRACK = new Set([
  ...["blocks-run-together", "feeders-against", "rail-unfed", "detector-rail-uncut", "block-unwatched"],
  ...["signal-guards-nothing", "block-bridged", "detector-misses-axle"],
]);

it("finds on the sample of mistakes what each of them is about, at the turnout that shows it", () => {
  const derived = new Derived(sample("mistakes"));
  for (const [index, { id, title }] of RULES.entries()) {
    if (WHOLE.has(id)) continue;
    const shown = derived.findings.filter(({ ruleId }) => ruleId === id);
    if (TRACK.has(id)) {
      expect(shown, title).not.toEqual([]);
      continue;
    }
    const at = shown.flatMap(({ turnoutIds }) => turnoutIds);
    expect(
      at.some((turnoutId) => turnoutId.startsWith(`x${index + 1}-`)),
      title,
    ).toBe(true);
  }
});

it("has no turnout on the sample of schools that does not go where it is asked", () => {
  const derived = new Derived(sample("schools"));
  expect(derived.findings.filter(({ severity }) => severity === "stop")).toEqual([]);
  for (const thread of derived.schematic.threads) {
    for (const position of ["N", "R"] as const) {
      const went = derived.reading(thread, position, "rest").motors.map(({ goesTo }) => goesTo);
      expect(new Set(went), `${thread.label} ${thread.turnout.name}`).toEqual(new Set([position]));
    }
  }
});

it("has 400 complete turnouts on the club railway, with no fault", () => {
  const derived = new Derived(sample("club-400"));
  expect(derived.record.turnouts).toHaveLength(400);
  expect(derived.findings).toEqual([]);
  expect(derived.complete).toHaveLength(derived.schematic.threads.length);
  const { threads } = derived.schematic;
  for (const thread of [threads[0]!, threads[20]!, threads.at(-1)!]) {
    for (const position of ["N", "R"] as const) {
      const went = derived.reading(thread, position, "throwing").motors.map(({ goesTo }) => goesTo);
      expect(new Set(went)).toEqual(new Set([position]));
    }
  }
});

it("solves anew only what an edit on the club railway touched, with the same outcome", () => {
  const record = sample("club-400");
  const before = new Derived(record);
  const first = before.findings.length;
  const changed = edit(record, writeCell(record, "a5", "control", "toggle-latching")!.edits).record;
  const kept = new Derived(changed, before).findings;
  expect(kept.length).toBeGreaterThan(first);
  expect(kept.map(({ key, why }) => `${key} ${why}`)).toEqual(
    new Derived(changed).findings.map(({ key, why }) => `${key} ${why}`),
  );
});
