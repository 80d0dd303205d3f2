import { type Edit, EditGroup, edit, find, NAME_LENGTH, problemsOf, RecordError } from "@alderman/core";
import { type Mine, notify } from "../store/notices.ts";
import type { AppThunk } from "../store/store.ts";
import { leftRailway } from "../store/view.ts";
import { beforeOf, type Entry, replay, turnsAfter } from "./queue.ts";
import { sessions } from "./sessions.ts";
import { shownSession } from "./shownSession.ts";

const { begun, done, ended, shown } = sessions.actions;

/** Shows a railway. Its session begins now, unless it still lives because something waits for the server. */
export function openRailway(id: string): AppThunk {
  return (dispatch, getState, { ahead }) => {
    dispatch(shown(id));
    const session = getState().sessions.byId[id];
    if (!session) ahead.begin(id);
    // one that could not be opened is tried anew
    if (session?.trouble?.kind === "gone") dispatch(ended(id));
    if (!session || session.trouble?.kind === "gone") dispatch(begun(id));
  };
}

/** Reads a railway ahead that will probably be opened next. */
export function expectRailway(id: string): AppThunk {
  return (_dispatch, _getState, { ahead }) => ahead.expect(id);
}

/** No railway is shown any more; what waits goes on. */
export function leaveRailway(): AppThunk {
  return (dispatch, getState) => {
    const session = shownSession(getState());
    if (session?.record) dispatch(leftRailway({ id: session.id, name: session.record.railway.name }));
    dispatch(shown(null));
  };
}

/** Takes up what an earlier window left waiting, railway by railway. */
export function resumeWaiting(): AppThunk<Promise<void>> {
  return async (dispatch, getState, { keptQueue }) => {
    for (const id of await keptQueue.railways()) if (!getState().sessions.byId[id]) dispatch(begun(id));
  };
}

/**
 * Does something: it shows at once, is kept in the browser, and goes to the server behind what waits already.
 * @throws {RecordError} when it breaks a rule, of its fields or between things; nothing is changed then
 */
export function commit(group: EditGroup): AppThunk {
  return (dispatch, getState, { keptQueue }) => {
    const session = shownSession(getState());
    if (!session?.record) return;
    const parsed = EditGroup.safeParse(group);
    if (!parsed.success) throw new RecordError(problemsOf(parsed.error).map(withoutPlace));
    const { record } = edit(session.record, group.edits);
    const before = beforeOf(session.record, group.edits);
    dispatch(enter(session.id, { id: keptQueue.newId(), kind: "edits", ...group, before }, record));
  };
}

/** Sets fields to what this window had set them to, where another window's were kept. */
export function setAsMine({ railwayId, things }: Mine): AppThunk {
  return (dispatch, getState) => {
    const session = shownSession(getState());
    if (!session?.record || session.id !== railwayId) return;
    const edits = things.flatMap(({ kind, id, fields }): Edit[] => {
      const thing = session.record && find(session.record, kind, id);
      return thing ? [{ op: "put", kind, value: { ...thing, ...fields } } as Edit] : [];
    });
    if (edits.length > 0) dispatch(commit({ words: "Set as this window had it", edits }));
  };
}

/** Undoes or redoes the latest group of edits, in its turn behind what waits. */
export function turnBack(direction: "undo" | "redo"): AppThunk {
  return (dispatch, getState, { keptQueue }) => {
    const session = shownSession(getState());
    if (!session?.confirmed) return;
    if (turnsAfter(session.turns, session.queue)[direction] === null) {
      dispatch(notify(`There is nothing to ${direction}.`));
      return;
    }
    const entry: Entry = { id: keptQueue.newId(), kind: direction };
    const { record } = replay(session.confirmed.record, [...session.queue, entry], session.earlier);
    dispatch(enter(session.id, entry, record));
  };
}

function enter(id: string, entry: Entry, record: Parameters<typeof done>[0]["record"]): AppThunk {
  return (dispatch, getState, { keptQueue }) => {
    const against = getState().sessions.byId[id]?.confirmed;
    dispatch(done({ id, entry, record }));
    if (!against) return;
    const { revision, stamp } = against;
    keptQueue.keep(id, entry, { revision, stamp }).catch(() => dispatch(sessions.actions.unkept(id)));
  };
}

/** What is added to the name of a copy. */
const OF_THIS_WINDOW = ", as this window had it";

/**
 * Keeps the railway as this window knows it as a railway of its own.
 * @returns identifier of the copy
 * @throws {ServerError}
 */
export function keepAsCopy(): AppThunk<Promise<string | null>> {
  return async (dispatch, getState, { server }) => {
    const session = shownSession(getState());
    if (!session?.record) return null;
    const name = `${session.record.railway.name.slice(0, NAME_LENGTH - OF_THIS_WINDOW.length)}${OF_THIS_WINDOW}`;
    const copy = { ...session.record, railway: { ...session.record.railway, name } };
    const id = await server.importCopy(copy);
    dispatch(drop(session.id));
    return id;
  };
}

/** Gives up what this window knows and takes the railway as the server has it. */
export function takeFile(): AppThunk {
  return (dispatch, getState) => {
    const session = shownSession(getState());
    if (!session) return;
    dispatch(drop(session.id));
    dispatch(begun(session.id));
  };
}

/** Ends a session with all that waits in it. */
function drop(id: string): AppThunk {
  return (dispatch, getState, { keptQueue }) => {
    const queue = getState().sessions.byId[id]?.queue ?? [];
    void keptQueue.forget(queue.map((entry) => entry.id));
    dispatch(ended(id));
  };
}

/** The sentence alone: the owner sees the field, not the path through the edit. */
function withoutPlace({ path, message }: RecordError["problems"][number]) {
  const place = `${path.join(".")}: `;
  const field = String(path.at(-1) ?? "");
  return { path, message: message.startsWith(place) ? `${nameOf(field)} ${message.slice(place.length)}` : message };
}

/** What a field is called in a sentence beside it: by its name where that is a word. */
const nameOf = (field: string) => (/^[a-z]+$/.test(field) ? `The ${field}` : "It");
