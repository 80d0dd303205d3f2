import { configureStore, type ThunkAction, type UnknownAction } from "@reduxjs/toolkit";
import { type TypedUseSelectorHook, useDispatch, useSelector } from "react-redux";
import { api } from "./api.ts";
import { railway } from "./railway.ts";
import { view } from "./view.ts";

export const store = configureStore({
  reducer: { railway: railway.reducer, view: view.reducer, [api.reducerPath]: api.reducer },
  // the record is replaced, never changed in place; walking all of it after each action would cost more than it finds
  middleware: (getDefault) =>
    getDefault({
      immutableCheck: { ignoredPaths: ["railway"] },
      serializableCheck: { ignoredPaths: ["railway"] },
    }).concat(api.middleware),
});

export type RootState = ReturnType<typeof store.getState>;
export type AppThunk<R = void> = ThunkAction<R, RootState, unknown, UnknownAction>;
export const useAppDispatch: () => typeof store.dispatch = useDispatch;
export const useAppSelector: TypedUseSelectorHook<RootState> = useSelector;
