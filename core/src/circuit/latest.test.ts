import { expect, it } from "vitest";
import { Latest } from "./latest.ts";

it("makes a value once, and forgets what was asked for longest ago", () => {
  const made: string[] = [];
  const latest = new Latest<string>(2);
  const ask = (key: string) =>
    latest.at(key, () => {
      made.push(key);
      return `value of ${key}`;
    });
  expect(["a", "b", "a", "c"].map(ask)).toEqual(["value of a", "value of b", "value of a", "value of c"]);
  expect(made).toEqual(["a", "b", "c"]);
  // b had to go for c, since a was asked for again
  ask("a");
  expect(made).toEqual(["a", "b", "c"]);
  ask("b");
  expect(made).toEqual(["a", "b", "c", "b"]);
});
