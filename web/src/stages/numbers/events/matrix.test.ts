// Keys of the matrix of events: where they go, and what they say.
import { EVENT_ACTIONS, eventPlan, threadsOf } from "@alderman/core";
import { onBus } from "@alderman/core/testing/recipes";
import { expect, it } from "vitest";
import { actionByKey, narrowed, placeByKey } from "./matrix.ts";

it.each([
  ["ArrowDown", { row: 3, column: 4 }],
  ["ArrowUp", { row: 1, column: 4 }],
  ["ArrowLeft", { row: 2, column: 3 }],
  ["ArrowRight", { row: 2, column: 5 }],
  ["Home", { row: 2, column: 0 }],
  ["End", { row: 2, column: 9 }],
  ["PageDown", { row: 5, column: 4 }],
  ["PageUp", { row: 0, column: 4 }],
])("%s goes from a cell amid ten columns and six rows", (key, to) => {
  expect(placeByKey(key, { row: 2, column: 4 }, 6, 10, 10)).toEqual(to);
});

it("does not go beyond the edges, and other keys go nowhere", () => {
  expect(placeByKey("ArrowUp", { row: 0, column: 0 }, 6, 10, 10)).toEqual({ row: 0, column: 0 });
  expect(placeByKey("ArrowRight", { row: 5, column: 9 }, 6, 10, 10)).toEqual({ row: 5, column: 9 });
  expect(placeByKey("a", { row: 0, column: 0 }, 6, 10, 10)).toBeNull();
});

it("says each action by its letter, whatever the case, and nothing by Delete", () => {
  expect(["a", "I", "o", "F"].map((key) => actionByKey(key, null))).toEqual(["acts", "inverted", "on", "off"]);
  expect(actionByKey("Delete", "acts")).toBeNull();
  expect(actionByKey("x", "acts")).toBeUndefined();
});

it("goes through all of them by the space bar, and comes round to nothing", () => {
  let action = actionByKey(" ", null);
  const seen = [action];
  while (action) {
    action = actionByKey(" ", action);
    seen.push(action);
  }
  expect(seen).toEqual([...EVENT_ACTIONS, null]);
});

it("finds events and outputs by a word, each with what it acts upon, and all without one", () => {
  const record = onBus("push-pair", "push-pair");
  const plan = eventPlan(record, threadsOf(record));
  expect(narrowed(plan, " ")).toBe(plan);
  const [output] = plan.outputs;
  const found = narrowed(plan, output!.label);
  expect(found.outputs.map(({ label }) => label)).toContain(output!.label);
  const acting = plan.links.filter(({ deviceId, way }) => deviceId === output!.deviceId && way === output!.way);
  for (const { eventId } of acting) expect(found.events.map(({ id }) => id)).toContain(eventId);
  expect(found.events.length).toBeLessThan(plan.events.length);
  const byEvent = narrowed(plan, plan.events[0]!.label);
  expect(byEvent.events[0]).toBe(plan.events[0]);
  expect(narrowed(plan, "nowhere")).toMatchObject({ events: [], outputs: [] });
});
