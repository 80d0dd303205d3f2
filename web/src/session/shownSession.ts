import type { RailwayRecord } from "@alderman/core";
import type { Session, SessionsState } from "./sessions.ts";

/** The session of the railway that is shown. */
export function shownSession({ sessions }: { sessions: SessionsState }): Session | undefined {
  return sessions.shown === null ? undefined : sessions.byId[sessions.shown];
}

/** The record that is shown, or null before it is there. */
export function shownRecord(state: { sessions: SessionsState }): RailwayRecord | null {
  return shownSession(state)?.record ?? null;
}
