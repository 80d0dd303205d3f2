import { expect, it } from "vitest";
import { isSameCause } from "./rule.ts";

it("knows a cause again however the sentence is worded", () => {
  const old = "Thrown to N, A11 gets 0.78 J in 20 ms; 0.36 J, 32 % of the pulse, is lost in wires. It needs 0.15 J.";
  const better = "A11 gets 0.78 J in 20 ms (it needs 0.15 J) when thrown to N: wires take 0.36 J, 32 % of the pulse.";
  expect(isSameCause(old, better)).toBe(true);
  expect(isSameCause(old, old)).toBe(true);
});

it("knows another cause by a figure, a label or a position", () => {
  const sentence = "At normal the frog of L2 carries the left rail, 15.0 V.";
  for (const other of [
    "At normal the frog of L2 carries the left rail, 14.0 V.",
    "At normal the frog of L3 carries the left rail, 15.0 V.",
    "At reverse the frog of L2 carries the left rail, 15.0 V.",
    "At normal the frog of L2 carries the right rail, 15.0 V.",
  ])
    expect(isSameCause(sentence, other)).toBe(false);
});

it("knows a cause again when its wire has got another number", () => {
  const sentence = "PS2 shuts down from 3.00 A; W134, AWG 24, bears 2.05 A.";
  expect(isSameCause(sentence, sentence.replace("W134", "W136"))).toBe(true);
  expect(isSameCause(sentence, sentence.replace("3.00", "2.50"))).toBe(false);
});
