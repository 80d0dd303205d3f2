import type { Lever } from "./levers.ts";

/** A setting for each of some levers, by its place among the lever's settings. */
export type Choice = readonly number[];

/** Fingers that hold something at once. */
export const FINGERS = 2;

/** Most combinations of one cluster that are all looked at; beyond, two levers at a time leave where they are found. */
const MOST = 256;

/** How many of the settings last only while a finger holds them. */
export function heldIn(levers: readonly Lever[], choice: Choice): number {
  return choice.filter((setting, lever) => levers[lever]?.settings[setting]?.held).length;
}

/** How many levers stand otherwise than they are found. */
export function movedIn(choice: Choice): number {
  return choice.filter((setting) => setting > 0).length;
}

/**
 * The settings of levers that can come about with two hands, those near to how they are found first: all of them when they
 * are few, else every two levers in every setting, the others as they are found or all in another of their settings.
 */
export function choicesOf(levers: readonly Lever[]): Choice[] {
  const counts = levers.map(({ settings }) => settings.length);
  const all = counts.reduce((product, each) => product * each, 1);
  const choices = all <= MOST ? product(counts) : pairs(counts);
  return choices
    .filter((choice) => heldIn(levers, choice) <= FINGERS)
    .sort((a, b) => heldIn(levers, a) - heldIn(levers, b) || movedIn(a) - movedIn(b));
}

function product(counts: readonly number[]): Choice[] {
  return counts.reduce<number[][]>(
    (choices, count) =>
      choices.flatMap((choice) => Array.from({ length: count }, (_, setting) => [...choice, setting])),
    [[]],
  );
}

function pairs(counts: readonly number[]): Choice[] {
  const bases = [counts.map(() => 0), counts.map((count) => Math.min(1, count - 1))];
  const found = new Map<string, Choice>();
  for (const base of bases) {
    for (const [a, first] of counts.entries()) {
      for (const [b, second] of counts.entries()) {
        if (b < a) continue;
        for (const [one, other] of product([first, second]) as [number, number][]) {
          const choice = base.map((setting, lever) => (lever === b ? other : lever === a ? one : setting));
          found.set(choice.join(), choice);
        }
      }
    }
  }
  return [...found.values()];
}
