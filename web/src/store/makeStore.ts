import { configureStore, createListenerMiddleware } from "@reduxjs/toolkit";
import { startDeriving } from "../derivation/startDeriving.ts";
import { startSessions } from "../session/life.ts";
import { laterMiddleware, reducer, type Services, type StartListening } from "./store.ts";

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
