// A remedy is offered only if, made and solved, its finding is gone and nothing graver has come.
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { mounted, railway, withFigures } from "../../testing/build.ts";
import { EXHIBITS, randomRailway } from "../../testing/exhibits.ts";
import { MISTAKES } from "../../testing/mistakes.ts";
import { edit } from "../catalogue/edit.ts";
import { Derived } from "../derive.ts";
import type { Finding } from "../findings/rule.ts";
import { putEdit } from "../record/edits.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { cures, curesOf, Trial } from "./cures.ts";

const GRADES = { note: 0, look: 1, stop: 2 };

/** What pressing every button beside the findings of a railway leaves undone or makes worse; worked out anew each time. */
function pressed(record: RailwayRecord): string[] {
  const before = new Derived(record);
  const was = new Map(before.findings.map((finding) => [finding.key, finding]));
  return before.findings.flatMap((finding) => {
    const cures = curesOf(before, finding);
    const twice = cures.length - new Set(cures.map(({ label }) => label)).size;
    const wrong = cures.flatMap(({ label, group }) => {
      if (!group) return [];
      const after = new Derived(edit(record, group.edits).record).findings;
      const left = after.find(({ key }) => key === finding.key);
      const graver = after.filter(
        ({ key, severity }) =>
          GRADES[severity] > Math.max(GRADES[was.get(key)?.severity ?? "note"], GRADES[finding.severity]),
      );
      const said = (each: Finding) => `${finding.key}: ${label} leaves ${each.key}`;
      return [...(left && left.why === finding.why ? [said(left)] : []), ...graver.map(said)];
    });
    return twice > 0 ? [...wrong, `${finding.key} offers something twice`] : wrong;
  });
}

it.each(Object.keys(EXHIBITS))("cures with every button: %s", (name) => {
  expect(pressed(EXHIBITS[name]!())).toEqual([]);
});

it("cures with every button on any railway that can be entered", { timeout: 240_000 }, () => {
  fc.assert(
    fc.property(randomRailway(12), (record) => {
      expect(pressed(record)).toEqual([]);
    }),
    { numRuns: 40 },
  );
});

it.each(Object.keys(MISTAKES))("knows what to do about everything grave: %s", (name) => {
  const derived = new Derived(MISTAKES[name]!());
  for (const finding of derived.findings.filter(({ severity }) => severity === "stop"))
    expect(
      curesOf(derived, finding).filter(({ group }) => group),
      finding.why,
    ).not.toEqual([]);
});

it.each(Object.keys(MISTAKES))("comes to the same verdict however often it is interrupted: %s", (name) => {
  const before = new Derived(MISTAKES[name]!());
  for (const finding of before.findings)
    for (const remedy of finding.remedies) {
      const trial = new Trial(before, finding, remedy);
      let verdict: boolean | null = null;
      let parts = 0;
      for (; verdict === null && parts < 10_000; parts++) verdict = trial.go(() => true);
      expect(verdict, `${finding.key}: ${remedy.label}`).toBe(cures(before, finding, remedy));
      expect(parts > 1 || !remedy.group || !verdict).toBe(true);
    }
});

it("ends a trial as soon as the finding is seen to be left", () => {
  const before = new Derived(MISTAKES["pulse-lost-in-wire"]!());
  const finding = before.findings.find(({ ruleId }) => ruleId === "pulse-lost-in-wire")!;
  const group = { words: "A note", edits: [putEdit("device", { ...before.record.devices[0]!, note: "seen" })] };
  let steps = 0;
  expect(new Trial(before, finding, { label: "Note", group }).go(() => ++steps < 0)).toBe(false);
  const all = new Derived(before.record).checking;
  let ofAll = 0;
  all.go(() => ++ofAll < 0);
  expect(steps).toBeLessThan(ofAll);
});

describe("what is not offered", () => {
  const offered = (record: RailwayRecord, ruleId: string) => {
    const derived = new Derived(record);
    const finding = derived.findings.find((each) => each.ruleId === ruleId)!;
    return {
      all: finding.remedies.map(({ label }) => label),
      cures: curesOf(derived, finding).map(({ label }) => label),
    };
  };

  it("is what the finding outlasts: thicker cables where the wires are to blame", () => {
    const { all, cures } = offered(MISTAKES["pulse-lost-in-wire"]!(), "pulse-lost-in-wire");
    expect(all).toEqual(["Lay all cables in 0.5 mm2", "Lay all wires in 1 mm2"]);
    expect(cures).toEqual(["Lay all wires in 1 mm2"]);
  });

  it("is what leaves a coil burning: a sprung toggle on a bare supply, or a unit behind a toggle that stays", () => {
    const { cures } = offered(MISTAKES["wire-over-current"]!(), "coil-held-on");
    expect(cures).toEqual(["Make T1 a centre-off momentary toggle, and put A on a discharge unit"]);
  });

  it("is a resistor that is there already", () => {
    const dim = withFigures(railway(["A", "", "stall-motor", "stall-decoder-8", "", "lamp-two-colour"]), "PS2", {
      volts: 3,
    });
    const { cures } = offered(dim, "lamp-current");
    expect(cures.filter((label) => /390 ohm/.test(label))).toEqual([]);
  });

  it("but what is of no use here stays, and says why", () => {
    const pair = railway(["A", "", "stall-motor", "stall-decoder-8"], ["B", "A", "stall-motor"]);
    const { cures } = offered(mounted(pair, "b", { opposite: true }), "pair-thrown-against");
    expect(cures).toEqual(["Swap the leads at B+/B−", "Reverse it in the decoder"]);
  });
});
