// What must hold of every finding and every button beside it, on each mistake and on the samples as shipped.
import { readFileSync } from "node:fs";
import { describe, expect, it } from "vitest";
import { drafted } from "../../testing/build.ts";
import { MISTAKES } from "../../testing/mistakes.ts";
import { routeButton, SHARED, zonesAtInputs } from "../../testing/recipes.ts";
import { ROUTED } from "../../testing/routes.ts";
import { edit, openRailwayFile } from "../catalogue/edit.ts";
import { touchedWords } from "../consequences/consequences.ts";
import { Derived } from "../derive.ts";
import { COLUMNS } from "../equip/columns.ts";
import { find } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { readRailwayFile, writeRailwayFile } from "../record/railwayFile.ts";
import { FINDING_STAGES, type Finding } from "./rule.ts";
import { RULES } from "./rules.ts";

const sample = (name: string) => () =>
  openRailwayFile(readFileSync(new URL(`../../../samples/${name}.json`, import.meta.url), "utf8"));
/** A railway whose boards have lost their supplies. */
const unfed = (record: RailwayRecord) => drafted(record, (draft) => draft.unassign((a) => a.role === "supply"));
const ALL: Record<string, () => RailwayRecord> = {
  ...MISTAKES,
  ...Object.fromEntries(Object.entries(SHARED).map(([what, { make }]) => [what, make])),
  "a button of a route": routeButton,
  "zones at inputs": zonesAtInputs,
  "shared toggles that nothing feeds": () => unfed(SHARED["one latching toggle at two outputs"]!.make()),
  "a route without a supply": () => unfed(routeButton()),
  ...ROUTED,
  "sample yard": sample("yard"),
  "sample Skerrin Ferry": sample("skerrin-ferry"),
  "sample shelf": sample("shelf"),
  "sample schools": sample("schools"),
};

/** A finding as a reader would see it that nothing was worked out for. */
const NONSENSE = /NaN|undefined|null|Infinity|\[object/;

describe.each(Object.keys(ALL))("%s", (name) => {
  const record = ALL[name]!();
  const { findings } = new Derived(record);

  it("says where, why and to whom, in words that make sense", () => {
    for (const { key, ruleId, where, why, title, stage, column, turnoutIds, terminals } of findings) {
      expect(RULES.map(({ id }) => id)).toContain(ruleId);
      expect(where, key).not.toBe("");
      expect(`${title} ${where} ${why} ${terminals.join(" ")}`, key).not.toMatch(NONSENSE);
      expect(why, key).toMatch(/^\S.*[.]$/);
      expect(FINDING_STAGES).toContain(stage);
      if (column !== null) expect(COLUMNS.map(({ id }) => id)).toContain(column);
      for (const id of turnoutIds) expect(find(record, "turnout", id), `${key}: ${id}`).toBeDefined();
    }
    // one key for each, so that a kept one can be told from the others
    expect(new Set(findings.map(({ key }) => key)).size).toBe(findings.length);
  });

  it("offers only what can be done, and says beforehand what it changes", () => {
    for (const { key, remedies } of findings) {
      for (const { label, group, harm } of remedies) {
        expect(label, key).not.toMatch(NONSENSE);
        // what is of no use says why
        if (!group) expect(harm, `${key}: ${label}`).toMatch(/^\S/);
        if (!group) continue;
        const after = edit(record, group.edits).record;
        expect(readRailwayFile(writeRailwayFile(after)), `${key}: ${label}`).toEqual(after);
        const words = touchedWords(record, group.edits);
        expect(words.length, `${key}: ${label}`).toBeGreaterThan(0);
        for (const { what, from, to } of words)
          expect(`${what} ${from} ${to}`, `${key}: ${label}`).not.toMatch(NONSENSE);
      }
    }
  });

  it("has each of its remedies undone to the same railway", () => {
    for (const { remedies } of findings.slice(0, 6)) {
      for (const { group } of remedies) {
        if (!group) continue;
        const { record: after, inverses } = edit(record, group.edits);
        expect(edit(after, inverses).record).toEqual(record);
      }
    }
  });
});

/** A finding kept by the owner. */
function kept(record: RailwayRecord, { ruleId, key, why }: Finding): RailwayRecord {
  return drafted(record, (draft) =>
    draft.put("acceptance", {
      ...{ id: "a1", rule: ruleId, subject: key.slice(ruleId.length + 1), cause: why },
      ...{ reason: "fused at the supply", at: "2026-05-12T20:14:00.000Z" },
    }),
  );
}

it.each(Object.keys(MISTAKES))(
  "is kept with a reason unless it stops, and counts again when its cause changes: %s",
  (id) => {
    const record = MISTAKES[id]!();
    const finding = new Derived(record).findings.find(({ ruleId }) => ruleId === id)!;
    const accepted = kept(record, finding);
    const same = new Derived(accepted).findings.find(({ key }) => key === finding.key);
    expect(same?.kept).toBe(finding.severity === "stop" ? null : "fused at the supply");
    const otherCause = drafted(accepted, (draft) =>
      draft.put("acceptance", { ...accepted.acceptances[0]!, cause: "something else" }),
    );
    expect(new Derived(otherCause).findings.find(({ key }) => key === finding.key)?.kept).toBeNull();
  },
);
