// No state that can be set has a short, a burn or an overload that no finding speaks of.
import { readFileSync } from "node:fs";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { drafted, findingsOf, railway } from "../../testing/build.ts";
import { EXHIBITS, randomRailway } from "../../testing/exhibits.ts";
import { onReversingToggle } from "../../testing/recipes.ts";
import { openRailwayFile } from "../catalogue/edit.ts";
import { Derived } from "../derive.ts";
import type { DeviceState } from "../readings/kit.ts";
import { find } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { FINGERS } from "./combinations.ts";
import { bearsOf, sweptPiece } from "./hands.ts";
import { leversOf } from "./levers.ts";
import { type Swept, troublesAt } from "./sweep.ts";
import type { Trouble } from "./troubles.ts";

/** States of a piece in which every lever stands as the numbers say, with no more held than there are fingers. */
function anyhow({ members, states, wires }: Swept, numbers: () => number): DeviceState[] {
  const joined = new Set(wires.flatMap(({ nodes }) => nodes));
  let fingers = FINGERS;
  return members.map((member, place) => {
    const state = states[place]!;
    const isJoined = (terminal: string) => joined.has(`${member.device.id}:${terminal}`);
    return leversOf(member, state.outputs.keys(), isJoined).reduce((set, { settings }) => {
      const free = fingers > 0 ? settings : settings.filter(({ held }) => !held);
      const setting = free[numbers() % free.length]!;
      if (setting.held) fingers--;
      return setting.set(set);
    }, state);
  });
}

/** What goes wrong in sampled states of a railway, and is told by no finding. */
function unspoken(record: RailwayRecord, numbers: () => number, samples: number): string[] {
  const derived = new Derived(record);
  const said = derived.findings.map(({ where, why, terminals }) => ` ${where} ${why} ${terminals.join(" ")}`);
  const bears = bearsOf(derived.circuitry);
  const wires = new Map(derived.loom.wires.map((wire) => [`${wire.from.node}>${wire.to.node}`, wire]));
  const isTold = ({ kind, id }: Trouble) => {
    const net = wires.get(id)?.net;
    const named =
      net === undefined
        ? [find(record, "device", id)!.label]
        : [...wires.values()].flatMap((wire) => (wire.net === net ? [wire.label] : []));
    return (
      kind === "coils" ||
      said.some((words) => named.some((label) => new RegExp(`[ (]${label}(?![0-9A-Za-z])`).test(words)))
    );
  };
  return derived.circuitry.pieces.flatMap((_, number) => {
    const piece = sweptPiece(derived.circuitry, number, bears);
    return Array.from({ length: samples }, () => anyhow(piece, numbers)).flatMap((states) =>
      troublesAt(piece, states)
        .filter((trouble) => !isTold(trouble))
        .map(({ kind, id, part, amps, limit }) => `${kind} ${id} ${part}: ${amps} over ${limit}`),
    );
  });
}

const seeded = (seed: number) => () => {
  // a linear congruential generator: the same numbers each time
  seed = (Math.imul(seed, 1664525) + 1013904223) >>> 0;
  return seed >>> 8;
};

describe.each(Object.keys(EXHIBITS))("%s", (name) => {
  it("has no state with a short, a burn or an overload of which nothing is said", () => {
    expect(unspoken(EXHIBITS[name]!(), seeded(name.length), 12)).toEqual([]);
  });
});

it.each(["skerrin-ferry", "shelf", "schools", "mistakes"])("nor has any of the sample %s", (name) => {
  const text = readFileSync(new URL(`../../../samples/${name}.json`, import.meta.url), "utf8");
  expect(unspoken(openRailwayFile(text), seeded(7), 6)).toEqual([]);
});

it("nor has any railway that can be entered", { timeout: 1200_000 }, () => {
  fc.assert(
    fc.property(randomRailway(), fc.nat(1e6), (record, seed) => {
      expect(unspoken(record, seeded(seed), 6)).toEqual([]);
    }),
    { numRuns: Number(process.env.RUNS ?? 60) },
  );
});
void [drafted, findingsOf, railway, onReversingToggle];
