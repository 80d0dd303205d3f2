import { expect, it } from "vitest";
import { paletteScore } from "./paletteScore.ts";

const things = [
  { label: "L1", words: "turnout L1 Linkspan, road 1" },
  { label: "D1", words: "device D1 Accessory decoder" },
  { label: "D12", words: "device D12 Accessory decoder" },
  { label: "BD1", words: "device BD1 Current detector" },
  { label: "Go to Loom", words: "Go to Loom" },
];
const found = (typed: string) =>
  things
    .map(({ label, words }) => ({ label, score: paletteScore(words, typed, label) }))
    .filter(({ score }) => score > 0)
    .sort((a, b) => b.score - a.score)
    .map(({ label }) => label);

it.each([
  ["d1", ["D1", "D12", "BD1"]],
  ["loom", ["Go to Loom"]],
  ["go to lo", ["Go to Loom"]],
  ["road link", ["L1"]],
  ["decoder", ["D1", "D12"]],
  ["nothing", []],
])("finds for %s", (typed, labels) => {
  expect(found(typed)).toEqual(labels);
});

it("shows everything before anything is typed", () => {
  expect(found(" ")).toHaveLength(things.length);
});
