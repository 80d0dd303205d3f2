import type { Severity } from "@alderman/core";

export type Verdict = "good" | "wrong" | "doubtful" | "stale" | "open";

/** The verdict that a finding's severity stands for. */
export function verdictFor(severity: Severity): Verdict {
  return severity === "stop" ? "wrong" : severity === "look" ? "doubtful" : "open";
}
