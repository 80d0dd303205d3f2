import { alongOf as turnoutAlong } from "../line/runs.ts";
import { find } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { Cable, Strip } from "../record/made.ts";
import type { Railway } from "../record/schemas.ts";

/** Where a joint is made: on the panel or at a motor not fitted yet, at the edge of the layout, or on one's back. */
export type WorkPlace = "bench" | "front" | "underneath";
export const WORK_PLACES: readonly WorkPlace[] = ["bench", "front", "underneath"];

/** What places of work are called. */
export const WORK_WORDS: Record<WorkPlace, string> = {
  bench: "at the bench",
  front: "in front",
  underneath: "underneath",
};

/** Where a strip is along the trunk line from the boards, metres. */
export function alongOf({ runMetres }: Pick<Strip, "runMetres">): number {
  return runMetres ?? 0;
}

/** Where wires are joined to a strip. */
export function workAt({ place, front }: Pick<Strip, "place" | "front">): WorkPlace {
  if (place === "panel") return "bench";
  return front ? "front" : "underneath";
}

/** How far along the trunk line each turnout of a zone is from the boards, metres, the nearest first. */
export function runsIn(record: RailwayRecord, zoneId: string): number[] {
  const own = record.turnouts.filter((turnout) => turnout.zoneId === zoneId);
  return own.map(({ id }) => turnoutAlong(record, id)).sort((a, b) => a - b);
}

/**
 * The best place for a strip among turnouts: amid them, so that their wires are shortest in all.
 * @param runs of the turnouts, the nearest first, metres
 * @returns null when there are none
 */
export function amid(runs: readonly number[]): number | null {
  return runs[Math.floor((runs.length - 1) / 2)] ?? null;
}

/** Laid length of a cable to a strip, metres: past the boards when the strip is further along. */
export function cableMetres(railway: Railway, { metres }: Pick<Cable, "metres">, along: number): number {
  return metres ?? Math.round((railway.cableMetres + along) * 1000) / 1000;
}

/** Wire from a strip to a turnout, metres: no shorter than a tail, unless the strip is beside the boards. */
export function wireFrom(railway: Railway, strip: number, turnout: number): number {
  return strip === 0 ? turnout : Math.max(Math.abs(turnout - strip), railway.tailMetres);
}

/** Whether a strip and a turnout are near enough for a wire between them; of strips beside the boards anything is. */
export function isInReach(railway: Railway, strip: number, turnout: number): boolean {
  return strip === 0 || Math.abs(turnout - strip) <= railway.reachMetres + 1e-9;
}

/** What a strip is for, in a word or two. @example "beside the boards", "zone Q, 3.5 m along" */
export function placeWords(record: RailwayRecord, { place, zoneId, runMetres, front }: Strip): string {
  const zone = zoneId === null ? undefined : find(record, "zone", zoneId)?.label;
  const at = place === "panel" ? "panel" : runMetres === null ? "beside the boards" : `${runMetres} m along`;
  return [zone && `zone ${zone}`, at, front && place === "layout" && "in front"].filter(Boolean).join(", ");
}
