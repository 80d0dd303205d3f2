// What an owner sees of edits on their way to the server, with a server that the test plays.
import { type Change, type Edit, edit, emptyRecord, putEdit, type RailwayRecord } from "@alderman/core";
import { afterEach, beforeEach, expect, it, vi } from "vitest";

const zone = (id: string, label: string): Edit => putEdit("zone", { id, label, name: "", order: 1 });

/** A server with one railway, kept in memory; `refuse` and `away` make it answer otherwise. */
class PlayedServer {
  revision = 0;
  record: RailwayRecord = emptyRecord("Test");
  changes: Change[] = [];
  away = false;
  refuse: { status: number; message: string } | null = null;
  /** Applied before the next edit is looked at, as another window would. */
  meanwhile: Edit[] | null = null;

  apply(edits: Edit[]): Change {
    this.record = edit(this.record, edits).record;
    const change: Change = { revision: ++this.revision, words: "edit", edits, undo: "edit", redo: null };
    this.changes.push(change);
    return change;
  }

  answer = async (path: string, init?: { body?: string }): Promise<Response> => {
    if (this.away) throw new TypeError("no answer");
    const reply = (body: unknown, status = 200) => new Response(JSON.stringify(body), { status });
    const body = init?.body ? JSON.parse(init.body) : undefined;
    if (path.endsWith("/edits")) {
      if (this.refuse) return reply({ error: { message: this.refuse.message } }, this.refuse.status);
      if (this.meanwhile) {
        this.apply(this.meanwhile);
        this.meanwhile = null;
      }
      if (body.revision !== this.revision) return reply({ error: { message: "stale", revision: this.revision } }, 409);
      const { edits, ...rest } = this.apply(body.edits);
      return reply(rest);
    }
    if (path.endsWith("/undo"))
      return reply({ ...this.apply([{ op: "remove", kind: "zone", id: "a" }]), words: "edit", redo: "edit" });
    if (path.includes("/changes"))
      return reply(this.changes.filter(({ revision }) => revision > Number(path.split("since=")[1])));
    return reply({ id: "r1", revision: this.revision, record: this.record, undo: null, redo: null });
  };
}

/** Plays the browser's stream of events; the test sends them itself. */
class PlayedEvents {
  static latest: PlayedEvents;
  private readonly heard = new Map<string, (event: { data: string }) => void>();
  constructor() {
    PlayedEvents.latest = this;
  }
  addEventListener(name: string, listener: (event: { data: string }) => void): void {
    this.heard.set(name, listener);
  }
  send(name: string, data: unknown): void {
    this.heard.get(name)?.({ data: JSON.stringify(data) });
  }
  close(): void {}
}

let server: PlayedServer;
let notices: string[];
let parts: { store: typeof import("./store.ts")["store"]; railway: typeof import("./railway.ts") };

const state = () => parts.store.getState().railway;
const labels = () => state().record?.zones.map(({ label }) => label);
const commit = (...edits: Edit[]) => parts.store.dispatch(parts.railway.commit({ words: "Test edit", edits }));
const settled = () => vi.waitFor(() => expect(state().pending).toEqual([]), 6000);

beforeEach(async () => {
  server = new PlayedServer();
  notices = [];
  vi.resetModules();
  vi.stubGlobal("localStorage", { getItem: () => null, setItem: () => undefined });
  vi.stubGlobal("EventSource", PlayedEvents);
  vi.stubGlobal("fetch", server.answer);
  parts = { store: (await import("./store.ts")).store, railway: await import("./railway.ts") };
  parts.railway.onNotice((sentence) => notices.push(sentence));
  await parts.store.dispatch(parts.railway.openRailway("r1"));
});
afterEach(() => vi.unstubAllGlobals());

it("shows an edit at once and has it confirmed by the server", async () => {
  commit(zone("a", "A"));
  expect(labels()).toEqual(["A"]);
  expect(state().confirmed?.revision).toBe(0);
  await settled();
  expect(state()).toMatchObject({ confirmed: { revision: 1 }, undo: "edit", unanswered: false });
  expect(server.record.zones).toHaveLength(1);
});

it("sends edits in the order in which they were made, each against the revision before it", async () => {
  for (const [id, label] of [
    ["a", "A"],
    ["b", "B"],
    ["c", "C"],
  ] as const)
    commit(zone(id, label));
  expect(labels()).toEqual(["A", "B", "C"]);
  await settled();
  expect(server.changes.map(({ edits }) => (edits[0] as { value: { id: string } }).value.id)).toEqual(["a", "b", "c"]);
});

it("refuses an edit that breaks a rule before anything is sent", () => {
  commit(zone("a", "A"));
  expect(() => commit(zone("b", "a"))).toThrow(/already a zone called a/);
  expect(labels()).toEqual(["A"]);
});

it("takes over another window's edit, told by the stream, and leaves its own in place", async () => {
  server.apply([zone("b", "B")]);
  PlayedEvents.latest.send("change", server.changes[0]);
  expect(labels()).toEqual(["B"]);
  // told twice, or told of its own edit before the answer came: nothing happens twice
  PlayedEvents.latest.send("change", server.changes[0]);
  commit(zone("a", "A"));
  await settled();
  PlayedEvents.latest.send("change", server.changes[1]);
  expect(labels()).toEqual(["A", "B"]);
  expect(state().confirmed?.revision).toBe(2);
});

it("sends again what met a newer revision, when nobody touched the same thing", async () => {
  server.meanwhile = [zone("b", "B")];
  commit(zone("a", "A"));
  await settled();
  expect(server.record.zones.map(({ label }) => label)).toEqual(["A", "B"]);
  expect(labels()).toEqual(["A", "B"]);
  expect(notices).toEqual([]);
});

it("gives up an edit whose thing was changed elsewhere, and says so", async () => {
  commit(zone("a", "A"));
  await settled();
  server.meanwhile = [zone("a", "theirs")];
  commit(zone("a", "ours"));
  expect(labels()).toEqual(["ours"]);
  await settled();
  expect(labels()).toEqual(["theirs"]);
  expect(notices).toEqual([
    expect.stringMatching(/^"Test edit" was not kept: the same thing was changed in another window/),
  ]);
});

it("gives up an edit that the server refuses, and what was built on it", async () => {
  server.refuse = { status: 400, message: "There is no room." };
  commit(zone("a", "A"));
  expect(labels()).toEqual(["A"]);
  await settled();
  expect(labels()).toEqual([]);
  expect(notices).toEqual(['"Test edit" was not kept. There is no room.']);
});

it("keeps an edit while the server is away and sends it when it is back", async () => {
  server.away = true;
  commit(zone("a", "A"));
  await vi.waitFor(() => expect(state().unanswered).toBe(true));
  expect(labels()).toEqual(["A"]);
  server.away = false;
  await settled();
  expect(state().unanswered).toBe(false);
  expect(server.record.zones).toHaveLength(1);
});

it("catches up when the stream tells of a revision that it has missed", async () => {
  server.apply([zone("a", "A")]);
  server.apply([zone("b", "B")]);
  PlayedEvents.latest.send("hello", { revision: 2 });
  await vi.waitFor(() => expect(labels()).toEqual(["A", "B"]));
});

it("undoes through the server, after what is still on its way", async () => {
  commit(zone("a", "A"));
  await parts.store.dispatch(parts.railway.turnBack("undo"));
  expect(labels()).toEqual([]);
  expect(state()).toMatchObject({ redo: "edit", confirmed: { revision: 2 } });
  expect(notices).toEqual(["Undone: edit"]);
});

it("says that a railway was removed, and why one cannot be opened", async () => {
  PlayedEvents.latest.send("removed", {});
  expect(state().failure).toBe("This railway was removed in another window.");
  server.away = true;
  await parts.store.dispatch(parts.railway.openRailway("r2"));
  expect(state().failure).toBe("The server does not answer.");
});

it("knows its own edit when the server tells of it before it answers, its fields in another order", async () => {
  const answer = server.answer;
  vi.stubGlobal("fetch", async (path: string, init?: { body?: string }) => {
    const response = await answer(path, init);
    if (path.endsWith("/edits")) {
      const edits = [putEdit("zone", { order: 1, name: "", label: "A", id: "a" })];
      PlayedEvents.latest.send("change", { ...server.changes.at(-1), edits });
    }
    return response;
  });
  commit(zone("a", "A"));
  await settled();
  await new Promise((done) => setTimeout(done, 50));
  expect(server.revision).toBe(1);
  expect(state().confirmed?.revision).toBe(1);
  expect(notices).toEqual([]);
});
