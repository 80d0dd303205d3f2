import { emptyRecord, type RailwayRecord } from "@alderman/core";
import { expect, it } from "vitest";
import type { Focus } from "./derive.worker.ts";
import { type AskWorker, Deriver, type Results } from "./deriver.ts";

const FOCUS: Focus = {
  turnoutId: null,
  asked: {},
  by: null,
  moment: "rest",
  red: null,
  black: null,
  range: "V",
  lamp: false,
};
const record = (name: string) => emptyRecord(name);

/** A worker whose answers wait until the test lets them out. */
function slowWorker() {
  const asked: string[] = [];
  const waiting: (() => void)[] = [];
  const answer = <T>(question: string, value: T): Promise<T> => {
    asked.push(question);
    return new Promise((done) => waiting.push(() => done(value)));
  };
  const worker = {
    overview: (given: RailwayRecord) =>
      answer(`overview ${given.railway.name}`, { whole: { name: given.railway.name }, wires: [], threads: [] }),
    focus: (given: Focus) => answer(`focus ${given.turnoutId}`, { turnoutId: given.turnoutId }),
    proving: () => answer("proving", {}),
    openEnds: () => answer("open ends", 3),
  } as unknown as AskWorker;
  const release = async () => {
    waiting.shift()?.();
    await new Promise((done) => setTimeout(done));
  };
  return { asked, worker, release };
}

function deriver(worker: AskWorker) {
  const seen: Results[] = [];
  return {
    deriver: new Deriver(
      () => worker,
      (results) => seen.push(results),
    ),
    seen,
    latest: () => seen.at(-1),
  };
}

it("asks for the overview, then the focus, then the proving and what is left open, and nothing twice", async () => {
  const { asked, worker, release } = slowWorker();
  const { deriver: subject, latest } = deriver(worker);
  subject.want(record("A"), FOCUS);
  for (let answer = 0; answer < 5; answer++) await release();
  expect(asked).toEqual(["overview A", "focus null", "proving", "open ends"]);
  expect(latest()).toMatchObject({ overview: { name: "A" }, focus: { turnoutId: null }, proving: {}, openEnds: 3 });
  expect(latest()?.failure).toBeNull();
});

it("passes over what was wanted in between, and never shows an older result after a newer wish", async () => {
  const { asked, worker, release } = slowWorker();
  const { deriver: subject, seen } = deriver(worker);
  for (const name of ["A", "B", "C", "D"]) subject.want(record(name), FOCUS);
  await release();
  await release();
  expect(asked.slice(0, 2)).toEqual(["overview A", "overview D"]);
  expect(seen.map(({ overview }) => (overview as unknown as { name: string }).name)).toEqual(["D"]);
});

it("answers a new focus without working out the record anew", async () => {
  const { asked, worker, release } = slowWorker();
  const { deriver: subject } = deriver(worker);
  const same = record("A");
  subject.want(same, FOCUS);
  for (let answer = 0; answer < 4; answer++) await release();
  subject.want(same, { ...FOCUS, turnoutId: "y1" });
  await release();
  expect(asked).toEqual(["overview A", "focus null", "proving", "open ends", "focus y1"]);
});

it("tells of a failure once, and tries again with the next record", async () => {
  let calls = 0;
  const worker = {
    overview: async ({ railway }: { railway: { name: string } }) => {
      calls++;
      if (railway.name === "bad") throw new Error("Sources contradict each other.");
      return { whole: {}, wires: [], threads: [] };
    },
    focus: async () => ({}),
    proving: async () => ({}),
    openEnds: async () => 0,
  } as unknown as AskWorker;
  const { deriver: subject, latest } = deriver(worker);
  subject.want(record("bad"), FOCUS);
  await new Promise((done) => setTimeout(done));
  expect(latest()?.failure).toBe("Sources contradict each other.");
  expect(calls).toBe(1);
  subject.want(record("good"), FOCUS);
  await new Promise((done) => setTimeout(done));
  expect(latest()?.failure).toBeNull();
});

it("forgets all results when no railway is open", async () => {
  const { worker, release } = slowWorker();
  const { deriver: subject, latest } = deriver(worker);
  subject.want(record("A"), FOCUS);
  await release();
  subject.want(null, FOCUS);
  expect(latest()).toEqual({ overview: null, focus: null, proving: null, openEnds: null, failure: null });
});
