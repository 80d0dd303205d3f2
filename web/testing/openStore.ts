// A store with a railway open and everything of it worked out, as a screen finds it.
import type { RailwayRecord } from "@alderman/core";
import { derivation } from "../src/derivation/derivation.ts";
import { NO_RESULTS, type Results } from "../src/derivation/deriver.ts";
import { sessions } from "../src/session/sessions.ts";
import { makeStore } from "../src/store/makeStore.ts";
import { PlayedBrowser, PlayedServer, playedServices } from "./playedServer.ts";

export type TestStore = ReturnType<typeof makeStore>;

/** A store in which nothing is open yet. */
export function emptyStore(): TestStore {
  return makeStore(playedServices(new PlayedServer(), new PlayedBrowser().queue()));
}

/** Opens a record in a store, with what was worked out of it. */
export function openIn(store: TestStore, record: RailwayRecord, results: Partial<Results> = {}): void {
  const id = "r";
  store.dispatch(sessions.actions.begun(id));
  store.dispatch(sessions.actions.shown(id));
  const railway = { id, revision: 0, stamp: id, record, undo: null, redo: null };
  store.dispatch(sessions.actions.opened({ railway, queue: [], theirs: [] }));
  store.dispatch(derivation.actions.found({ ...NO_RESULTS, railwayId: id, state: "checked", ...results }));
}
