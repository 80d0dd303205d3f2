import { type AllotOptions, emptyRecord, usualOptions } from "@alderman/core";
import { expose } from "comlink";
import { afterEach, expect, it, vi } from "vitest";
import { Planning, type PlanThread } from "./plan.ts";

const ports: MessagePort[] = [];
afterEach(() => {
  for (const port of ports.splice(0)) port.close();
});

/** A thread that plans as given, and can be made to fail. */
function played(worker: object): { thread: PlanThread; fail: () => void } {
  const { port1, port2 } = new MessageChannel();
  ports.push(port1, port2);
  expose(worker, port2);
  port1.start();
  let failed = () => {};
  const thread: PlanThread = {
    postMessage: (message: unknown, transfer?: unknown) => port1.postMessage(message, transfer as Transferable[]),
    addEventListener: (kind: string, listener: unknown) => {
      if (kind === "error") failed = listener as () => void;
      else port1.addEventListener(kind as "message", listener as (event: MessageEvent) => void);
    },
    removeEventListener: (kind: string, listener: unknown) =>
      port1.removeEventListener(kind as "message", listener as (event: MessageEvent) => void),
    terminate: vi.fn(),
  };
  return { thread, fail: () => failed() };
}

const record = emptyRecord("Forty");
type Tell = (share: number, what: string) => void;

it("tells how far it is until the answer is there, and no longer", async () => {
  let late: Tell = () => {};
  const { thread } = played({
    propose: async (_record: object, _options: AllotOptions, tell: Tell) => {
      await tell(0.5, "zones");
      late = tell;
      return { done: "the proposal" };
    },
  });
  const told: string[] = [];
  const answer = await new Planning(() => thread).propose(record, usualOptions(record), (_share, what) => {
    told.push(what);
  });
  expect(answer).toEqual({ done: "the proposal" });
  await late(1, "done");
  expect(told).toEqual(["zones"]);
});

it("says so when the thread fails, instead of waiting for ever", async () => {
  const { thread, fail } = played({ accept: () => new Promise(() => {}) });
  const answer = new Planning(() => thread).accept(record, {} as never, []);
  fail();
  expect(await answer).toEqual({ refused: expect.stringMatching(/ended by itself.*nothing was changed/) });
});

it("tells each way to lay as it is found, and all of them at the end", async () => {
  const ways = [{ id: "star" }, { id: "bus" }];
  const { thread } = played({
    ways: async (_record: object, tell: (way: object, share: number) => void) => {
      for (const [index, way] of ways.entries()) await tell(way, (index + 1) / 2);
      return { done: ways };
    },
  });
  const told: [string, number][] = [];
  const answer = await new Planning(() => thread).ways(record, ({ id }, share) => told.push([id, share]));
  expect(told).toEqual([
    ["star", 0.5],
    ["bus", 1],
  ]);
  expect(answer).toEqual({ done: ways });
});
