import { type Position, threadsOf, thrownAlong } from "@alderman/core";
import { shownRecord } from "../session/shownSession.ts";
import type { AppThunk } from "./store.ts";
import { thrown } from "./view.ts";

/** Looks at a turnout thrown to a position; those that share its control or output go along. */
export function throwTo(turnoutId: string, position: Position): AppThunk {
  return (dispatch, getState) => {
    const record = shownRecord(getState());
    const by = getState().view.by[turnoutId];
    dispatch(thrown(record ? thrownAlong(threadsOf(record), turnoutId, position, by) : { [turnoutId]: position }));
  };
}
