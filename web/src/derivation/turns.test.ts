import { expect, it } from "vitest";
import { DEAF, Turns } from "./turns.ts";

/** Work that takes as long as it is given, and is done after so many times. */
function working(times: number) {
  const given: number[] = [];
  const work = (until: number) => {
    given.push(until - performance.now());
    while (performance.now() < until) {
      // as one that computes
    }
    return { made: given.length, isDone: given.length === times };
  };
  return { given, work };
}

it("works until it is done, and is never deaf for long", async () => {
  const { given, work } = working(3);
  expect(await new Turns().go(Number.POSITIVE_INFINITY, work)).toBe(3);
  expect(given).toHaveLength(3);
  expect(Math.max(...given)).toBeLessThanOrEqual(DEAF);
});

it("ends when time is up", async () => {
  const { given, work } = working(Number.POSITIVE_INFINITY);
  const until = performance.now() + 2.5 * DEAF;
  expect(await new Turns().go(until, work)).toBe(given.length);
  expect(performance.now()).toBeGreaterThanOrEqual(until);
  expect(given.length).toBeGreaterThan(0);
});

it("ends with what there is when it is told to hurry meanwhile, and not by what was told before", async () => {
  const turns = new Turns();
  turns.hurry();
  const { port1, port2 } = new MessageChannel();
  port1.onmessage = () => {
    turns.hurry();
    port1.close();
  };
  const { given, work } = working(100);
  const going = turns.go(Number.POSITIVE_INFINITY, (until) => {
    if (given.length === 1) port2.postMessage(null);
    return work(until);
  });
  expect(await going).toBeGreaterThanOrEqual(2);
  expect(given.length).toBeLessThan(10);
});
