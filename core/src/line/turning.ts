import type { RailwayRecord } from "../record/kinds.ts";
import { type Block, type Blocks, blocksOnLine } from "./blocks.ts";
import { followsFrom } from "./follows.ts";
import { type LineLayout, lineLayout, type Stretch } from "./layout.ts";
import { portLabel, type RailPiece, railsOf } from "./rails.ts";
import { type Port, turnoutPort } from "./topology.ts";
import { metresOfStep, partsBetween } from "./walk.ts";

/** A gap in both rails. */
export interface BothGap {
  stretch: Stretch;
  step: number;
}

/** Track between gaps in both rails, the rails of which change sides while a train is in it. */
export interface Section {
  /** Made of its first gap, the same from one derivation to the next. */
  id: string;
  /** The blocks in it that have names. */
  blocks: Block[];
  gaps: BothGap[];
  metres: number;
  /** Sections of its kind that it meets at a gap. */
  touches: Section[];
}

/** What of a line turns trains, and how it is parted. */
export interface Turning {
  /** Sections whose rails have to be turned: as few as can be, of these the shortest. */
  sections: Section[];
  /** Loops with one gap: the rails are apart, but no section is between two. */
  single: BothGap[];
}

/** Both rails of a stretch as far as the next gaps in both, with what hangs together with it. */
interface Region {
  number: number;
  /** The rail that is taken for its first one. */
  first: RailPiece;
  parts: { stretch: Stretch; from: number; to: number }[];
  metres: number;
  borders: { gap: BothGap; other: Region; swaps: boolean }[];
}

/**
 * The sections that turn trains as they are parted now. At each gap in both rails left and right go on as they were, or change
 * places as far as the sections on its two sides are told alike; where a way round changes them an odd number of times, one of
 * the sections on it has to be turned. Found by trying few before many, the shortest first.
 */
export function turningOf(record: RailwayRecord): Turning {
  if (!followsFrom(record).turning.conflict) return { sections: [], single: [] };
  const blocks = blocksOnLine(record);
  const before = known.get(blocks);
  if (before) return before;
  const turning = turningIn(record, lineLayout(record), blocks);
  known.set(blocks, turning);
  return turning;
}

/** What was worked out once for the blocks of a line. */
const known = new WeakMap<Blocks, Turning>();

function turningIn(record: RailwayRecord, layout: LineLayout, { blocks }: Blocks): Turning {
  const regions = regionsOf(record, layout);
  const single = new Map<string, BothGap>();
  for (const region of regions)
    for (const { gap, other, swaps } of region.borders)
      if (swaps && other === region) single.set(`${gap.stretch.index} ${gap.step}`, gap);
  const turned = fewestTurned(regions);
  const sections = turned.map((region): Section => {
    const gaps = region.borders.map(({ gap }) => gap);
    const [first] = gaps;
    const inside = blocks.filter(({ name, parts }) =>
      name === null
        ? false
        : parts.some((part) =>
            region.parts.some(
              (own) =>
                own.stretch === part.stretch && own.from <= part.from && part.to <= own.to && part.from < part.to,
            ),
          ),
    );
    const id = first
      ? `section-${(first.stretch.points[first.step] ?? []).join("-")}`.replaceAll("--", "-m")
      : "section";
    return { id, blocks: inside, gaps, metres: region.metres, touches: [] };
  });
  for (const [index, region] of turned.entries())
    for (const { other } of region.borders) {
      const touched = sections[turned.indexOf(other)];
      const own = sections[index];
      if (own && touched && touched !== own && !own.touches.includes(touched)) own.touches.push(touched);
    }
  return { sections, single: [...single.values()] };
}

/** Regions between gaps in both rails that are sound in themselves. */
function regionsOf(record: RailwayRecord, layout: LineLayout): Region[] {
  const rails = railsOf(record, layout, true);
  const byPiece = new Map<RailPiece, Region>();
  const regions: Region[] = [];
  const regionAt = (stretch: Stretch, step: number): { region: Region; isFirst: boolean } => {
    const [left, right] = [rails.at(stretch, step, "left"), rails.at(stretch, step, "right")];
    let region = byPiece.get(left) ?? byPiece.get(right);
    if (!region) {
      region = { number: regions.length, first: left, parts: [], metres: 0, borders: [] };
      regions.push(region);
    }
    byPiece.set(left, region);
    byPiece.set(right, region);
    return { region, isFirst: region.first === left };
  };
  for (const stretch of layout.stretches) {
    // track that leads nowhere is no part of what turns
    if (stretch.from === null || stretch.to === null) continue;
    const last = stretch.points.length - 1;
    const cuts = [...rails.gaps(stretch).keys()].sort((a, b) => a - b);
    for (const [index, [from, to]] of partsBetween(cuts, last).entries()) {
      const { region } = regionAt(stretch, index === 0 ? -1 : Math.floor(from));
      region.parts.push({ stretch, from, to });
      region.metres += (to - from) * metresOfStep(stretch);
    }
    for (const step of cuts) {
      const [before, after] = [regionAt(stretch, step - 1), regionAt(stretch, step)];
      const swaps = before.isFirst !== after.isFirst;
      before.region.borders.push({ gap: { stretch, step }, other: after.region, swaps });
      if (after.region !== before.region)
        after.region.borders.push({ gap: { stretch, step }, other: before.region, swaps });
    }
  }
  return regions;
}

/** Regions that are looked at at most, two together. */
const MOST_TRIED = 400;

/** The fewest regions without which left and right can be told all over; of as many, those with the least track. */
function fewestTurned(regions: readonly Region[]): Region[] {
  const odd = oddRegions(regions, new Set());
  if (odd.length === 0) return [];
  const tried = [...odd].sort((a, b) => a.metres - b.metres).slice(0, MOST_TRIED);
  const one = tried.find((region) => oddRegions(regions, new Set([region])).length === 0);
  if (one) return [one];
  // one after the other: that which leaves the least undone, the shortest of them
  const left = tried.map((region) => ({ region, undone: oddRegions(regions, new Set([region])).length }));
  const least = Math.min(...left.map(({ undone }) => undone));
  const best = left.find(({ undone }) => undone === least)?.region;
  if (!best) return [];
  return [best, ...fewestTurned(regions.filter((each) => each !== best).map(without(best)))].map(
    (region) => regions.find(({ number }) => number === region.number) ?? region,
  );
}

/** A region that knows nothing of another. */
function without(gone: Region): (region: Region) => Region {
  return (region) => ({ ...region, borders: region.borders.filter(({ other }) => other.number !== gone.number) });
}

/** Regions of those that hang together and in which left and right cannot be told alike; gaps back into the same one do not count. */
function oddRegions(regions: readonly Region[], ignored: ReadonlySet<Region>): Region[] {
  const ignoredNumbers = new Set([...ignored].map(({ number }) => number));
  const byNumber = new Map(regions.map((region) => [region.number, region]));
  const side = new Map<number, boolean>();
  const odd: Region[] = [];
  for (const start of regions) {
    if (side.has(start.number) || ignoredNumbers.has(start.number)) continue;
    side.set(start.number, false);
    const group = [start];
    let isOdd = false;
    for (let index = 0; index < group.length; index++) {
      const at = group[index] as Region;
      for (const { other, swaps } of at.borders) {
        if (other.number === at.number || ignoredNumbers.has(other.number)) continue;
        const seen = side.get(at.number) !== swaps;
        const known = side.get(other.number);
        if (known === undefined) {
          side.set(other.number, seen);
          const next = byNumber.get(other.number);
          if (next) group.push(next);
        } else if (known !== seen) isOdd = true;
      }
    }
    if (isOdd) odd.push(...group);
  }
  return odd;
}

/** Why a link turns trains, step by step, whatever gaps there are. */
export function explainTurning(
  record: RailwayRecord,
): { link: readonly [Port, Port]; stretch: Stretch; walk: string[] }[] {
  const layout = lineLayout(record);
  const { turning } = followsFrom(record);
  return turning.cut.flatMap((link) => {
    const stretch = layout.byPort.get(link[0])?.stretch;
    const others = turning.cut.filter((other) => other !== link);
    return stretch ? [{ link, stretch, walk: walkRound(record, layout, link, others) }] : [];
  });
}

/**
 * A way round over a link, turnout by turnout. A rail keeps its side from a toe to a leg; from leg to leg one goes back on oneself,
 * and it changes sides.
 */
function walkRound(
  record: RailwayRecord,
  { line }: LineLayout,
  link: readonly [Port, Port],
  others: readonly (readonly [Port, Port])[],
): string[] {
  const [a, b] = link;
  const ignored = new Set([link, ...others].flat());
  const way = wayRound(
    line.links.filter(([port]) => !ignored.has(port)),
    link,
  );
  const words = [`Follow the rail on the left as one leaves ${portLabel(record, a)} towards ${portLabel(record, b)}.`];
  let isLeft = true;
  let at: Port = b;
  for (const [out, into] of way) {
    const isTurn = turnoutPort(at)?.leg !== "toe" && turnoutPort(out)?.leg !== "toe";
    if (isTurn) isLeft = !isLeft;
    const side = isLeft ? "left" : "right";
    words.push(
      isTurn
        ? `In at ${portLabel(record, at)} and back out at ${portLabel(record, out)}: now it is on the ${side}.`
        : `In at ${portLabel(record, at)} and out at ${portLabel(record, out)}: it is on the ${side} still.`,
    );
    at = into;
  }
  const side = isLeft ? "left" : "right";
  words.push(
    `It comes in at ${portLabel(record, at)} on the ${side}. Facing the points of ${turnoutOf(record, at)} that is its ${facing(at, isLeft, false)} rail, and it left as the ${facing(a, true, true)} one: each rail meets the other.`,
  );
  return words;
}

function turnoutOf(record: RailwayRecord, port: Port): string {
  return portLabel(record, port).replace(/ (toe|normal|reverse)$/, "");
}

/** The side of a rail as one faces the points from the toe, of one that lies so as one goes in or out by a port. */
function facing(port: Port, isLeft: boolean, goesOut: boolean): "left" | "right" {
  const goesWithPoints = (turnoutPort(port)?.leg === "toe") !== goesOut;
  return isLeft === goesWithPoints ? "left" : "right";
}

/** The shortest way from the far side of a link back to its near side on which a rail comes back as the other one. */
function wayRound(links: readonly (readonly [Port, Port])[], [a, b]: readonly [Port, Port]): [out: Port, into: Port][] {
  const around = new Map<string, [Port, Port][]>();
  for (const [one, other] of links)
    for (const [out, into] of [
      [one, other],
      [other, one],
    ] as [Port, Port][]) {
      const id = turnoutPort(out)?.id;
      if (id === undefined || !turnoutPort(into)) continue;
      around.set(id, [...(around.get(id) ?? []), [out, into]]);
    }
  const home = turnoutPort(a)?.id;
  /** Whether left and right as seen from the toe change places from one port to another over a link. */
  const swaps = (out: Port, into: Port) => (turnoutPort(out)?.leg === "toe") === (turnoutPort(into)?.leg === "toe");
  interface Seen {
    at: Port;
    swapped: boolean;
    way: [Port, Port][];
  }
  const seen = new Set<string>();
  const open: Seen[] = [{ at: b, swapped: swaps(a, b), way: [] }];
  for (let next = open.shift(); next; next = open.shift()) {
    const { at, swapped, way } = next;
    const id = turnoutPort(at)?.id ?? "";
    if (id === home && swapped) return way;
    const name = `${id} ${swapped}`;
    if (seen.has(name)) continue;
    seen.add(name);
    for (const [out, into] of around.get(id) ?? [])
      open.push({ at: into, swapped: swapped !== swaps(out, into), way: [...way, [out, into]] });
  }
  return [];
}
