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
export function cures(before: Derived, finding: Finding, remedy: Remedy): boolean {
  return new Trial(before, finding, remedy).go(() => false) ?? false;
}

/**
 * A remedy made on a copy and everything solved, in steps, so that who waits for something else need not wait for all of it. It is
 * over as soon as the finding is seen to be left, or something graver in its place.
 */
export class Trial {
  private readonly was: ReadonlyMap<string, Severity>;
  private after: Derived | null = null;

  /** @param before checked to the end */
  constructor(
    readonly before: Derived,
    readonly finding: Finding,
    readonly remedy: Remedy,
  ) {
    this.was = new Map(counted(before.findings).map(({ key, severity }) => [key, severity]));
  }

  /**
   * Goes on until it is known whether the remedy cures, or somebody waits.
   * @param isWaiting is asked after each step
   * @returns null while it is not known
   */
  go(isWaiting: () => boolean): boolean | null {
    const { group } = this.remedy;
    this.after ??= group && afterwards(this.before, group.edits);
    if (!this.after) return false;
    const { checking } = this.after;
    let looked = checking.looked.size;
    let holds = true;
    const share = checking.go(() => {
      const { size } = checking.looked;
      if (size > looked) holds = this.holds(checking.findings);
      looked = size;
      return !holds || isWaiting();
    });
    if (!holds || share < 1) return holds ? null : false;
    return this.holds(checking.findings);
  }

  /** Whether nothing that is found afterwards, as far as it was looked for, says that the remedy does not cure. */
  private holds(findings: readonly Finding[]): boolean {
    const { finding, was } = this;
    const now = counted(findings);
    const left = now.find(({ key }) => key === finding.key);
    // what is missing is put right step by step: something else may be missing then
    if (left && !(STEPWISE.has(finding.ruleId) && left.why !== finding.why)) return false;
    return now.every(({ key, severity }) => {
      const earlier = was.get(key);
      if (earlier !== undefined && GRADES[severity] <= GRADES[earlier]) return true;
      return GRADES[severity] < GRADES[finding.severity] || (severity !== "stop" && severity === finding.severity);
    });
  }
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
