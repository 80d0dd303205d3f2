import type { Finding, Look, Rule, Severity } from "./rule.ts";
import { BY_RECORD, RULES, SWEPT } from "./rules.ts";

const GRADES: Record<Severity, number> = { stop: 0, look: 1, note: 2 };

/** The gravest first; those that the owner has accepted come last. */
export function gravestFirst(findings: readonly Finding[]): Finding[] {
  const isKept = ({ kept }: Finding) => Number(kept !== null);
  return [...findings].sort((a, b) => isKept(a) - isKept(b) || GRADES[a.severity] - GRADES[b.severity]);
}

/**
 * Looks for findings in steps, so that what is found can be shown meanwhile and a newer edit need not wait: first the rules for
 * which nothing is solved, then those that look at states by themselves, then piece by piece what can be set, then the rules about
 * that; of each kind the gravest first.
 */
export class Checking {
  private readonly found = new Map<Rule, Finding[]>();
  private readonly steps: Iterator<number, void>;
  private share = 0;

  /**
   * @param look what rules look at; that of what can be set is not asked for before `sweep` has come to its end
   * @param sweep looks at what can be set, in steps: how far it is after each, 0 to 1
   */
  constructor(look: Look, sweep: () => Iterable<number>) {
    this.steps = this.walk(look, sweep);
  }

  private *walk(look: Look, sweep: () => Iterable<number>): Generator<number, void> {
    const grave = (rule: Rule) => GRADES[rule.gravest];
    const order = (rules: readonly Rule[]) => [...rules].sort((a, b) => grave(a) - grave(b));
    const byRecord = order(RULES.filter((rule) => BY_RECORD.has(rule)));
    const byState = order(RULES.filter((rule) => !BY_RECORD.has(rule) && !SWEPT.has(rule)));
    const atOnce = [...byRecord, ...byState];
    const after = order(RULES.filter((rule) => SWEPT.has(rule)));
    for (const [number, rule] of atOnce.entries()) {
      this.found.set(rule, rule.run(look));
      yield (AT_ONCE * (number + 1)) / atOnce.length;
    }
    for (const share of sweep()) yield AT_ONCE + SWEEPING * share;
    for (const [number, rule] of after.entries()) {
      this.found.set(rule, rule.run(look));
      yield AT_ONCE + SWEEPING + ((1 - AT_ONCE - SWEEPING) * (number + 1)) / after.length;
    }
  }

  /**
   * Goes on until everything is looked at or somebody waits.
   * @param isWaiting is asked after each step, with how far it is, 0 to 1
   * @returns how far it is; 1 when everything is looked at
   */
  go(isWaiting: (share: number) => boolean): number {
    while (this.share < 1) {
      const { done, value } = this.steps.next();
      this.share = done ? 1 : Math.min(value, LAST);
      if (isWaiting(this.share)) break;
    }
    return this.share;
  }

  /** Whether nothing is left but what is looked at in the solved circuit. */
  get isAtCircuit(): boolean {
    return this.found.size >= BY_RECORD.size;
  }

  /** Whether everything that can be set was looked at. */
  get isSwept(): boolean {
    return this.share > AT_ONCE + SWEEPING;
  }

  /** What was found up to now, the gravest first, rules in their order within a grade. */
  get findings(): Finding[] {
    return gravestFirst(RULES.flatMap((rule) => this.found.get(rule) ?? []));
  }

  /** Rules that were looked at, by their identifiers. */
  get looked(): ReadonlySet<string> {
    return new Set([...this.found.keys()].map(({ id }) => id));
  }
}

/** Shares of the work that the rules of states by themselves, and looking at everything that can be set, make up, about. */
const AT_ONCE = 0.35;
const SWEEPING = 0.5;
/** Share up to the last step, which is told once that is done. */
const LAST = 0.999;
