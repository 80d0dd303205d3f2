import type { TestResult } from "../record/schemas.ts";
import type { TestStep } from "./testSteps.ts";
import { type Found, verdictOf } from "./verdict.ts";

/**
 * The result of a step as it is recorded: what was expected then, what was found, the verdict and the chain it rests on.
 *
 * @param id identifier that no other test has
 * @param at when it was found, ISO 8601, UTC
 */
export function testResult(step: TestStep, found: Found, id: string, at: string): TestResult {
  const byEye = "seen" in found;
  return {
    id,
    turnoutId: step.turnoutId,
    step: step.key,
    position: step.position,
    unit: step.unit,
    expected: step.expected,
    low: step.low,
    high: step.high,
    read: byEye ? null : found.read,
    seen: byEye ? found.seen : null,
    verdict: verdictOf(step, found),
    instrument: byEye ? "by eye" : "hand-held meter",
    note: "",
    at,
    chain: step.chain,
  };
}
