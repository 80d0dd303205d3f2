import {
  combineSlices,
  configureStore,
  createDynamicMiddleware,
  createListenerMiddleware,
  type ListenerEffectAPI,
  type ThunkAction,
  type TypedStartListening,
  type UnknownAction,
} from "@reduxjs/toolkit";
import { type TypedUseSelectorHook, useDispatch, useSelector, useStore } from "react-redux";
import type { Checker } from "../derivation/checker.ts";
import { derivation, startDeriving } from "../derivation/derivation.ts";
import type { KeptQueue } from "../session/keptQueue.ts";
import { startSessions } from "../session/life.ts";
import type { Server } from "../session/server.ts";
import { sessions } from "../session/sessions.ts";
import { notices } from "./notices.ts";
import { view } from "./view.ts";

/** What the store works with; tests give others. */
export interface Services {
  server: Server;
  keptQueue: KeptQueue;
  checker: Checker;
  /** Waits so many milliseconds, or until there is a reason to try at once. */
  pause: (milliseconds: number) => Promise<void>;
}

/** What is there from the start; `api.ts` adds itself when a page first needs it. */
export const reducer = combineSlices(sessions, derivation, notices, view);
export const laterMiddleware = createDynamicMiddleware();

/** The store, with what it works with. */
export function makeStore(services: Services) {
  const listeners = createListenerMiddleware({ extra: services });
  const made = configureStore({
    reducer,
    // records and results are replaced, never changed in place; walking all of them after each action would cost more than
    // it finds
    middleware: (getDefault) =>
      getDefault({
        thunk: { extraArgument: services },
        immutableCheck: { ignoredPaths: ["sessions", "derivation"] },
        serializableCheck: { ignoredPaths: ["sessions", "derivation"], ignoredActionPaths: ["payload", "meta"] },
      })
        .prepend(listeners.middleware)
        .concat(laterMiddleware.middleware),
  });
  const startListening = listeners.startListening as StartListening;
  startSessions(startListening);
  startDeriving(startListening);
  return made;
}

type Store = ReturnType<typeof makeStore>;
export type RootState = ReturnType<typeof reducer>;
export type AppDispatch = Store["dispatch"];
export type AppThunk<R = void> = ThunkAction<R, RootState, Services, UnknownAction>;
export type StartListening = TypedStartListening<RootState, AppDispatch, Services>;
export type AppListenerApi = ListenerEffectAPI<RootState, AppDispatch, Services>;
export const useAppDispatch: () => AppDispatch = useDispatch;
export const useAppSelector: TypedUseSelectorHook<RootState> = useSelector;
export const useAppStore: () => Store = useStore as () => Store;
