// No state that can be set has a short, a burn or an overload that no finding speaks of.
import { readdirSync, readFileSync } from "node:fs";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { EXHIBITS, randomRailway } from "../../testing/exhibits.ts";
import { seeded } from "../../testing/networks.ts";
import { openRailwayFile } from "../catalogue/edit.ts";
import { Derived } from "../derive.ts";
import type { DeviceState } from "../readings/kit.ts";
import { find } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { FINGERS } from "./combinations.ts";
import { pinLimits, sweptPiece } from "./hands.ts";
import { leversOf } from "./levers.ts";
import type { Swept } from "./screen.ts";
import { troublesAt } from "./sweep.ts";
import type { Trouble, TroubleKind } from "./troubles.ts";

/** States of a piece in which every lever stands as chance has it, with no more held than there are fingers. */
function anyhow({ members, states, wires }: Swept, random: () => number): DeviceState[] {
  const joined = new Set(wires.flatMap(({ nodes }) => nodes));
  let fingers = FINGERS;
  return members.map((member, place) => {
    const state = states[place]!;
    const isJoined = (terminal: string) => joined.has(`${member.device.id}:${terminal}`);
    return leversOf(member, state.outputs.keys(), isJoined).reduce((set, { settings }) => {
      const free = fingers > 0 ? settings : settings.filter(({ held }) => !held);
      const setting = free[Math.floor(random() * free.length)]!;
      if (setting.held) fingers--;
      return setting.set(set);
    }, state);
  });
}

/** Rules that may speak of each trouble: its own, or the one that names its cause. */
const SPEAK: Record<TroubleKind, readonly string[]> = {
  short: ["short-by-hands", "supply-over-rating", "contact-used-twice"],
  supply: ["supply-over-rating", "short-by-hands", "contact-used-twice"],
  output: ["output-over-limit"],
  wire: ["wire-over-current", "plug-over-current"],
  coil: ["coil-held-on"],
  coils: ["coils-together", "coil-held-on"],
  lamp: ["lamp-current", "contact-used-twice"],
  contact: ["contact-over-rating", "contact-over-amps", "coil-held-on"],
  // a lamp that takes too much, and a unit that is emptied, heat their resistors as well
  heat: ["resistor-too-hot", "lamp-current", "coil-held-on", "contact-used-twice"],
  "back-feed": ["back-feed", "contact-used-twice"],
};

/** What goes wrong in sampled states of a railway, and is told by no finding of a rule that speaks of it. */
function unspoken(record: RailwayRecord, random: () => number, samples: number): string[] {
  const derived = new Derived(record);
  const said = derived.findings.map(({ ruleId, where, why, terminals }) => ({
    ruleId,
    words: ` ${where} ${why} ${terminals.join(" ")}`,
  }));
  const pins = pinLimits(derived.loom);
  const wires = new Map(derived.loom.wires.map((wire) => [wire.element, wire]));
  const isTold = ({ kind, id }: Trouble) => {
    const net = wires.get(id)?.net;
    const named =
      net === undefined
        ? [find(record, "device", id)!.label]
        : [...wires.values()].flatMap((wire) => (wire.net === net ? [wire.label] : []));
    return said.some(
      ({ ruleId, words }) =>
        SPEAK[kind].includes(ruleId) && named.some((label) => new RegExp(`[ (]${label}(?![0-9A-Za-z])`).test(words)),
    );
  };
  return derived.circuitry.pieces.flatMap((_, number) => {
    const piece = sweptPiece(derived.circuitry, number, pins);
    return Array.from({ length: samples }, () => anyhow(piece, random)).flatMap((states) =>
      troublesAt(piece, states)
        .filter((trouble) => !isTold(trouble))
        .map(({ kind, id, part, amps, limit }) => `${kind} ${id} ${part}: ${amps} over ${limit}`),
    );
  });
}

describe.each(Object.keys(EXHIBITS))("%s", (name) => {
  it("has no state with a short, a burn or an overload of which nothing is said", () => {
    expect(unspoken(EXHIBITS[name]!(), seeded(name.length), 12)).toEqual([]);
  });
});

const SAMPLES = new URL("../../../samples/", import.meta.url);

it.each(readdirSync(SAMPLES))("nor has any of the sample %s", (file) => {
  const record = openRailwayFile(readFileSync(new URL(file, SAMPLES), "utf8"));
  expect(unspoken(record, seeded(7), record.turnouts.length > 100 ? 2 : 6)).toEqual([]);
});

it("nor has any railway that can be entered", { timeout: 120_000 }, () => {
  fc.assert(
    fc.property(randomRailway(), fc.nat(1e6), (record, seed) => {
      expect(unspoken(record, seeded(seed), 6)).toEqual([]);
    }),
    { numRuns: 200 },
  );
});
