// Every two levers are looked at in every setting, and nobody has more than two hands.
import fc from "fast-check";
import { expect, it } from "vitest";
import { choicesOf, FINGERS, heldIn, movedIn } from "./combinations.ts";
import type { Lever } from "./levers.ts";

/** A lever whose settings last or are held as the list says; the first is how it is found. */
const lever = (...held: boolean[]): Lever => ({
  deviceId: "d",
  settings: held.map((isHeld, index) => ({
    ...{ name: (label: string) => label, stands: `${index}`, held: isHeld, set: (state) => state },
  })),
});
const latching = lever(false, false);
const sprung = lever(false, true, true);

it("looks at all combinations of a few levers, those near to rest first", () => {
  expect(choicesOf([latching, latching])).toEqual([
    [0, 0],
    [0, 1],
    [1, 0],
    [1, 1],
  ]);
  expect(choicesOf([sprung])).toEqual([[0], [1], [2]]);
});

it("holds two controls at once, and never a third", () => {
  const choices = choicesOf([sprung, sprung, sprung]);
  // derived: 27 combinations, of which 8 hold all three
  expect(choices).toHaveLength(19);
  expect(Math.max(...choices.map((choice) => heldIn([sprung, sprung, sprung], choice)))).toBe(FINGERS);
});

const levers = fc.array(
  fc.array(fc.boolean(), { minLength: 1, maxLength: 3 }).map((more) => lever(false, ...more)),
  { minLength: 1, maxLength: 14 },
);

it("has any two levers in any two settings, however many levers there are", () => {
  fc.assert(
    fc.property(levers, fc.nat(), fc.nat(), fc.nat(), fc.nat(), (all, a, b, one, other) => {
      const [first, second] = [a % all.length, b % all.length];
      const [x, y] = [one % all[first]!.settings.length, other % all[second]!.settings.length];
      const choices = choicesOf(all);
      expect(choices[0]).toEqual(all.map(() => 0));
      expect(choices.every((choice) => heldIn(all, choice) <= FINGERS)).toBe(true);
      expect(new Set(choices.map(String)).size).toBe(choices.length);
      const wanted = choices.filter((choice) => choice[first] === x && (first === second || choice[second] === y));
      expect(wanted.length).toBeGreaterThan(0);
      // the others as they are found: what is said of the two is not put down to a third
      const nearest = Math.min(...wanted.map(movedIn));
      expect(nearest).toBeLessThanOrEqual(2);
    }),
  );
});
