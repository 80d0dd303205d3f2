import type { Steps } from "../record/steps.ts";
import type { Finding, Look, Rule, Severity } from "./rule.ts";
import { BY_RECORD, RULES, SWEPT } from "./rules.ts";

const GRADES: Record<Severity, number> = { stop: 0, look: 1, note: 2 };

/** The gravest first; those that the owner has accepted come last. */
export function gravestFirst(findings: readonly Finding[]): Finding[] {
  const isKept = ({ kept }: Finding) => Number(kept !== null);
  return [...findings].sort((a, b) => isKept(a) - isKept(b) || GRADES[a.severity] - GRADES[b.severity]);
}

/** What is done between the rules, in steps. */
export interface Between {
  /** Takes over what was known before an edit. */
  takeOver: () => Steps<void>;
  /** Finds out where motors go: how far it is after each step, 0 to 1. */
  settle: () => Iterable<number>;
  /** Looks at what can be set; that is not asked for before it has come to its end. */
  sweep: () => Iterable<number>;
}

/**
 * Looks for findings in steps, so that what is found can be shown meanwhile and a newer edit need not wait: first the rules for
 * which nothing is solved, those of the line last, then thread by thread where its motors go, which the others ask for, then those
 * that look at states by themselves, then piece by piece what can be set, then the rules about that; of each kind the gravest first.
 */
export class Checking {
  private readonly found = new Map<Rule, Finding[]>();
  private readonly steps: Iterator<number, void>;
  private far = 0;
  /** What a step failed by. */
  private failure: { error: unknown } | null = null;
  /** Whether everything that can be set was looked at. */
  isSwept = false;

  /** @param look what rules look at */
  constructor(look: Look, between: Between) {
    this.steps = this.walk(look, between);
  }

  private *walk(look: Look, { takeOver, settle, sweep }: Between): Generator<number, void> {
    for (const _ of takeOver()) yield 0;
    const grave = (rule: Rule) => GRADES[rule.gravest];
    const order = (rules: readonly Rule[]) => [...rules].sort((a, b) => grave(a) - grave(b));
    // for the first rule of the line all of it is worked out
    const ofLine = (rule: Rule) => Number(rule.stage === "line");
    const byRecord = order(RULES.filter((rule) => BY_RECORD.has(rule))).sort((a, b) => ofLine(a) - ofLine(b));
    const byState = order(RULES.filter((rule) => !BY_RECORD.has(rule) && !SWEPT.has(rule)));
    const after = order(RULES.filter((rule) => SWEPT.has(rule)));
    let done = 0;
    const parts: [share: number, steps: () => Iterable<number>][] = [
      [SHARES.byRecord, () => this.lookedAt(byRecord, look)],
      [SHARES.settling, settle],
      [SHARES.byState, () => this.lookedAt(byState, look)],
      [SHARES.sweeping, sweep],
      [SHARES.after, () => this.lookedAt(after, look)],
    ];
    for (const [share, steps] of parts) {
      for (const far of steps()) yield done + share * far;
      done += share;
      this.isSwept = steps === sweep || this.isSwept;
    }
  }

  /** Looks for what rules find, rule by rule, and with each in its own steps. */
  private *lookedAt(rules: readonly Rule[], look: Look): Generator<number, void> {
    for (const [number, rule] of rules.entries()) {
      const steps = rule.run(look);
      let step = steps.next();
      for (; !step.done; step = steps.next()) yield number / rules.length;
      this.found.set(rule, step.value);
      yield (number + 1) / rules.length;
    }
  }

  /**
   * Goes on until everything is looked at or somebody waits.
   * @param isWaiting is asked after each step, with how far it is, 0 to 1
   * @returns how far it is; 1 when everything is looked at
   * @throws what a step failed by, each time: what is left was not looked at
   */
  go(isWaiting: (share: number) => boolean): number {
    while (this.far < 1) {
      const { done, value } = this.next();
      this.far = done ? 1 : Math.min(value, LAST);
      if (isWaiting(this.far)) break;
    }
    return this.far;
  }

  private next(): IteratorResult<number, void> {
    if (this.failure) throw this.failure.error;
    try {
      return this.steps.next();
    } catch (error) {
      this.failure = { error };
      throw error;
    }
  }

  /** How far it is, 0 to 1; 1 when everything is looked at. */
  get share(): number {
    return this.far;
  }

  /** Whether nothing is left but what is looked at in the solved circuit. */
  get isAtCircuit(): boolean {
    return this.found.size >= BY_RECORD.size;
  }

  /** What was found up to now, the gravest first, rules in their order within a grade. */
  get findings(): Finding[] {
    return this.findingsAmid([]);
  }

  /** The same, and of rules that have not looked yet what was found before. */
  findingsAmid(before: readonly Finding[]): Finding[] {
    const of = (rule: Rule) => this.found.get(rule) ?? before.filter(({ ruleId }) => ruleId === rule.id);
    return gravestFirst(RULES.flatMap(of));
  }

  /** Rules that were looked at, by their identifiers. */
  get looked(): ReadonlySet<string> {
    return new Set([...this.found.keys()].map(({ id }) => id));
  }
}

/** Shares of the work, about: the rules of the record, where motors go, the rules of states by themselves, all that can be set, and the rules about that. */
const SHARES = { byRecord: 0.05, settling: 0.3, byState: 0.25, sweeping: 0.25, after: 0.15 };
/** Share up to the last step, which is told once that is done. */
const LAST = 0.999;
