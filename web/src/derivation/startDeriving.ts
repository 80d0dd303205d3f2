import { ownOf, type Version } from "@alderman/core";
import { createSelector } from "@reduxjs/toolkit";
import { shownRecord, shownSession } from "../session/shownSession.ts";
import type { RootState, StartListening } from "../store/store.ts";
import { derivation } from "./derivation.ts";
import type { Focus } from "./derive.worker.ts";
import { leaderOf } from "./focus.ts";
import { workedOn } from "./sentRecord.ts";

const workedOnNow = createSelector([shownRecord], (record) => record && workedOn(record));

/** How the railway that is shown stands on the server, the same object until that changes; null while something of it waits. */
const versionOf = createSelector(
  [
    (state: RootState) => {
      const { queue, confirmed } = shownSession(state) ?? {};
      return queue?.length === 0 ? confirmed?.revision : undefined;
    },
    (state: RootState) => shownSession(state)?.confirmed?.stamp,
  ],
  (revision, stamp): Version | null => (revision === undefined || stamp === undefined ? null : { revision, stamp }),
);

/** What the screen is looking at, the same object until something of it changes. */
const focusOf = createSelector(
  [
    leaderOf,
    ({ view }: RootState) => view.asked,
    ({ view }: RootState) => view.thrown,
    (state: RootState) => ownOf(state.view.by, leaderOf(state) ?? "") ?? null,
    ({ view }: RootState) => view.moment,
    ({ view }: RootState) => view.red?.key ?? null,
    ({ view }: RootState) => view.black?.key ?? null,
    ({ view }: RootState) => view.range,
    ({ view }: RootState) => view.meterKind,
    ({ view }: RootState) => view.lamp,
  ],
  (turnoutId, asked, thrown, by, moment, red, black, range, kind, lamp): Focus => ({
    ...{ turnoutId, asked, thrown, by, moment, red, black, range, kind, lamp },
  }),
);

/** Keeps the worker at what is shown, and lets the server plan ahead once a railway is checked: both at once would hold up the checking. */
export function startDeriving(startListening: StartListening): void {
  startListening({
    predicate: (_action, now, before) =>
      now.sessions !== before.sessions || now.view !== before.view || before.derivation === undefined,
    effect: (_action, { getState, dispatch, extra: { checker } }) => {
      const state = getState();
      checker.publish = (results) => void dispatch(derivation.actions.found(results));
      checker.want(state.sessions.shown, workedOnNow(state), focusOf(state), versionOf(state));
    },
  });
  const planned = new Set<string>();
  startListening({
    predicate: (_action, { derivation: { state, share, railwayId } }) =>
      state === "checked" && share === null && railwayId !== null && !planned.has(railwayId),
    effect: (_action, { getState, extra: { server } }) => {
      const { railwayId } = getState().derivation;
      if (railwayId === null) return;
      planned.add(railwayId);
      // without it, the first edit waits for the same
      server.plan(railwayId).catch(() => undefined);
    },
  });
}
