import { edit } from "../catalogue/edit.ts";
import { Derived } from "../derive.ts";
import type { Finding, Remedy, Severity } from "../findings/rule.ts";
import { STEPWISE } from "../findings/rules.ts";
import { RecordError } from "../record/problems.ts";

const GRADES: Record<Severity, number> = { stop: 2, look: 1, note: 0 };

/**
 * The remedies of a finding that cure it, and those that say why they are of no use. Each is made on a copy and everything
 * solved: the finding must be gone, and nothing graver may have come in its place.
 */
export function curesOf(before: Derived, finding: Finding): Remedy[] {
  return finding.remedies.filter((remedy, index) => {
    // the same thing under two names, or twice, is offered once
    const isFirst = finding.remedies.findIndex((other) => isSame(other, remedy)) === index;
    return isFirst && (remedy.group === null || cures(before, finding, remedy));
  });
}

function isSame(a: Remedy, b: Remedy): boolean {
  if (a.label === b.label) return true;
  return a.group !== null && b.group !== null && JSON.stringify(a.group.edits) === JSON.stringify(b.group.edits);
}

/** Whether a remedy cures a finding, and brings nothing graver. */
export function cures(before: Derived, finding: Finding, { group }: Remedy): boolean {
  if (!group) return false;
  const after = afterwards(before, group.edits);
  if (!after) return false;
  const was = new Map(counted(before.findings).map((each) => [each.key, each]));
  const now = counted(after.findings);
  const left = now.find(({ key }) => key === finding.key);
  // what is missing is put right step by step: something else may be missing then
  if (left && !(STEPWISE.has(finding.ruleId) && left.why !== finding.why)) return false;
  return now.every(({ key, severity }) => {
    const earlier = was.get(key)?.severity;
    if (earlier !== undefined && GRADES[severity] <= GRADES[earlier]) return true;
    return GRADES[severity] < GRADES[finding.severity] || (severity !== "stop" && severity === finding.severity);
  });
}

const counted = (findings: readonly Finding[]) => findings.filter(({ kept }) => kept === null);

/** The railway with edits made; null when they are refused. */
function afterwards(before: Derived, edits: Parameters<typeof edit>[1]): Derived | null {
  try {
    return new Derived(edit(before.record, edits).record, before);
  } catch (error) {
    if (error instanceof RecordError) return null;
    throw error;
  }
}
