import type { Finding, Thread } from "@alderman/core";
import { type Verdict, verdictFor } from "../verdict.ts";

/** The worst that findings say of a link that is known by these labels. */
export function linkVerdict(findings: readonly Finding[], thread: Thread, labels: readonly string[]): Verdict {
  const own = findings.filter(
    ({ kept, turnoutIds, where, terminals }) =>
      kept === null &&
      (turnoutIds.length === 0 || turnoutIds.includes(thread.turnout.id)) &&
      labels.some(
        (label) =>
          where === label ||
          terminals.some(
            (terminal) =>
              terminal === label || (terminal.startsWith(label) && /^[-+−~]/.test(terminal.slice(label.length))),
          ),
      ),
  );
  const [worst] = own;
  return worst ? verdictFor(worst.severity) : "good";
}
