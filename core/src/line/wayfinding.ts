import type { RailwayRecord } from "../record/kinds.ts";
import { blocksOnLine } from "./blocks.ts";
import { type LineLayout, lineLayout, type Stretch } from "./layout.ts";
import type { Route } from "./routes.ts";
import type { Leg, Lie } from "./topology.ts";
import { metresOfStep, Ways } from "./walk.ts";

/** From where to where: ends or blocks, by their identifiers; over turnouts or blocks, whatever their order. */
export interface Wanted {
  from: string;
  to: string;
  via?: readonly string[];
}

/** A way between two places, with the stretches that it goes over, by their numbers. */
export interface FoundWay extends Route {
  metres: number;
  stretches: number[];
}

/** A stretch that one goes along, one way or the other. */
interface Run {
  /** Number of the stretch. */
  stretch: number;
  along: boolean;
  metres: number;
  /** Blocks on it, with the metres from where one comes in to their near and far edges. */
  blocks: Map<string, { near: number; far: number }>;
  /** Ways on: the next run, and the blades on the way to it. */
  next: { run: Run; passed: readonly { id: string; lie: Lie }[] }[];
  /** Ends that it leads to. */
  ends: string[];
}

interface Path {
  run: Run;
  before: Path | null;
  /** Blades that were passed to come to this run. */
  passed: readonly { id: string; lie: Lie }[];
  metres: number;
  /** The train sets out on this run, and the block that it wants lies behind it. */
  isBehind: boolean;
}

/** Paths that are tried before it gives up. */
const MOST_TRIED = 200_000;

/**
 * Ways between two places, the shortest first; no turnout is passed twice, and none from leg to leg. From a block a train leaves
 * either way; to a block it comes when it enters the first of its stretches.
 *
 * Found by best-first search with the distance that is left at least as a lower bound, so that few paths are tried that lead
 * nowhere. Source: Hart, Nilsson, Raphael, "A formal basis for the heuristic determination of minimum cost paths", 1968.
 *
 * @param mostTried paths that are looked at before it gives up
 * @returns whether all were found
 */
export function* waysBetween(
  record: RailwayRecord,
  { from, to, via = [] }: Wanted,
  mostTried = MOST_TRIED,
): Generator<FoundWay, boolean> {
  const layout = lineLayout(record);
  const runs = runsOf(record, layout);
  const isThere = (run: Run) => run.ends.includes(to) || run.blocks.has(to);
  /** Metres of a run as far as one goes on it. */
  const lengthOf = (run: Run) => (run.ends.includes(to) ? run.metres : (run.blocks.get(to)?.near ?? run.metres));
  const left = distancesTo(runs, isThere, lengthOf);
  const open = new Heap<Path>();
  const put = (path: Path) => {
    const rest = left.get(path.run);
    if (rest !== undefined) open.put(path, path.metres + rest);
  };
  for (const run of runs) {
    const own = run.blocks.get(from);
    const start = startsAt(run, layout, from) ? 0 : own ? (own.near + own.far) / 2 : null;
    if (start === null) continue;
    // a block behind the train on its own stretch is not come to by going on
    const isBehind = (run.blocks.get(to)?.near ?? Number.POSITIVE_INFINITY) < start;
    put({ run, before: null, passed: [], metres: (isBehind ? run.metres : lengthOf(run)) - start, isBehind });
  }
  let tried = 0;
  for (let path = open.take(); path; path = open.take()) {
    if (++tried > mostTried) return false;
    const way = isThere(path.run) && !path.isBehind ? wayOf(path, from, to) : null;
    if (way && via.every((each) => each in way.settings || goesOver(path, each)) && !isBarred(layout, way)) yield way;
    if (way) continue;
    const been = new Set<string>();
    for (let at: Path | null = path; at; at = at.before) for (const { id } of at.passed) been.add(id);
    for (const { run, passed } of path.run.next) {
      // back in the block from which it set out it would only have begun later
      if (run.blocks.has(from) || passed.some(({ id }) => been.has(id))) continue;
      put({ run, before: path, passed, metres: path.metres + lengthOf(run), isBehind: false });
    }
  }
  return true;
}

function goesOver(path: Path, block: string): boolean {
  for (let at: Path | null = path; at; at = at.before) if (at.run.blocks.has(block)) return true;
  return false;
}

function isBarred({ line }: LineLayout, { settings }: Route): boolean {
  return (line.barred ?? []).some(
    ({ first, second, lies }) => settings[first] === lies[0] && settings[second] === lies[1],
  );
}

function wayOf(path: Path, from: string, to: string): FoundWay {
  const stretches: number[] = [];
  const settings: [string, Lie][] = [];
  for (let at: Path | null = path; at; at = at.before) {
    stretches.unshift(at.run.stretch);
    settings.unshift(...at.passed.map(({ id, lie }): [string, Lie] => [id, lie]));
  }
  return { from, to, settings: Object.fromEntries(settings), metres: path.metres, stretches };
}

function startsAt({ stretch, along }: Run, { stretches }: LineLayout, end: string): boolean {
  const own = stretches[stretch];
  return (along ? own?.from : own?.to) === end;
}

function runsOf(record: RailwayRecord, layout: LineLayout): Run[] {
  const ways = new Ways(layout);
  const { blocks } = blocksOnLine(record);
  const runs = layout.stretches.flatMap((stretch, index) =>
    [true, false].map((along): Run => {
      return { stretch: index, along, metres: stretch.metres, blocks: new Map(), next: [], ends: [] };
    }),
  );
  for (const { id, name, parts } of blocks) {
    if (name === null) continue;
    for (const { stretch, from, to } of parts) {
      const [near, far] = [from * metresOfStep(stretch), to * metresOfStep(stretch)];
      runs[stretch.index * 2]?.blocks.set(id, { near, far });
      runs[stretch.index * 2 + 1]?.blocks.set(id, { near: stretch.metres - far, far: stretch.metres - near });
    }
  }
  const runAt = ({ index }: Stretch, along: boolean) => runs[index * 2 + (along ? 0 : 1)];
  for (const run of runs) {
    const stretch = layout.stretches[run.stretch] as Stretch;
    const last = { stretch, step: run.along ? stretch.points.length - 2 : 0, along: run.along };
    if (stretch.from === null && stretch.to === null) continue;
    for (const beyond of ways.next(last, null)) {
      if (beyond.what === "end") run.ends.push(beyond.id);
      if (beyond.what !== "track") continue;
      const next = runAt(beyond.at.stretch, beyond.at.along);
      const passed = beyond.passed.map(({ id, entered, left }) => ({ id, lie: lieOf(entered, left) }));
      if (next) run.next.push({ run: next, passed });
    }
  }
  return runs;
}

function lieOf(entered: Leg, left: Leg): Lie {
  return (entered === "toe" ? left : entered) as Lie;
}

/** Metres that are left at least from the end of each run, where one comes there at all. */
function distancesTo(
  runs: readonly Run[],
  isThere: (run: Run) => boolean,
  lengthOf: (run: Run) => number,
): ReadonlyMap<Run, number> {
  const before = new Map<Run, Run[]>();
  for (const run of runs) for (const { run: next } of run.next) before.set(next, [...(before.get(next) ?? []), run]);
  const left = new Map<Run, number>();
  const open = new Heap<{ run: Run; metres: number }>();
  for (const run of runs) if (isThere(run)) open.put({ run, metres: 0 }, 0);
  for (let at = open.take(); at; at = open.take()) {
    if (left.has(at.run)) continue;
    left.set(at.run, at.metres);
    const metres = at.metres + lengthOf(at.run);
    for (const run of before.get(at.run) ?? []) if (!left.has(run)) open.put({ run, metres }, metres);
  }
  return left;
}

/** Things of which the one with the least cost is taken first. */
class Heap<T> {
  private readonly items: { thing: T; cost: number }[] = [];

  put(thing: T, cost: number): void {
    const { items } = this;
    let at = items.push({ thing, cost }) - 1;
    while (at > 0) {
      const up = (at - 1) >> 1;
      if ((items[up]?.cost ?? 0) <= cost) break;
      this.swap(at, up);
      at = up;
    }
  }

  take(): T | undefined {
    const { items } = this;
    const [first] = items;
    const last = items.pop();
    if (!first || !last || items.length === 0) return first?.thing;
    items[0] = last;
    for (let at = 0; ; ) {
      const [left, right] = [2 * at + 1, 2 * at + 2];
      let least = at;
      for (const child of [left, right])
        if ((items[child]?.cost ?? Infinity) < (items[least]?.cost ?? 0)) least = child;
      if (least === at) return first.thing;
      this.swap(at, least);
      at = least;
    }
  }

  private swap(a: number, b: number): void {
    const { items } = this;
    [items[a], items[b]] = [items[b] as { thing: T; cost: number }, items[a] as { thing: T; cost: number }];
  }
}
