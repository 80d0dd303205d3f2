import type { FrogReading, ThreadFrog } from "@alderman/core";
import type { Verdict } from "../verdict.ts";

/** The verdict on a frog: carries what it must, the wrong rail, or nothing; none while the hand is not known. */
export function frogVerdict(frog: ThreadFrog, reads: FrogReading | undefined): Verdict {
  if (!frog.from || !reads?.wanted) return "open";
  if (reads.carries === null) return "doubtful";
  return reads.carries === reads.wanted ? "good" : "wrong";
}

/** What a frog carries, in few words. */
export function frogWords({ turnout }: ThreadFrog, reads: FrogReading | undefined): string {
  if (!reads?.carries) return "dead";
  if (turnout.hand === "unknown") return `carries ${reads.carries}; hand not known`;
  if (reads.byWheel) return `${reads.carries} after a wheel`;
  return reads.wanted && reads.wanted !== reads.carries
    ? `carries ${reads.carries}, not ${reads.wanted}`
    : `carries ${reads.carries}`;
}
