import {
  type Change,
  type EditGroup,
  edit,
  isSame,
  type OpenRailway,
  type RailwayRecord,
  RecordError,
  type Turns,
  touchedThings,
} from "@alderman/core";
import { createSlice, original, type PayloadAction } from "@reduxjs/toolkit";
import { ask, ServerError } from "./api.ts";
import type { AppThunk } from "./store.ts";

/**
 * The open railway: what the server has confirmed, the groups on their way to it, and the record as it is shown, which
 * is always the confirmed one with those groups applied.
 */
export interface RailwayState {
  id: string | null;
  confirmed: { revision: number; record: RailwayRecord } | null;
  pending: EditGroup[];
  record: RailwayRecord | null;
  undo: string | null;
  redo: string | null;
  savedAt: string | null;
  /** The last edit could not be sent; it is kept and tried again. */
  unanswered: boolean;
  /** Sentence for the owner when the railway could not be opened. */
  failure: string | null;
}

const initialState: RailwayState = {
  id: null,
  confirmed: null,
  pending: [],
  record: null,
  undo: null,
  redo: null,
  savedAt: null,
  unanswered: false,
  failure: null,
};

type Applied = Pick<Change, "revision" | "edits"> & Partial<Turns>;

export const railway = createSlice({
  name: "railway",
  initialState,
  reducers: {
    opening: (_state, { payload }: PayloadAction<string>) => ({ ...initialState, id: payload }),
    failed: (state, { payload }: PayloadAction<string>) => ({ ...state, failure: payload }),
    opened: (_state, { payload }: PayloadAction<OpenRailway>): RailwayState => ({
      ...initialState,
      id: payload.id,
      confirmed: { revision: payload.revision, record: payload.record },
      record: payload.record,
      undo: payload.undo,
      redo: payload.redo,
    }),
    /** A group on its way, and the record as it is with it. */
    proposed: (draft, { payload }: PayloadAction<{ group: EditGroup; record: RailwayRecord }>) => {
      const state = plain(draft);
      return { ...state, pending: [...state.pending, payload.group], record: payload.record };
    },
    /** A group was applied by the server, ours or another window's. */
    applied: (draft, { payload }: PayloadAction<Applied & { at: string }>) => {
      const state = plain(draft);
      const { confirmed, pending } = state;
      if (!confirmed || payload.revision !== confirmed.revision + 1) return;
      const [head, ...rest] = pending;
      // the server tells every window, this one too, and may do so before it answers; fields come back in its own order
      const ours = head && isSame(head.edits, payload.edits);
      const left = ours ? rest : pending;
      // what is shown is the confirmed record with what waits: with the last of it confirmed, the two are one, and nothing
      // has to be worked out or drawn anew
      const record =
        ours && left.length === 0 && state.record ? state.record : edit(confirmed.record, payload.edits).record;
      return {
        ...state,
        confirmed: { revision: payload.revision, record },
        pending: left,
        record: left.length === 0 ? record : ours ? state.record : replay(record, left),
        undo: payload.undo === undefined ? state.undo : payload.undo,
        redo: payload.redo === undefined ? state.redo : payload.redo,
        savedAt: payload.at,
        unanswered: false,
      };
    },
    /** The first waiting group is given up; those behind it that cannot do without it change nothing. */
    dropped: (draft) => {
      const state = plain(draft);
      if (!state.confirmed) return;
      const left = state.pending.slice(1);
      return { ...state, pending: left, record: replay(state.confirmed.record, left) };
    },
    turns: (state, { payload }: PayloadAction<Turns>) => ({ ...state, ...payload }),
    unanswered: (state, { payload }: PayloadAction<boolean>) => ({ ...state, unanswered: payload }),
  },
});

const { opening, opened, failed, proposed, applied, dropped, unanswered } = railway.actions;

/** The state as it is, not as a draft: the core keeps what it has looked up by the things themselves. */
function plain(draft: RailwayState): RailwayState {
  return original(draft) ?? draft;
}

function replay(record: RailwayRecord, groups: readonly EditGroup[]): RailwayRecord {
  return groups.reduce((now, group) => {
    try {
      return edit(now, group.edits).record;
    } catch (error) {
      if (error instanceof RecordError) return now;
      throw error;
    }
  }, record);
}

const RETRY_MILLISECONDS = 2000;
let sending = false;
let events: EventSource | null = null;

/** Opens a railway and listens to its changes. */
export function openRailway(id: string): AppThunk<Promise<void>> {
  return async (dispatch, getState) => {
    events?.close();
    dispatch(opening(id));
    try {
      dispatch(opened(await ask<OpenRailway>(`railways/${id}`)));
    } catch (error) {
      dispatch(failed(error instanceof Error ? error.message : String(error)));
      return;
    }
    events = new EventSource(`/api/railways/${id}/events`);
    events.addEventListener("change", ({ data }) => {
      const change = JSON.parse(data) as Change;
      const confirmed = getState().railway.confirmed;
      if (!confirmed || change.revision <= confirmed.revision) return;
      if (change.revision === confirmed.revision + 1) dispatch(applied({ ...change, at: now() }));
      else void dispatch(catchUp());
    });
    events.addEventListener("hello", ({ data }) => {
      const revision = getState().railway.confirmed?.revision ?? 0;
      if ((JSON.parse(data) as { revision: number }).revision > revision) void dispatch(catchUp());
    });
    events.addEventListener("removed", () => {
      events?.close();
      dispatch(failed("This railway was removed in another window."));
    });
  };
}

/**
 * Applies a group at once and sends it to the server behind the groups already on their way.
 * @throws {RecordError} when the group breaks a rule; nothing is changed then
 */
export function commit(group: EditGroup): AppThunk {
  return (dispatch, getState) => {
    const { record } = getState().railway;
    if (!record) return;
    dispatch(proposed({ group, record: edit(record, group.edits).record }));
    void dispatch(send());
  };
}

/** Sends waiting groups one after the other. A group that no longer fits is given up with a word to the owner. */
function send(): AppThunk<Promise<void>> {
  return async (dispatch, getState) => {
    if (sending) return;
    sending = true;
    try {
      for (;;) {
        const { id, confirmed, pending } = getState().railway;
        const [head] = pending;
        if (!id || !confirmed || !head) return;
        try {
          const answer = await ask<Omit<Change, "edits">>(`railways/${id}/edits`, {
            revision: confirmed.revision,
            ...head,
          });
          dispatch(applied({ ...answer, edits: head.edits, at: now() }));
          // acknowledged is acknowledged: it is never sent twice
          if (getState().railway.pending[0] === head) dispatch(dropped());
        } catch (error) {
          if (!(error instanceof ServerError)) throw error;
          await dispatch(recover(error, head));
        }
      }
    } finally {
      sending = false;
    }
  };
}

/** After a refused or unanswered group: catch up, and keep the group unless what it touches was changed elsewhere. */
function recover(error: ServerError, head: EditGroup): AppThunk<Promise<void>> {
  return async (dispatch, getState) => {
    if (error.status !== 0 && error.status !== 409) {
      dispatch(dropped());
      notify(`"${head.words}" was not kept. ${error.message}`);
      return;
    }
    if (error.status === 0) {
      dispatch(unanswered(true));
      await new Promise((resolve) => setTimeout(resolve, RETRY_MILLISECONDS));
    }
    let changes: Change[];
    try {
      changes = await dispatch(catchUp());
    } catch {
      // no answer again: the group stays where it is and is sent once more
      return;
    }
    if (getState().railway.pending[0] !== head) return;
    const mine = new Set(touchedThings(head.edits));
    const met = changes.some((change) => touchedThings(change.edits).some((thing) => mine.has(thing)));
    if (!met) return;
    dispatch(dropped());
    notify(`"${head.words}" was not kept: the same thing was changed in another window. Look at it and do it again.`);
  };
}

/** Fetches and applies the groups that this window has missed. */
function catchUp(): AppThunk<Promise<Change[]>> {
  return async (dispatch, getState) => {
    const { id, confirmed } = getState().railway;
    if (!id || !confirmed) return [];
    const changes = await ask<Change[]>(`railways/${id}/changes?since=${confirmed.revision}`);
    for (const change of changes) dispatch(applied({ revision: change.revision, edits: change.edits, at: now() }));
    const { undo, redo } = await ask<OpenRailway>(`railways/${id}`);
    dispatch(railway.actions.turns({ undo, redo }));
    return changes;
  };
}

/** Undoes or redoes the latest group of edits. */
export function turnBack(direction: "undo" | "redo"): AppThunk<Promise<void>> {
  return async (dispatch, getState) => {
    while (getState().railway.pending.length > 0) await new Promise((resolve) => setTimeout(resolve, 30));
    const { id, confirmed } = getState().railway;
    if (!id || !confirmed) return;
    try {
      const change = await ask<Change>(`railways/${id}/${direction}`, { revision: confirmed.revision });
      dispatch(applied({ ...change, at: now() }));
      notify(`${direction === "undo" ? "Undone" : "Done again"}: ${change.words}`);
    } catch (error) {
      if (error instanceof ServerError && error.status === 409) await dispatch(catchUp());
      notify(error instanceof Error ? error.message : String(error));
    }
  };
}

function now(): string {
  return new Date().toISOString();
}

const listeners = new Set<(sentence: string) => void>();

/** Shows a sentence to the owner for a while. */
export function notify(sentence: string): void {
  for (const listener of listeners) listener(sentence);
}

/** Calls back with each sentence that is to be shown. @returns how to stop */
export function onNotice(listener: (sentence: string) => void): () => void {
  listeners.add(listener);
  return () => listeners.delete(listener);
}
