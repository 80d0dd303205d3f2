import {
  type Change,
  type Edit,
  edit,
  type OpenRailway,
  type RailwayRecord,
  type Turns,
  type Version,
} from "@alderman/core";
import { createSlice, nanoid, original, type PayloadAction } from "@reduxjs/toolkit";
import { CHANGED_ELSEWHERE, type Entry, type Lost, merged, replay, wordsOf } from "./queue.ts";

/** What keeps a session from going on. */
export type Trouble =
  /** Tried again by itself. */
  | { kind: "unanswered"; sentence: string }
  /** The server's file does not go on from what this window knows; the owner decides. */
  | { kind: "diverged"; sentence: string }
  /** There is no such railway, or no longer. */
  | { kind: "gone"; sentence: string };

/**
 * One railway in this window: what the server has confirmed, what waits for it, and the record as it is shown, which is
 * always the confirmed one with what waits applied.
 */
export interface Session {
  id: string;
  /** Tells it from an earlier session of the same railway. */
  birth: string;
  confirmed: (Version & { record: RailwayRecord }) | null;
  /** The records before the latest edits of this window that were confirmed, with which an undo shows at once. */
  earlier: RailwayRecord[];
  queue: Entry[];
  /** The entry that was sent and is not answered yet. */
  sent: string | null;
  /** Another window has touched the same as the entry that was sent. */
  conflicts: boolean;
  record: RailwayRecord | null;
  /** What the server would undo and redo, what waits apart. */
  turns: Turns;
  /** When something was confirmed last; ISO 8601. */
  savedAt: string | null;
  trouble: Trouble | null;
  /** What happens elsewhere is told at once, and not only when it is asked for. */
  live: boolean;
  /** The browser cannot keep what waits: closing the page would lose it. */
  unkept: boolean;
  /** What could not be kept, until the owner has been told. */
  lost: Lost[];
}

export interface SessionsState {
  /** The railway that is shown; others live on until what waits for them is confirmed. */
  shown: string | null;
  byId: Record<string, Session>;
}

const initialState: SessionsState = { shown: null, byId: {} };

const blank = (id: string, birth: string): Session => ({
  ...{ id, birth, confirmed: null, earlier: [], queue: [], sent: null, conflicts: false, record: null },
  turns: { undo: null, redo: null },
  ...{ savedAt: null, trouble: null, live: true, unkept: false, lost: [] },
});

/** A change that the server tells of; what undo and redo would do is not known of those that were missed. */
type ReceivedChange = Version & Pick<Change, "edits" | "origin"> & Partial<Turns>;

export const sessions = createSlice({
  name: "sessions",
  initialState,
  reducers: {
    /** A session begins; nothing is known of the railway yet. */
    begun: {
      prepare: (id: string) => ({ payload: { id, birth: nanoid() } }),
      reducer: (state, { payload: { id, birth } }: PayloadAction<{ id: string; birth: string }>) => ({
        ...state,
        byId: { ...plain(state).byId, [id]: blank(id, birth) },
      }),
    },
    shown: (state, { payload }: PayloadAction<string | null>) => ({ ...plain(state), shown: payload }),
    ended: (state, { payload: id }: PayloadAction<string>) => {
      const { [id]: _, ...byId } = plain(state).byId;
      return { ...plain(state), byId };
    },
    /** The railway as the server has it, what waited for it here since an earlier day, and what others did meanwhile. */
    opened: (state, { payload }: PayloadAction<{ railway: OpenRailway; queue: Entry[]; theirs: Edit[] }>) => {
      const { railway, queue, theirs } = payload;
      const { id, revision, stamp, record, undo, redo } = railway;
      const { queue: left, lost } = merged(queue, theirs, record);
      return changed(state, id, (session) =>
        withQueue(
          { ...session, confirmed: { revision, stamp, record }, turns: { undo, redo }, trouble: null },
          [...left, ...session.queue],
          lost,
        ),
      );
    },
    /** Something was done here. @param record as it is with it */
    done: (state, { payload }: PayloadAction<{ id: string; entry: Entry; record: RailwayRecord }>) =>
      changed(state, payload.id, (session) => ({
        ...session,
        queue: [...session.queue, payload.entry],
        record: payload.record,
      })),
    sent: (state, { payload }: PayloadAction<{ id: string; entryId: string }>) =>
      changed(state, payload.id, (session) => ({ ...session, sent: payload.entryId, conflicts: false })),
    /** An entry was answered: the change that it made, which may have been told of before. */
    answered: (state, { payload }: PayloadAction<{ id: string; change: ReceivedChange; at: string }>) =>
      changed(state, payload.id, (session) => {
        const after = applied({ ...session, sent: null, conflicts: false }, payload.change, payload.at);
        // told of and applied before the answer came, or so far ahead that it has to be caught up with
        const known = (after.confirmed?.revision ?? 0) >= payload.change.revision;
        if (!known) return after;
        const left = after.queue.filter(({ id }) => id !== payload.change.stamp);
        return left.length === after.queue.length ? after : withQueue(after, left, []);
      }),
    /** A group was applied by the server, ours or another window's. */
    received: (state, { payload }: PayloadAction<{ id: string; change: ReceivedChange; at: string }>) =>
      changed(state, payload.id, (session) => applied(session, payload.change, payload.at)),
    /** An entry cannot be kept. */
    refused: (state, { payload }: PayloadAction<{ id: string; entryId: string; why: string }>) =>
      changed(state, payload.id, (session) => {
        const entry = session.queue.find(({ id }) => id === payload.entryId);
        if (!entry) return session;
        const left = session.queue.filter((each) => each !== entry);
        return withQueue({ ...session, sent: null, conflicts: false }, left, [lostBecause(entry, payload.why)]);
      }),
    turned: (state, { payload }: PayloadAction<{ id: string; turns: Turns }>) =>
      changed(state, payload.id, (session) => ({ ...session, turns: payload.turns })),
    /** The entry that was sent came against a revision that is no longer the last; it goes again unless it conflicts with theirs. */
    overtaken: (state, { payload: id }: PayloadAction<string>) =>
      changed(state, id, (session) => {
        const entry = session.queue.find((each) => each.id === session.sent);
        const after = { ...session, sent: null, conflicts: false };
        if (!entry || !session.conflicts) return after;
        const left = session.queue.filter((each) => each !== entry);
        return withQueue(after, left, [lostBecause(entry, CHANGED_ELSEWHERE)]);
      }),
    live: (state, { payload }: PayloadAction<{ id: string; on: boolean }>) =>
      changed(state, payload.id, (session) =>
        session.live === payload.on ? session : { ...session, live: payload.on },
      ),
    unkept: (state, { payload: id }: PayloadAction<string>) =>
      changed(state, id, (session) => ({ ...session, unkept: true })),
    troubled: (state, { payload }: PayloadAction<{ id: string; trouble: Trouble | null }>) =>
      changed(state, payload.id, (session) => ({ ...session, sent: null, trouble: payload.trouble })),
    /** The owner has been told of what was lost. */
    lossesShown: (state, { payload: id }: PayloadAction<string>) =>
      changed(state, id, (session) => ({ ...session, lost: [] })),
  },
});

/** The state as it is, not as a draft: the core keeps what it has looked up by the things themselves. */
function plain(draft: SessionsState): SessionsState {
  return original(draft) ?? draft;
}

/**
 * The state with one session changed; as it was when that session has ended. A session is frozen, so that its records are not
 * searched for drafts thing by thing with every action, of which a club's railway has tens of thousands.
 */
function changed(draft: SessionsState, id: string, change: (session: Session) => Session): SessionsState {
  const state = plain(draft);
  const session = state.byId[id];
  return session ? { ...state, byId: { ...state.byId, [id]: Object.freeze(change(session)) } } : state;
}

function lostBecause(entry: Entry, why: string): Lost {
  return { entryId: entry.id, words: wordsOf(entry), why };
}

/** A session with another queue, and what of it can no longer be applied. */
function withQueue(session: Session, queue: readonly Entry[], lost: readonly Lost[]): Session {
  if (!session.confirmed) return { ...session, queue: [...queue] };
  const replayed = replay(session.confirmed.record, queue, session.earlier);
  const gone = new Set(replayed.lost.map(({ entryId }) => entryId));
  return {
    ...session,
    queue: queue.filter(({ id }) => !gone.has(id)),
    record: replayed.record,
    lost: [...session.lost, ...lost, ...replayed.lost],
  };
}

/** Undo shows at once for so many of the latest edits. */
const MOST_EARLIER = 30;

function earlierAfter({ confirmed, earlier }: Session, own: Entry | undefined, isPlan: boolean): RailwayRecord[] {
  if (isPlan) return earlier;
  if (!confirmed || !own || own.kind === "redo") return [];
  return own.kind === "undo" ? earlier.slice(0, -1) : [...earlier, confirmed.record].slice(-MOST_EARLIER);
}

function withEdits(record: RailwayRecord, edits: readonly Edit[]): RailwayRecord {
  return edits.length === 0 ? record : edit(record, edits).record;
}

/** A session after a change that the server told of; the same session when it is not the next one. */
function applied(
  session: Session,
  { revision, stamp, origin, edits, undo, redo }: ReceivedChange,
  at: string,
): Session {
  const { confirmed, queue } = session;
  if (!confirmed || revision !== confirmed.revision + 1) return session;
  const own = queue.find(({ id }) => id === stamp);
  const left = queue.filter((entry) => entry !== own);
  // what is shown is the confirmed record with what waits: with the last of it confirmed the two are one but for what the
  // server proposes of the loom, and nothing else has to be worked out or drawn anew
  const isPlan = origin === "plan";
  const settled = own?.kind === "edits" && left.length === 0 && session.record !== null;
  const record =
    settled && session.record
      ? withEdits(session.record, edits.slice(own.edits.length))
      : edit(confirmed.record, edits).record;
  const turns = {
    undo: undo === undefined ? session.turns.undo : undo,
    redo: redo === undefined ? session.turns.redo : redo,
  };
  const next: Session = {
    ...session,
    earlier: earlierAfter(session, own, isPlan),
    ...{ confirmed: { revision, stamp, record }, turns, savedAt: at, trouble: null },
    ...(own && session.sent === own.id ? { sent: null, conflicts: false } : {}),
  };
  if (own) return settled ? { ...next, queue: left, record } : withQueue(next, left, []);
  // what waits was done on the same loom, as this window proposes it itself
  if (isPlan) return withQueue(next, left, []);
  const onTheirs = merged(left, edits, record);
  // what was sent may have been applied before this change: its answer decides whether it is lost
  const conflicts = onTheirs.lost.some(({ entryId, rest }) => entryId === next.sent && !rest);
  const waiting = new Map(onTheirs.queue.map((entry) => [entry.id, entry]));
  return withQueue(
    { ...next, conflicts: next.conflicts || conflicts },
    left.flatMap((entry) => waiting.get(entry.id) ?? (entry.id === next.sent ? [entry] : [])),
    onTheirs.lost.filter(({ entryId, rest }) => rest || entryId !== next.sent),
  );
}
