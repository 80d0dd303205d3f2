// What a window reads before anything asks for it, and what becomes of it.
import { FORM_HEADER, RECORD_FORM } from "@alderman/core";
import { smallRailway } from "@alderman/core/testing/build";
import { afterEach, expect, it, vi } from "vitest";
import { Ahead, railwayIn, type Thread } from "./early.ts";
import { openBeside } from "./server.ts";

afterEach(() => vi.unstubAllGlobals());

const railway = { id: "r1", revision: 3, stamp: "s", record: smallRailway(), undo: null, redo: null };
const OUR_FORM = { [FORM_HEADER]: RECORD_FORM };

/** A server that answers with the railway. @returns addresses that it was asked for */
function answers(headers: Record<string, string>, status = 200, body: (path: string) => unknown = () => railway) {
  const asked: string[] = [];
  vi.stubGlobal("fetch", async (address: string) => {
    asked.push(address);
    return new Response(JSON.stringify(body(address)), { status, headers });
  });
  return asked;
}

/** A server at which the railway stands at a revision by now. */
const standingAt = (revision: number) =>
  answers(OUR_FORM, 200, (path) => (path.endsWith("/version") ? { ...railway, revision, record: undefined } : railway));

type ReadAhead = Thread["remote"]["readAhead"];

/** A thread that notes what it is given to read, and can fail to start. */
function playedThread(readAhead: (...given: Parameters<ReadAhead>) => Promise<void> = async () => {}) {
  let fail = () => {};
  const listen = (_name: string, failed: () => void) => {
    fail = failed;
  };
  const thread = { worker: { addEventListener: listen }, remote: { readAhead } } as unknown as Thread;
  return { thread, fail: () => fail() };
}

/** A thread that reads whatever it is given. @returns what it was given: of which railway, and whether that is only expected */
function readingThread() {
  const given: [string, boolean][] = [];
  const start = vi.fn(
    () =>
      playedThread(async (headers, bytes, isExpected) => {
        expect(new Headers(headers).get(FORM_HEADER)).toBe(RECORD_FORM);
        const read = JSON.parse(new TextDecoder().decode(bytes));
        expect(read).toEqual(railway);
        given.push([read.id, isExpected]);
      }).thread,
  );
  return { given, start };
}

const soon = () => new Promise((done) => setTimeout(done, 5));

it("knows the addresses that name a railway", () => {
  for (const path of [undefined, "/", "/railways", "/quick-sums", "/r/", "/r/..%2F/equip"])
    expect(railwayIn(path), path).toBeNull();
  for (const path of ["/r/r1", "/r/r1/", "/r/r1/equip"]) expect(railwayIn(path)).toBe("r1");
});

it("gives the worker what came, and the window the same once; then it is asked for anew", async () => {
  const asked = answers(OUR_FORM);
  const { given, start } = readingThread();
  const ahead = new Ahead(start);
  ahead.begin("r1");
  await soon();
  expect(given).toEqual([["r1", false]]);
  expect(await openBeside(ahead, "r2")).toEqual(railway);
  const opened = await openBeside(ahead, "r1");
  expect(opened).toEqual(railway);
  const thread = ahead.takeThread();
  expect(thread?.takeRead()).toBe(opened.record);
  expect(thread?.takeRead()).toBeNull();
  expect(ahead.takeThread()).toBeNull();
  expect(asked).toEqual(["/api/railways/r1", "/api/railways/r2"]);
  await openBeside(ahead, "r1");
  expect(asked.at(-1)).toBe("/api/railways/r1");
  expect(asked).toHaveLength(3);
});

it("has what is expected checked, and opens it as it was read while it stands so", async () => {
  const asked = standingAt(3);
  const { given, start } = readingThread();
  const ahead = new Ahead(start);
  ahead.expect("r1");
  ahead.expect("r1");
  await soon();
  expect(given).toEqual([["r1", true]]);
  ahead.begin("r1");
  const opened = await openBeside(ahead, "r1");
  expect(asked).toEqual(["/api/railways/r1", "/api/railways/r1/version"]);
  expect(ahead.takeThread()?.takeRead()).toBe(opened.record);
});

it("asks anew for what was changed since it was read, and does not take it that the worker has that", async () => {
  const asked = standingAt(4);
  const { start } = readingThread();
  const ahead = new Ahead(start);
  ahead.expect("r1");
  await soon();
  await openBeside(ahead, "r1");
  expect(asked).toEqual(["/api/railways/r1", "/api/railways/r1/version", "/api/railways/r1"]);
  expect(ahead.takeThread()?.takeRead()).toBeNull();
});

it("reads another one than was expected by the same worker, and expects nothing once one was opened", async () => {
  const asked = answers(OUR_FORM);
  const { given, start } = readingThread();
  const ahead = new Ahead(start);
  ahead.expect("r0");
  ahead.begin("r1");
  ahead.expect("r2");
  await soon();
  // the first came too late
  expect(given).toEqual([["r1", false]]);
  expect(start).toHaveBeenCalledOnce();
  expect(asked).toEqual(["/api/railways/r0", "/api/railways/r1"]);
});

it("asks again for what was expected and did not come", async () => {
  const away = () => {
    throw new TypeError("no network");
  };
  for (const refuse of [() => vi.stubGlobal("fetch", away), () => answers(OUR_FORM, 503)]) {
    refuse();
    const { given, start } = readingThread();
    const ahead = new Ahead(start);
    ahead.expect("r1");
    await soon();
    expect(given).toEqual([]);
    answers(OUR_FORM);
    expect(await openBeside(ahead, "r1")).toEqual(railway);
    expect(ahead.takeThread()?.takeRead()).toBeNull();
  }
});

it("does not take it that the worker has read what the window had to look at", async () => {
  answers({});
  const ahead = new Ahead(() => playedThread().thread);
  ahead.begin("r1");
  expect((await openBeside(ahead, "r1")).record).toEqual(railway.record);
  expect(ahead.takeThread()?.takeRead()).toBeNull();
});

it("tells why the railway does not come, and gives the worker nothing to read", async () => {
  answers(OUR_FORM, 404, () => ({ error: { message: "There is no such railway here." } }));
  const read = vi.fn(async () => {});
  const ahead = new Ahead(() => playedThread(read).thread);
  ahead.begin("r1");
  await expect(openBeside(ahead, "r1")).rejects.toThrow("There is no such railway here.");
  expect(read).not.toHaveBeenCalled();
  vi.stubGlobal("fetch", async () => {
    throw new TypeError("no network");
  });
  const alone = new Ahead(() => playedThread(read).thread);
  alone.begin("r1");
  await expect(openBeside(alone, "r1")).rejects.toThrow("The server does not answer.");
});

it("leaves a worker alone that could not be started or could not read", async () => {
  answers(OUR_FORM);
  const { thread, fail } = playedThread();
  const unstarted = new Ahead(() => thread);
  unstarted.begin("r1");
  fail();
  expect(unstarted.takeThread()).toBeNull();
  const unread = new Ahead(() => playedThread(() => Promise.reject(new Error("no"))).thread);
  unread.begin("r1");
  await soon();
  expect(unread.takeThread()).toBeNull();
});
