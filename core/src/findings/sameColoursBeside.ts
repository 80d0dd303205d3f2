import { moveWay } from "../loom/hand.ts";
import { screwIdOf, screwKey, type Wire } from "../loom/wire.ts";
import type { Strip } from "../record/made.ts";
import type { Thread } from "../schematic/thread.ts";
import { WIRE_COLOURS, type WireColour } from "../units/wireColours.ts";
import { threadsOfWires } from "./ofWires.ts";
import { rule } from "./rule.ts";

interface Beside {
  strip: Strip;
  /** The first of two ways beside each other. */
  way: number;
  colour: WireColour;
  /** Ways that have only to change places for no two alike to be neighbours. */
  exchange: [number, number];
  threads: Thread[];
}

/** What is at a way: its tails, and whether something is joined there. */
interface Place {
  nets: Set<string>;
  colours: Set<WireColour>;
  isJoined: boolean;
}

export const sameColoursBeside = rule<Beside>({
  id: "same-colours-beside",
  stage: "loom",
  column: null,
  severity: "note",
  title: "Two alike are neighbours on a strip",
  about:
    "Two wires of one colour at neighbouring screws are the pair that gets exchanged, upside down in poor light. Where another order of the ways keeps them apart, and nothing is joined there yet, it costs nothing to use it.",
  look: ({ circuitry, threads }) => {
    const { strips, wires } = circuitry.loom;
    const places = placesOn(wires);
    return strips.flatMap((strip) => {
      if (strip.kind !== "screws") return [];
      return besideOn(strip, places.get(strip.id)).map((found): Beside => {
        const keys = [screwKey(strip.id, found.way), screwKey(strip.id, found.way + 1)];
        const own = wires.filter(({ from, to }) => keys.includes(from.key) || keys.includes(to.key));
        return { ...found, threads: threadsOfWires(threads, own) };
      });
    });
  },
  subject: ({ strip }) => strip.id,
  where: ({ strip, way }) => `${strip.label}-${way}`,
  terminals: ({ strip, way }) => [`${strip.label}-${way}`, `${strip.label}-${way + 1}`],
  turnouts: ({ threads }) => threads,
  why: ({ strip, way, colour }) =>
    `${strip.label}-${way} and ${strip.label}-${way + 1} both get a ${WIRE_COLOURS[colour]} wire, each for something else.`,
  remedies: ({ strip, exchange: [a, b] }, { record, circuitry }) => [
    {
      label: `Exchange ${strip.label}-${a} and ${strip.label}-${b}`,
      group: moveWay(record, circuitry.loom, { stripId: strip.id, way: a }, { stripId: strip.id, way: b }),
    },
  ],
});

/** What is at the ways of each strip; cores are left out, they come with a flag on a cable. */
function placesOn(wires: readonly Wire[]): Map<string, Map<number, Place>> {
  const strips = new Map<string, Map<number, Place>>();
  for (const { from, to, core, net, colour, fact } of wires) {
    for (const [{ key, of }, at] of [
      [from, fact?.fromJoinedAt],
      [to, fact?.toJoinedAt],
    ] as const) {
      if (of) continue;
      const id = screwIdOf(key);
      const ways = strips.get(id) ?? new Map<number, Place>();
      strips.set(id, ways);
      const way = Number(key.slice(id.length + 1));
      const place = ways.get(way) ?? { nets: new Set(), colours: new Set(), isJoined: false };
      ways.set(way, place);
      place.nets.add(net);
      if (!core) place.colours.add(colour);
      if (at) place.isJoined = true;
    }
  }
  return strips;
}

/** The first two neighbours that are alike on a strip, when exchanging two ways would leave no such two. */
function besideOn(strip: Strip, places: ReadonlyMap<number, Place> = new Map()): Omit<Beside, "threads">[] {
  const order = Array.from({ length: strip.ways }, (_, index) => places.get(index + 1));
  const [way] = alikeIn(order);
  const alike = way === undefined ? undefined : sharedColour(order[way - 1], order[way]);
  if (way === undefined || alike === undefined) return [];
  for (const a of [way, way + 1]) {
    for (let b = 1; b <= strip.ways; b++) {
      if (order[a - 1]?.isJoined || order[b - 1]?.isJoined || a === b) continue;
      const other = [...order];
      [other[a - 1], other[b - 1]] = [order[b - 1], order[a - 1]];
      if (alikeIn(other).length === 0) return [{ strip, way, colour: alike, exchange: [a, b] }];
    }
  }
  return [];
}

/** Ways whose next one is alike. */
function alikeIn(order: readonly (Place | undefined)[]): number[] {
  return order.flatMap((place, index) => (sharedColour(place, order[index + 1]) === undefined ? [] : [index + 1]));
}

/** A colour that two neighbours have both, for different nets. */
function sharedColour(a: Place | undefined, b: Place | undefined): WireColour | undefined {
  if (!a || !b || [...a.nets].some((net) => b.nets.has(net))) return undefined;
  return [...a.colours].find((colour) => b.colours.has(colour));
}
