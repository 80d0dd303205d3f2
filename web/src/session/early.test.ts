// What a page begins with before anything draws it, and what becomes of it.
import { FORM_HEADER, RECORD_FORM } from "@alderman/core";
import { smallRailway } from "@alderman/core/testing/build";
import { afterEach, expect, it, vi } from "vitest";
import { beginEarly, type Early, type Thread } from "./early.ts";
import { openBeside } from "./server.ts";

afterEach(() => vi.unstubAllGlobals());

const railway = { id: "r1", revision: 3, stamp: "s", record: smallRailway(), undo: null, redo: null };
const OUR_FORM = { [FORM_HEADER]: RECORD_FORM };

/** A server that answers with the railway. @returns addresses that it was asked for */
function answers(headers: Record<string, string>, status = 200, body: unknown = railway): string[] {
  const asked: string[] = [];
  vi.stubGlobal("fetch", async (address: string) => {
    asked.push(address);
    return new Response(JSON.stringify(body), { status, headers });
  });
  return asked;
}

/** A thread that notes what it is given to read, and can fail to start. */
function playedThread(readAhead: (headers: [string, string][], bytes: ArrayBuffer) => Promise<void> = async () => {}) {
  let fail = () => {};
  const listen = (_name: string, failed: () => void) => {
    fail = failed;
  };
  const thread = {
    worker: { addEventListener: listen },
    remote: { readAhead },
  } as unknown as Thread;
  return { thread, fail: () => fail() };
}

const soon = () => new Promise((done) => setTimeout(done, 5));

it("begins where the address names a railway, and nowhere else", () => {
  answers(OUR_FORM);
  const start = vi.fn(() => playedThread().thread);
  for (const path of [undefined, "/", "/railways", "/quick-sums", "/r/", "/r/..%2F/equip"])
    expect(beginEarly(path, start), path).toBeNull();
  expect(start).not.toHaveBeenCalled();
  for (const path of ["/r/r1", "/r/r1/", "/r/r1/equip"]) expect(beginEarly(path, start)?.railwayId).toBe("r1");
});

it("gives the worker what came, and the window the same once; then it is asked for anew", async () => {
  const asked = answers(OUR_FORM);
  const given: unknown[] = [];
  const early = beginEarly(
    "/r/r1/equip",
    () =>
      playedThread(async (headers, bytes) => {
        given.push(new Headers(headers).get(FORM_HEADER), JSON.parse(new TextDecoder().decode(bytes)));
      }).thread,
  ) as Early;
  await soon();
  expect(given).toEqual([RECORD_FORM, railway]);
  expect(await openBeside(early, "r2")).toEqual(railway);
  expect(early.record).toBeNull();
  const opened = await openBeside(early, "r1");
  expect(opened).toEqual(railway);
  expect(early.record).toBe(opened.record);
  expect(asked).toEqual(["/api/railways/r1", "/api/railways/r2"]);
  await openBeside(early, "r1");
  expect(asked.at(-1)).toBe("/api/railways/r1");
  expect(asked).toHaveLength(3);
});

it("does not take it that the worker has read what the window had to look at", async () => {
  answers({});
  const early = beginEarly("/r/r1/equip", () => playedThread().thread) as Early;
  expect((await openBeside(early, "r1")).record).toEqual(railway.record);
  expect(early.record).toBeNull();
});

it("tells why the railway does not come, and gives the worker nothing to read", async () => {
  answers(OUR_FORM, 404, { error: { message: "There is no such railway here." } });
  const read = vi.fn(async () => {});
  const early = beginEarly("/r/r1/equip", () => playedThread(read).thread) as Early;
  await expect(openBeside(early, "r1")).rejects.toThrow("There is no such railway here.");
  expect(read).not.toHaveBeenCalled();
  vi.stubGlobal("fetch", async () => {
    throw new TypeError("no network");
  });
  const alone = beginEarly("/r/r1/equip", () => playedThread(read).thread) as Early;
  await expect(openBeside(alone, "r1")).rejects.toThrow("The server does not answer.");
});

it("leaves a worker alone that could not be started or could not read", async () => {
  answers(OUR_FORM);
  const { thread, fail } = playedThread();
  const unstarted = beginEarly("/r/r1/equip", () => thread) as Early;
  expect(unstarted.thread).toBe(thread);
  fail();
  expect(unstarted.thread).toBeNull();
  const unread = beginEarly("/r/r1/equip", () => playedThread(() => Promise.reject(new Error("no"))).thread) as Early;
  await soon();
  expect(unread.thread).toBeNull();
});
