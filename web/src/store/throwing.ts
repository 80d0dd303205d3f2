import { type Position, threadsOf, thrownAlong } from "@alderman/core";
import { shownRecord } from "../session/shownSession.ts";
import type { AppThunk } from "./store.ts";
import { thrown } from "./view.ts";

/** Looks at a turnout thrown to a position; those that share its control or output go along. */
export function throwTo(turnoutId: string, position: Position): AppThunk {
  return (dispatch, getState) => {
    const { view, derivation, sessions } = getState();
    const record = shownRecord(getState());
    const worked = derivation.railwayId === sessions.shown ? derivation.overview?.threads : undefined;
    const threads = worked ?? (record ? threadsOf(record) : []);
    dispatch(thrown(thrownAlong(threads, turnoutId, position, view.by[turnoutId])));
  };
}
