import { CABLE_COLOUR_WORDS, CORE_COLOURS } from "../loom/colours.ts";
import { setCable } from "../loom/hand.ts";
import type { Wire } from "../loom/wire.ts";
import type { Cable } from "../record/made.ts";
import { CABLE_COLOURS } from "../record/schemas.ts";
import type { Thread } from "../schematic/thread.ts";
import { WIRE_COLOURS } from "../units/wireColours.ts";
import { rule } from "./rule.ts";
import { threadsOfWires } from "./threadsOf.ts";

interface Alike {
  cable: Cable;
  wires: [Wire, Wire];
  threads: Thread[];
}

export const sameColourInCable = rule<Alike>({
  id: "same-colour-in-cable",
  stage: "loom",
  column: null,
  severity: "look",
  title: "Two cores of a cable have one colour",
  about:
    "Two cores that look alike are told apart by a meter only, at both ends, on your back. A cable of more cores than its kind has colours repeats them: take a kind with enough colours, or two cables, or mark the second of each colour with a sleeve before it is laid.",
  look: ({ circuitry, threads }) => {
    const { cables, wires } = circuitry.loom;
    const first = new Map<string, Wire>();
    const alike = new Map<string, [Wire, Wire]>();
    for (const wire of wires) {
      if (!wire.core) continue;
      const key = `${wire.core.cableId} ${wire.colour}`;
      const other = first.get(key);
      if (!other) first.set(key, wire);
      else if (other.net !== wire.net && !alike.has(wire.core.cableId)) alike.set(wire.core.cableId, [other, wire]);
    }
    return cables.flatMap((cable): Alike[] => {
      const wires = alike.get(cable.id);
      return wires ? [{ cable, wires, threads: threadsOfWires(threads, wires) }] : [];
    });
  },
  subject: ({ cable }) => cable.id,
  where: ({ cable }) => cable.label,
  terminals: ({ wires }) => wires.map(({ from }) => from.name),
  turnouts: ({ threads }) => threads,
  why: ({ cable, wires: [a, b] }) =>
    `${a.label} and ${b.label}, cores ${a.core?.number} and ${b.core?.number} of ${cable.label}, are both ${WIRE_COLOURS[a.colour]}.`,
  remedies: ({ cable }, { record, circuitry }) =>
    CABLE_COLOURS.filter((kind) => CORE_COLOURS[kind].length >= cable.cores).map((kind) => ({
      label: `Take ${CABLE_COLOUR_WORDS[kind]}`,
      group: setCable(record, circuitry.loom, cable.id, { colours: kind }),
    })),
});
