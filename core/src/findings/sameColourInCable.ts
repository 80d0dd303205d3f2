import { CABLE_COLOUR_WORDS, CORE_COLOURS } from "../loom/colours.ts";
import { setCable } from "../loom/hand.ts";
import { wiresByCable } from "../loom/reach.ts";
import type { Wire } from "../loom/wire.ts";
import type { Cable } from "../record/made.ts";
import { CABLE_COLOURS } from "../record/schemas.ts";
import type { Thread } from "../schematic/thread.ts";
import { WIRE_COLOURS, type WireColour } from "../units/wireColours.ts";
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
    const cores = wiresByCable(circuitry.loom);
    return circuitry.loom.cables.flatMap((cable): Alike[] => {
      const wires = alikeOf(cores.get(cable.id) ?? []);
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

/** What was found among the wires of a cable; it holds for as long as they are the same. */
const known = new WeakMap<readonly Wire[], [Wire, Wire] | null>();

/** The first core of a cable with the colour of one before it that is for something else. */
function alikeOf(cores: readonly Wire[]): [Wire, Wire] | null {
  const before = known.get(cores);
  if (before !== undefined) return before;
  const first = new Map<WireColour, Wire>();
  let found: [Wire, Wire] | null = null;
  for (const wire of cores) {
    const other = first.get(wire.colour);
    if (!other) first.set(wire.colour, wire);
    else if (other.net !== wire.net) found ??= [other, wire];
  }
  known.set(cores, found);
  return found;
}
