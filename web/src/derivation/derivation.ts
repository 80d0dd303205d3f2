import { createAction, type UnknownAction } from "@reduxjs/toolkit";
import { NO_RESULTS, type Results } from "./deriver.ts";

const found = createAction<Results>("derivation/found");

/**
 * What was worked out for the railway that is shown. It comes whole from the worker and is never drafted, and so has a reducer
 * that does not go through it thing by thing, of which a club's railway has tens of thousands.
 */
export const derivation = {
  reducerPath: "derivation" as const,
  reducer: (state: Results = NO_RESULTS, action: UnknownAction): Results =>
    found.match(action) ? action.payload : state,
  actions: { found },
};
