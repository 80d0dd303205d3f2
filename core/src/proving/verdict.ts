import type { TestResult } from "../record/schemas.ts";
import { changedSince } from "./chain.ts";
import type { TestStep } from "./testSteps.ts";

/** Where a step of a test sheet stands. */
export interface Standing {
  state: "passed" | "failed" | "no-change" | "stale" | "open";
  /** The latest result of the step, if any. */
  result: TestResult | null;
  /** What has changed since, when stale. */
  changes: string[];
}

/** The latest result of a step and whether it still holds. */
export function standingOf(step: TestStep, tests: readonly TestResult[]): Standing {
  const own = tests.filter((test) => test.turnoutId === step.turnoutId && test.step === step.key);
  const latest = own.reduce<TestResult | null>(
    (newest, test) => (newest === null || test.at >= newest.at ? test : newest),
    null,
  );
  if (!latest) return { state: "open", result: null, changes: [] };
  const changes = changedSince(latest, step);
  return { state: changes.length > 0 ? "stale" : latest.verdict, result: latest, changes };
}

/** What was found at a step: a reading in the step's unit, null for open; or what was seen. */
export type Found = { read: number | null } | { seen: string };

/**
 * The verdict on what was read or seen.
 *
 * "No change" is neither passed nor failed: the turnout was already there.
 * @param read in the step's unit, null when the meter showed open
 */
export function verdictOf(step: TestStep, found: Found): TestResult["verdict"] {
  if ("seen" in found) {
    if (found.seen === "no change") return "no-change";
    return found.seen === step.wanted ? "passed" : "failed";
  }
  const { read } = found;
  if (read === null || step.low === null || step.high === null) return read === step.expected ? "passed" : "failed";
  return read >= step.low && read <= step.high ? "passed" : "failed";
}
