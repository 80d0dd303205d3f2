import { numbered } from "../catalogue/deviceType.ts";
import { moveWay } from "../loom/hand.ts";
import { wiresByEnd } from "../loom/reach.ts";
import { joinedAt, screwKey, type Wire } from "../loom/wire.ts";
import type { Strip } from "../record/made.ts";
import type { Thread } from "../schematic/thread.ts";
import { WIRE_COLOURS, type WireColour } from "../units/wireColours.ts";
import { rule } from "./rule.ts";
import { threadsOfWires } from "./threadsOf.ts";

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
    const { strips } = circuitry.loom;
    const wiresAt = wiresByEnd(circuitry.loom);
    return strips.flatMap((strip): Beside[] => {
      if (strip.kind !== "screws") return [];
      const wires = screwsOf(strip).map((key) => wiresAt.get(key) ?? NOTHING);
      const found = onceFor(strip, wires);
      if (!found) return [];
      return [{ ...found, strip, threads: threadsOfWires(threads, wires.slice(found.way - 1, found.way + 1).flat()) }];
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

const NOTHING: readonly Wire[] = [];

/** The names of a strip's ways in the circuit, which are long to make for every strip. */
const screws = new WeakMap<Strip, readonly string[]>();

function screwsOf(strip: Strip): readonly string[] {
  const made = screws.get(strip) ?? numbered(strip.ways).map((way) => screwKey(strip.id, way));
  screws.set(strip, made);
  return made;
}

/** What was found on a strip, with the wires of each way for which it holds. */
const known = new WeakMap<Strip, { wires: readonly (readonly Wire[])[]; found: ReturnType<typeof besideOn> }>();

/** What is beside each other on a strip, looked for again only when its wires are others. */
function onceFor(strip: Strip, wires: readonly (readonly Wire[])[]): ReturnType<typeof besideOn> {
  const before = known.get(strip);
  if (before?.wires.every((own, index) => own === wires[index])) return before.found;
  const found = besideOn(wires.map((own, index) => placeAt(strip, index + 1, own)));
  known.set(strip, { wires, found });
  return found;
}

/** What is at a way; cores have no colour here, they come with a flag on a cable. */
function placeAt(strip: Strip, way: number, wires: readonly Wire[]): Place {
  return {
    nets: new Set(wires.map(({ net }) => net)),
    colours: new Set(wires.flatMap(({ core, colour }) => (core ? [] : [colour]))),
    isJoined: wires.some((wire) => joinedAt(wire, screwKey(strip.id, way)) !== null),
  };
}

/** The first two neighbours that are alike on a strip, when exchanging two ways would leave no such two. */
function besideOn(order: readonly Place[]): Pick<Beside, "way" | "colour" | "exchange"> | null {
  const [way] = alikeIn(order);
  const colour = way === undefined ? undefined : sharedColour(order[way - 1], order[way]);
  if (way === undefined || colour === undefined) return null;
  for (const a of [way, way + 1]) {
    for (let b = 1; b <= order.length; b++) {
      const [one, two] = [order[a - 1], order[b - 1]];
      if (!one || !two || one.isJoined || two.isJoined || a === b) continue;
      const other = order.map((place, index) => (index === a - 1 ? two : index === b - 1 ? one : place));
      if (alikeIn(other).length === 0) return { way, colour, exchange: [a, b] };
    }
  }
  return null;
}

/** Ways whose next one is alike. */
function alikeIn(order: readonly Place[]): number[] {
  return order.flatMap((place, index) => (sharedColour(place, order[index + 1]) === undefined ? [] : [index + 1]));
}

/** A colour that two neighbours have both, for different nets. */
function sharedColour(a: Place | undefined, b: Place | undefined): WireColour | undefined {
  if (!a || !b || [...a.nets].some((net) => b.nets.has(net))) return undefined;
  return [...a.colours].find((colour) => b.colours.has(colour));
}
