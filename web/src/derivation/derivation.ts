import { createSlice, type PayloadAction } from "@reduxjs/toolkit";
import { NO_RESULTS, type Results } from "./deriver.ts";

/** What was worked out for the railway that is shown. */
export const derivation = createSlice({
  name: "derivation",
  initialState: NO_RESULTS,
  reducers: { found: (_state, { payload }: PayloadAction<Results>) => payload },
});
