// What was found of railways and is kept in the browser, with a store played in memory.
import { beforeEach, expect, it, vi } from "vitest";
import { forgetFindings, indexedDbFindings, MOST_KEPT } from "./keptFindings.ts";

const browser = vi.hoisted(() => ({
  store: new Map<string, unknown>(),
  /** Stands in the place of every answer. */
  instead: null as (() => Promise<never>) | null,
}));

vi.mock("idb-keyval", () => {
  const answers = async <T>(answer: () => T): Promise<T> => browser.instead?.() ?? structuredClone(answer());
  return {
    createStore: () => null,
    get: (key: string) => answers(() => browser.store.get(key)),
    set: (key: string, value: unknown) => answers(() => void browser.store.set(key, value)),
    del: (key: string) => answers(() => void browser.store.delete(key)),
    update: (key: string, change: (now: unknown) => unknown) =>
      answers(() => void browser.store.set(key, change(browser.store.get(key)))),
  };
});

beforeEach(() => {
  browser.store.clear();
  browser.instead = null;
});

const standing = (railwayId: string, revision = 3) => ({ railwayId, revision, stamp: `${railwayId}-${revision}` });
const known = (key: string) => ({ findings: [{ key } as never], loads: [] });

it("knows of a railway as it stood what was kept, found by the same program, and of nothing else", async () => {
  const kept = indexedDbFindings("worker-1.js");
  expect(await kept.known(standing("r1"))).toBeNull();
  await kept.keep(standing("r1"), known("a"));
  expect(await kept.known(standing("r1"))).toEqual(known("a"));
  expect(await kept.known(standing("r2"))).toBeNull();
  expect(await kept.known(standing("r1", 4))).toBeNull();
  // another past that has come to as many revisions
  expect(await kept.known({ ...standing("r1"), stamp: "other" })).toBeNull();
  expect(await indexedDbFindings("worker-2.js").known(standing("r1"))).toBeNull();
  await kept.keep(standing("r1", 4), known("b"));
  expect(await kept.known(standing("r1", 4))).toEqual(known("b"));
  expect(await kept.known(standing("r1"))).toBeNull();
});

it("keeps the railways that were checked last, and no more", async () => {
  const kept = indexedDbFindings("worker-1.js");
  const ids = Array.from({ length: MOST_KEPT + 2 }, (_, number) => `r${number}`);
  for (const id of ids.slice(0, MOST_KEPT)) await kept.keep(standing(id), known(id));
  // the first is checked once more, and is no longer the oldest
  await kept.keep(standing("r0", 4), known("r0"));
  for (const id of ids.slice(MOST_KEPT)) await kept.keep(standing(id), known(id));
  const gone = [];
  for (const id of ids) if (!(await kept.known(standing(id, id === "r0" ? 4 : 3)))) gone.push(id);
  expect(gone).toEqual(["r1", "r2"]);
  // beside them stands their list
  expect(browser.store.size).toBe(MOST_KEPT + 1);
});

it("forgets a railway that is gone, and no other", async () => {
  const kept = indexedDbFindings("worker-1.js");
  for (const id of ["r1", "r2"]) await kept.keep(standing(id), known(id));
  await forgetFindings("r1");
  expect(await kept.known(standing("r1"))).toBeNull();
  expect(await kept.known(standing("r2"))).toEqual(known("r2"));
  // it takes no place among those that are kept either
  expect([...browser.store.values()]).toContainEqual(["r2"]);
});

it("goes without where the browser refuses, and where it does not answer", async () => {
  const kept = indexedDbFindings("worker-1.js");
  browser.instead = () =>
    Promise.reject(new Error("A mutation operation was attempted on a database that did not allow it."));
  await expect(kept.keep(standing("r1"), known("a"))).resolves.toBeUndefined();
  await expect(forgetFindings("r1")).resolves.toBeUndefined();
  expect(await kept.known(standing("r1"))).toBeNull();
  vi.useFakeTimers();
  try {
    browser.instead = () => new Promise(() => {});
    const asked = kept.known(standing("r1"));
    await vi.advanceTimersByTimeAsync(2000);
    expect(await asked).toBeNull();
  } finally {
    vi.useRealTimers();
  }
});
