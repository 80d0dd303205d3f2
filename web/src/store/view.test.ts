// What is looked at belongs to one railway: nothing of it is carried into another.
import { expect, it } from "vitest";
import { choose, hold, lookAtRailway, occupy, probe, setTheme, throwTo, view } from "./view.ts";

const { reducer } = view;
const after = (...actions: Parameters<typeof reducer>[1][]) =>
  actions.reduce((state, action) => reducer(state, action), reducer(undefined, { type: "begin" }));
const looked = [
  lookAtRailway("one"),
  throwTo({ turnoutId: "y1", position: "R" }),
  occupy({ id: "block-a", on: true }),
  hold({ id: "signal-s1", on: true }),
  probe({ probe: "red", end: { key: "d1:A", name: "D1-A" } }),
  choose({ kind: "turnout", id: "y1" }),
  setTheme("shed"),
];

it("keeps how turnouts stand, trains and probes while one comes back to the same railway", () => {
  const state = after(...looked, lookAtRailway("one"));
  expect(state).toMatchObject({ asked: { y1: "R" }, occupied: ["block-a"], held: ["signal-s1"], chosen: null });
  expect(state.red).not.toBeNull();
});

it("shows another railway with nothing thrown, no train, no probe; the theme stays", () => {
  expect(after(...looked, lookAtRailway("two"))).toMatchObject({
    ...{ asked: {}, occupied: [], held: [], chosen: null, red: null, theme: "shed" },
  });
});

it("puts a train into a block once, and takes it out", () => {
  const twice = [occupy({ id: "a", on: true }), occupy({ id: "a", on: true })];
  expect(after(...twice).occupied).toEqual(["a"]);
  expect(after(...twice, occupy({ id: "a", on: false })).occupied).toEqual([]);
});
