import {
  combineSlices,
  createDynamicMiddleware,
  type ListenerEffectAPI,
  type Store,
  type ThunkAction,
  type ThunkDispatch,
  type TypedStartListening,
  type UnknownAction,
} from "@reduxjs/toolkit";
import { type TypedUseSelectorHook, useDispatch, useSelector, useStore } from "react-redux";
import type { Checker } from "../derivation/checker.ts";
import { derivation } from "../derivation/derivation.ts";
import type { Ahead } from "../session/early.ts";
import type { KeptQueue } from "../session/keptQueue.ts";
import type { Server } from "../session/server.ts";
import { sessions } from "../session/sessions.ts";
import { notices } from "./notices.ts";
import { view } from "./view.ts";

/** What the store works with; tests give others. */
export interface Services {
  server: Server;
  keptQueue: KeptQueue;
  checker: Checker;
  /** Reads railways before they are asked for. */
  ahead: Pick<Ahead, "begin" | "expect">;
  /** Waits so many milliseconds, or until there is a reason to try at once. */
  pause: (milliseconds: number) => Promise<void>;
}

/** What is there from the start; `api.ts` adds itself when a page first needs it. */
export const reducer = combineSlices(sessions, derivation, notices, view);
export const laterMiddleware = createDynamicMiddleware();

export type RootState = ReturnType<typeof reducer>;
export type AppDispatch = ThunkDispatch<RootState, Services, UnknownAction>;
export type AppStore = Store<RootState> & { dispatch: AppDispatch };
export type AppThunk<R = void> = ThunkAction<R, RootState, Services, UnknownAction>;
export type StartListening = TypedStartListening<RootState, AppDispatch, Services>;
export type AppListenerApi = ListenerEffectAPI<RootState, AppDispatch, Services>;
export const useAppDispatch: () => AppDispatch = useDispatch;
export const useAppSelector: TypedUseSelectorHook<RootState> = useSelector;
export const useAppStore: () => AppStore = useStore as () => AppStore;
