import type { RailwayRecord } from "@alderman/core";
import { useAppSelector } from "../store/store.ts";
import type { Session } from "./sessions.ts";
import { shownRecord, shownSession } from "./shownSession.ts";

/** The session of the railway that is shown. */
export function useSession(): Session | undefined {
  return useAppSelector(shownSession);
}

/** The record that is shown, or null before it is there. */
export function useRecord(): RailwayRecord | null {
  return useAppSelector(shownRecord);
}

/** How many turnouts the railway has that is shown; for what need not be drawn anew with every edit. */
export function useTurnoutCount(): number {
  return useAppSelector((state) => shownRecord(state)?.turnouts.length ?? 0);
}
