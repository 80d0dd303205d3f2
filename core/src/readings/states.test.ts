import { expect, it } from "vitest";
import { bothHalves, nameOfState, PRESSED, type RailwayState, RESTING } from "./states.ts";

const thrown: RailwayState = { ...RESTING, ...PRESSED, asked: { a: "R", b: "N" }, acting: "a" };

it("names states that ask for the same alike, in whatever order and words", () => {
  expect(nameOfState({ ...thrown, asked: { b: "N", a: "R" } })).toBe(nameOfState(thrown));
  // what is asked of nobody by name is normal
  expect(nameOfState({ ...thrown, asked: { a: "R" } })).toBe(nameOfState(thrown));
  expect(nameOfState({ ...thrown, otherwise: "N", half: 1 })).toBe(nameOfState(thrown));
  expect(nameOfState({ ...thrown, asked: { a: "R", c: "R" } })).toBe(
    nameOfState({ ...thrown, asked: { c: "R", a: "R" } }),
  );
});

it.each<[string, Partial<RailwayState>]>([
  ["another turnout is asked", { asked: { a: "R", b: "R" } }],
  ["all others lie reversed", { otherwise: "R" }],
  ["it is held", { moment: "held" }],
  ["another one is thrown", { acting: "b" }],
  ["the supplies are off", { off: true }],
  ["it is the other half cycle", { half: -1 }],
  ["another control throws it", { by: "control-t2-a" }],
  ["one is thrown along", { also: new Map([["b", null]]) }],
])("names a state otherwise where %s", (_, change) => {
  expect(nameOfState({ ...thrown, ...change })).not.toBe(nameOfState(thrown));
});

it("has both half cycles of a state, whichever it is in, and the same two each time", () => {
  const [own, other] = bothHalves(thrown);
  expect(own).toBe(thrown);
  expect(other).toEqual({ ...thrown, half: -1 });
  expect(bothHalves(thrown)[1]).toBe(other);
  expect(bothHalves(other)[1]).toEqual({ ...thrown, half: 1 });
});
