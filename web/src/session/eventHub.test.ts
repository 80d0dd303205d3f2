// @vitest-environment happy-dom
// One connection for everything that is listened to, and what is done where there can be none.
import { afterEach, beforeEach, expect, it, vi } from "vitest";
import { EventHub, GRACE, POLL, type Reach, type Source, type Told, type Topic } from "./eventHub.ts";
import { type Asked, listenOver, servePort, withSpare } from "./sharedEvents.ts";

/** A connection that the test holds the other end of. */
class PlayedSource implements Source {
  readyState = 0;
  closed = false;
  private readonly listeners = new Map<string, ((event: Event) => void)[]>();
  constructor(readonly path: string) {}
  addEventListener(name: string, listener: unknown): void {
    this.listeners.set(name, [...(this.listeners.get(name) ?? []), listener as () => void]);
  }
  close(): void {
    this.closed = true;
  }
  say(name: string, data?: object): void {
    for (const each of this.listeners.get(name) ?? []) each({ data: JSON.stringify(data) } as MessageEvent);
  }
  fail(readyState: number): void {
    this.readyState = readyState;
    this.say("error");
  }
}

let sources: PlayedSource[];
let versions: (id: string) => Promise<string | null>;
let heard: Told[];
const reach: Reach = {
  open: (path) => {
    const source = new PlayedSource(path);
    sources.push(source);
    return source;
  },
  versionOf: (id) => versions(id),
};
const hear = (told: Told) => heard.push(told);
const latest = () => sources.at(-1) as PlayedSource;

beforeEach(() => {
  vi.useFakeTimers();
  sources = [];
  heard = [];
  versions = async () => null;
});
afterEach(() => vi.useRealTimers());

it("listens to everything over one connection, which is another one when something is added", () => {
  const hub = new EventHub(reach);
  for (const topic of ["railway a", "railway b", "line a"] as const) hub.listen(topic, hear);
  vi.advanceTimersByTime(50);
  expect(sources.map(({ path }) => path)).toEqual(["/api/events?railways=a,b&lines=a"]);
  const stop = hub.listen("railway c", hear);
  vi.advanceTimersByTime(50);
  expect(sources.map(({ path, closed }) => [path, closed])).toEqual([
    ["/api/events?railways=a,b&lines=a", true],
    ["/api/events?railways=a,b,c&lines=a", false],
  ]);
  stop();
  vi.advanceTimersByTime(50);
  expect(sources.filter(({ closed }) => !closed).map(({ path }) => path)).toEqual(["/api/events?railways=a,b&lines=a"]);
});

it("tells each what it listens to, and nothing of a connection that was replaced", () => {
  const hub = new EventHub(reach);
  const mine: Told[] = [];
  hub.listen("railway a", (told) => mine.push(told));
  hub.listen("railway b", hear);
  vi.advanceTimersByTime(50);
  const first = latest();
  first.say("hello", { of: "a", revision: 3, stamp: "s" });
  first.say("change", { of: "b", revision: 4 });
  first.say("change", { revision: 5 });
  expect(mine).toEqual([{ topic: "railway a", name: "hello", data: '{"of":"a","revision":3,"stamp":"s"}' }]);
  expect(heard).toEqual([{ topic: "railway b", name: "change", data: '{"of":"b","revision":4}' }]);
  hub.listen("line a", hear);
  vi.advanceTimersByTime(50);
  first.say("change", { of: "b", revision: 5 });
  expect(heard).toHaveLength(1);
});

it("says that nothing is live once a connection has stayed away, and that it is again", () => {
  const hub = new EventHub(reach);
  hub.listen("railway a", hear);
  vi.advanceTimersByTime(50);
  latest().say("open");
  latest().fail(0);
  vi.advanceTimersByTime(GRACE / 2);
  latest().say("open");
  vi.advanceTimersByTime(GRACE * 2);
  expect(heard).toEqual([]);
  latest().fail(0);
  vi.advanceTimersByTime(GRACE + 1);
  expect(heard).toEqual([{ live: false }]);
  latest().say("open");
  expect(heard).toEqual([{ live: false }, { live: true }]);
});

it.each([
  ["the browser knows no such connections", null],
  ["the server refuses it", 2],
])("asks where railways stand every few seconds when %s", async (_, readyState) => {
  versions = async (id) => (id === "a" ? '{"revision":7,"stamp":"s"}' : null);
  const hub = new EventHub(readyState === null ? { ...reach, open: () => null } : reach);
  for (const topic of ["railway a", "railway gone", "line a"] as const) hub.listen(topic, hear);
  vi.advanceTimersByTime(50);
  if (readyState !== null) latest().fail(readyState);
  expect(heard).toEqual([{ live: false }, { live: false }, { live: false }]);
  await vi.advanceTimersByTimeAsync(POLL);
  expect(heard.slice(3)).toEqual([
    { topic: "railway a", name: "hello", data: '{"revision":7,"stamp":"s"}' },
    { topic: "railway gone", name: "removed", data: "{}" },
  ]);
  versions = () => Promise.reject(new Error("no answer"));
  await vi.advanceTimersByTimeAsync(POLL);
  expect(heard).toHaveLength(5);
  if (readyState === null) return;
  // tried again after a while, and no longer asked once it is there
  await vi.advanceTimersByTimeAsync(POLL * 6);
  expect(sources.length).toBeGreaterThan(1);
  latest().say("open");
  expect(heard.slice(-3)).toEqual([{ live: true }, { live: true }, { live: true }]);
  versions = async () => '{"revision":8,"stamp":"t"}';
  await vi.advanceTimersByTimeAsync(POLL * 3);
  expect(heard).toHaveLength(8);
});

it("serves several tabs, and forgets one that leaves", async () => {
  vi.useRealTimers();
  const stopped: Topic[] = [];
  const tellers = new Map<Topic, Set<(told: Told) => void>>();
  const hub = {
    listen: (topic: Topic, tell: (told: Told) => void) => {
      const own = tellers.get(topic) ?? new Set();
      tellers.set(topic, own.add(tell));
      return () => {
        own.delete(tell);
        stopped.push(topic);
      };
    },
  };
  const tab = () => {
    const { port1, port2 } = new MessageChannel();
    servePort(hub, port2);
    return port1;
  };
  const [one, other] = [tab(), tab()];
  const told: Told[] = [];
  const listen = listenOver(one);
  const stop = listen("railway a", (each) => told.push(each));
  other.postMessage({ listen: "railway a" } satisfies Asked);
  other.postMessage({ listen: "railway b" } satisfies Asked);
  await vi.waitFor(() => expect(tellers.get("railway b")?.size).toBe(1));
  await vi.waitFor(() => expect(tellers.get("railway a")?.size).toBe(2));
  for (const tell of tellers.get("railway a") ?? []) tell({ topic: "railway a", name: "hello", data: "{}" });
  await vi.waitFor(() => expect(told).toEqual([{ topic: "railway a", name: "hello", data: "{}" }]));
  for (const tell of tellers.get("railway a") ?? []) tell({ live: false });
  await vi.waitFor(() => expect(told.at(-1)).toEqual({ live: false }));
  other.postMessage({ bye: true } satisfies Asked);
  await vi.waitFor(() => expect(stopped.sort()).toEqual(["railway a", "railway b"]));
  stop();
  await vi.waitFor(() => expect(tellers.get("railway a")?.size).toBe(0));
  one.close();
  other.close();
});

it("goes on in another way with all that is listened to when the first fails", () => {
  const log: string[] = [];
  const way = (name: string) => (topic: Topic) => {
    log.push(`${name} ${topic}`);
    return () => void log.push(`${name} left ${topic}`);
  };
  let fail = () => {};
  const listen = withSpare(
    way("shared"),
    () => way("alone"),
    (failed) => {
      fail = failed;
    },
  );
  const stop = listen("railway a", hear);
  listen("railway b", hear)();
  fail();
  fail();
  stop();
  listen("line a", hear);
  expect(log).toEqual([
    ...["shared railway a", "shared railway b", "shared left railway b"],
    ...["shared left railway a", "alone railway a", "alone left railway a", "alone line a"],
  ]);
});
