import { Draft } from "../equip/draft.ts";
import type { EditGroup } from "../record/edits.ts";
import { freshId } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { KnownFrom, Sense } from "../record/notes.ts";
import type { At } from "./chains.ts";
import { type Link, ROLE_OF, senseAt } from "./ledger.ts";
import { PLACES } from "./places.ts";

/** What is written beside a place when its sense is set. */
export interface Written {
  known?: KnownFrom;
  note?: string;
  /** It was turned round here, by hand. */
  flipped?: boolean;
  at?: string;
}

/** Sets whether a place turns normal into reverse, where the record keeps it, and what is known of it. */
export function turnAt(draft: Draft, at: At, inverts: boolean, { known, note, flipped, at: when }: Written): void {
  const said = setInAssignment(draft, at, inverts);
  const before = senseAt(draft.record, at);
  if (said && known === undefined && !flipped && !before) return;
  const { link, deviceId, way } = at;
  const sense: Sense = {
    id: before?.id ?? freshId(draft.record, "sense", `${link}-${deviceId}${way === null ? "" : `-${way}`}`),
    ...{ link, deviceId, way },
    inverts: said ? false : inverts,
    known: known ?? before?.known ?? "assumed",
    flips: (before?.flips ?? 0) + (flipped ? 1 : 0),
    note: note ?? before?.note ?? "",
    at: when ?? before?.at ?? NEVER,
  };
  draft.put("sense", sense);
}

/** When nobody noted the time. */
export const NEVER = "1970-01-01T00:00:00.000Z";

/** @returns whether the sense of the place is a field of an assignment, which now says so */
function setInAssignment(draft: Draft, { link, deviceId }: At, inverts: boolean): boolean {
  const role = ROLE_OF[link as keyof typeof ROLE_OF];
  const assignment = role && draft.record.assignments.find((a) => a.role === role && a.deviceId === deviceId);
  if (!assignment) return false;
  if (assignment.role === "motor")
    draft.put("assignment", { ...assignment, [link === "mounting" ? "opposite" : "crossed"]: inverts });
  else if (assignment.role === "frog" || assignment.role === "lamp")
    draft.put("assignment", { ...assignment, crossed: inverts });
  return true;
}

/** Writes down what was found out about a place: how it is known, and whether it turns. */
export function noteSense(
  record: RailwayRecord,
  link: Link,
  inverts: boolean,
  known: KnownFrom,
  at: string,
): EditGroup {
  const draft = new Draft(record);
  turnAt(draft, link, inverts, { known, at, note: "" });
  return draft.group(`${link.at}: ${PLACES[link.link].name} ${inverts ? "turns" : "does not turn"}, ${known}`);
}

/** Takes over for a place what another of its kind has taught; it stays assumed until it is looked at. */
export function takeOver(record: RailwayRecord, links: readonly Link[], at: string): EditGroup {
  const draft = new Draft(record);
  for (const link of links) {
    if (link.likely)
      turnAt(draft, link, link.likely.inverts, { known: "assumed", note: `like ${link.likely.from}`, at });
  }
  const [first] = links;
  return draft.group(
    `Took ${links.length === 1 && first ? first.at : `${links.length} places`} to be like ${first?.likely?.from ?? "the first"}`,
  );
}
