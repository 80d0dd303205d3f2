// What a remedy is said to do before it is done is what it does.
import { describe, expect, it } from "vitest";
import { MISTAKES } from "../../testing/mistakes.ts";
import { edit } from "../catalogue/edit.ts";
import { Derived } from "../derive.ts";
import { consequencesOf, touchedWords } from "./consequences.ts";
import { curesOf } from "./cures.ts";

describe.each(Object.keys(MISTAKES))("the best remedy of %s", (id) => {
  const record = MISTAKES[id]!();
  const before = new Derived(record);
  const finding = before.findings.find(({ ruleId }) => ruleId === id);
  const best = finding && curesOf(before, finding).find(({ group }) => group);

  it("says that it cures the finding, and what comes in its place", () => {
    if (!finding || !best?.group) {
      // a rule without a button explains instead
      expect(finding?.why).toMatch(/^\S.*\.$/);
      return;
    }
    const { cured, raised } = consequencesOf(before, best.group);
    const after = new Derived(edit(record, best.group.edits).record);
    const whys = (derived: Derived) => derived.findings.filter(({ kept }) => kept === null).map(({ why }) => why);
    expect(cured).toContain(finding.why);
    for (const why of raised) expect(whys(after)).toContain(why);
    for (const why of cured) expect(whys(before)).toContain(why);
  });

  it("changes nothing by being looked at", () => {
    if (!best?.group) return;
    const text = JSON.stringify(record);
    consequencesOf(before, best.group);
    touchedWords(record, best.group.edits);
    expect(JSON.stringify(before.record)).toBe(text);
    expect(before.findings.find(({ ruleId }) => ruleId === id)?.why).toBe(finding?.why);
  });
});
