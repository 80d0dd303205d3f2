import { leadersThrough, type RailwayRecord, type ThingRef } from "@alderman/core";
import { shownRecord } from "../session/shownSession.ts";
import type { RootState } from "../store/store.ts";

const known = new WeakMap<RailwayRecord, Map<string, string[]>>();

/** Leaders of the threads that pass through a thing, in the owner's order; worked out once for each record. */
export function threadsThrough(record: RailwayRecord, thing: ThingRef): string[] {
  const leaders = known.get(record) ?? new Map<string, string[]>();
  known.set(record, leaders);
  const key = JSON.stringify([thing.kind, thing.id, thing.way ?? null]);
  const found = leaders.get(key) ?? leadersThrough(record, thing);
  leaders.set(key, found);
  return found;
}

/**
 * Leader of the thread that is looked at: that of the chosen turnout, or of the threads through the chosen thing the one
 * that was gone to last, or the first; null when nothing is chosen or it is gone.
 */
export function leaderOf(state: RootState): string | null {
  const record = shownRecord(state);
  const { chosen, along } = state.view;
  if (!record || !chosen) return null;
  const leaders = threadsThrough(record, chosen);
  return along !== null && leaders.includes(along) ? along : (leaders[0] ?? null);
}
