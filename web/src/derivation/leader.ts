import { shownRecord } from "../session/shownSession.ts";
import type { RootState } from "../store/store.ts";

/** Leader of the chosen turnout, or null when none is chosen or it is gone. */
export function leaderOf(state: RootState): string | null {
  const turnout = shownRecord(state)?.turnouts.find(({ id }) => id === state.view.turnoutId);
  return turnout ? (turnout.movesWith ?? turnout.id) : null;
}
