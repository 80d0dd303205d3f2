import type { Finding, RailwayRecord } from "@alderman/core";

/** Turnouts that a finding may concern and still be about each of them; of more, only those that it names count. */
const FEW = 3;

/** Whether a finding that counts is about a turnout, and not one of many that something shared is told of. */
export function isAbout(
  { severity, kept, turnoutIds, where }: Finding,
  turnout: Pick<RailwayRecord["turnouts"][number], "id" | "label" | "movesWith">,
): boolean {
  if (kept !== null || severity === "note") return false;
  if (where === turnout.label) return true;
  return turnoutIds.length <= FEW && turnoutIds.includes(turnout.movesWith ?? turnout.id);
}

/** The gravest finding about each turnout. */
export function gravest(
  record: RailwayRecord | null,
  findings: readonly Finding[],
): ReadonlyMap<string, "stop" | "look"> {
  const found = new Map<string, "stop" | "look">();
  const counted = findings.filter(({ kept, severity }) => kept === null && severity !== "note");
  for (const turnout of record?.turnouts ?? []) {
    const own = counted.filter((finding) => isAbout(finding, turnout));
    if (own.length > 0) found.set(turnout.id, own.some(({ severity }) => severity === "stop") ? "stop" : "look");
  }
  return found;
}
