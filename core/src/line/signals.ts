import type { RailwayRecord } from "../record/kinds.ts";
import type { MarkOf } from "../record/line.ts";
import type { Aspect } from "./aspects.ts";
import { type Block, type Blocks, blocksOnLine } from "./blocks.ts";
import { type LineEnd, type LineLayout, lineLayout } from "./layout.ts";
import type { MarkPlace } from "./rails.ts";
import type { Lie } from "./topology.ts";
import { type Heading, metresOfStep, nameOfHeading, Ways } from "./walk.ts";

/** What is so on the line at a moment. */
export interface LineState {
  /** Blocks, by their identifiers, in which something draws current. */
  occupied: ReadonlySet<string>;
  /** Signals, by their identifiers, held at danger from the panel. */
  held: ReadonlySet<string>;
  /** How blades lie, by the identifiers of the line. */
  lies: (id: string) => Lie;
}

/** Why a signal is red. */
export type SignalCause =
  | { why: "held" }
  | { why: "occupied"; block: Block }
  /** Blades on the way lie for the other leg. */
  | { why: "blades"; id: string }
  /** Track that leads nowhere, or round to the signal itself without a block. */
  | { why: "no way" };

/** What a signal watches over, and what it shows. */
export interface SignalShown {
  mark: MarkOf<"signal">;
  aspect: Aspect;
  cause: SignalCause | null;
  /** Blocks from the first gap ahead as far as the next signal, in the order of travel. */
  blocks: Block[];
  /** The next signal for the same direction. */
  next: MarkOf<"signal"> | null;
  /** Yellow before a buffer, where no signal is. */
  ends: "buffer" | "open" | null;
  /** The way that it guards, from the signal on. */
  way: Heading[];
  /** From the signal to the first gap ahead. */
  metresToBlock: number;
}

/**
 * What each signal shows: red when it is held, when a block that it guards is occupied, or when no route leads on; yellow when
 * the next signal is red or the track ends at a buffer; else green. It guards what lies from the first gap ahead of it as far as
 * the next signal for the same direction, as the blades lie. Common practice of three-aspect block signals.
 */
export function signalsOn(record: RailwayRecord, state: LineState): SignalShown[] {
  const layout = lineLayout(record);
  const blocks = blocksOnLine(record);
  const signals = blocks.rails.marks.filter(
    (place): place is MarkPlace & { mark: MarkOf<"signal"> } => place.mark.what === "signal",
  );
  const seen: Sight = {
    ways: new Ways(layout),
    signalAt: new Map(signals.map((each) => [nameOfHeading(each), each.mark])),
    ends: new Map(layout.ends.map((end) => [end.id, end])),
    ...{ blocks, lies: state.lies },
  };
  const ahead = new Map(signals.map((place) => [place.mark.id, aheadOf(place, seen)] as const));
  const causes = new Map(
    signals.map(({ mark }) => {
      const { blocks: guarded = [], stop } = ahead.get(mark.id) ?? {};
      return [mark.id, causeOf(mark, guarded, stop, state)] as const;
    }),
  );
  return signals.map(({ mark }): SignalShown => {
    const found = ahead.get(mark.id) as Ahead;
    const cause = causes.get(mark.id) ?? null;
    const ends = found.stop.what === "end" ? (found.stop.isBuffer ? "buffer" : "open") : null;
    const isNextRed = found.next !== null && found.next !== mark && causes.get(found.next.id) != null;
    const aspect = cause ? "red" : isNextRed || ends === "buffer" ? "yellow" : "green";
    const { blocks: guarded, next, way, metresToBlock } = found;
    return { mark, aspect, cause, blocks: guarded, next, ends, way, metresToBlock };
  });
}

type Stop =
  | { what: "signal" }
  | { what: "end"; isBuffer: boolean }
  | { what: "blades"; id: string }
  | { what: "nothing" };

interface Ahead {
  blocks: Block[];
  next: MarkOf<"signal"> | null;
  stop: Stop;
  way: Heading[];
  metresToBlock: number;
}

function causeOf(
  mark: MarkOf<"signal">,
  guarded: readonly Block[],
  stop: Stop | undefined,
  { held, occupied }: LineState,
): SignalCause | null {
  if (held.has(mark.id)) return { why: "held" };
  const block = guarded.find(({ id }) => occupied.has(id));
  if (block) return { why: "occupied", block };
  if (stop?.what === "blades") return { why: "blades", id: stop.id };
  return stop?.what === "nothing" ? { why: "no way" } : null;
}

/** What is looked at on the way ahead of a signal. */
interface Sight {
  ways: Ways;
  signalAt: ReadonlyMap<number, MarkOf<"signal">>;
  ends: ReadonlyMap<string, LineEnd>;
  blocks: Blocks;
  lies: LineState["lies"];
}

function aheadOf(
  { stretch, step, along, mark }: MarkPlace & { mark: MarkOf<"signal"> },
  { ways, signalAt, ends, blocks, lies }: Sight,
): Ahead {
  const guarded: Block[] = [];
  const way: Heading[] = [];
  const seen = new Set<number>();
  let metresToBlock = 0;
  const done = (stop: Stop, next: MarkOf<"signal"> | null = null): Ahead => {
    return { blocks: guarded, next, stop, way, metresToBlock };
  };
  let at: Heading = { stretch, step, along };
  for (;;) {
    const name = nameOfHeading(at);
    const signal = signalAt.get(name);
    if (signal && signal !== mark) return done({ what: "signal" }, signal);
    // round to the signal itself: it guards all there is
    if (seen.has(name)) return done({ what: signal === mark && guarded.length > 0 ? "signal" : "nothing" }, mark);
    seen.add(name);
    way.push(at);
    if (blocks.edges(at.stretch).has(at.step)) {
      const block = blocks.at(at.stretch, at.along ? at.step : at.step - 1);
      if (!guarded.includes(block)) guarded.push(block);
    } else if (guarded.length === 0) metresToBlock += metresOfStep(at.stretch);
    const [on] = ways.next(at, lies);
    if (!on || on.what === "nothing") return done({ what: "nothing" });
    if (on.what === "blades") return done({ what: "blades", id: on.id });
    if (on.what === "end") return done({ what: "end", isBuffer: ends.get(on.id)?.mark?.buffer ?? true });
    at = on.at;
  }
}

/** What a detector that fails makes of a block, and so of the signals that guard it. */
export const DETECTOR_FAILURES = [
  { what: "the wire to the rail is broken at the detector", tells: "dead" },
  { what: "the detector has no power", tells: "clear" },
  { what: "the wire from the detector's output is broken", tells: "clear" },
  { what: "the wire from the detector's output touches 0 V", tells: "occupied" },
] as const;

/** Places that trains can come to from a heading without turning back, whatever the blades lie to. */
export function reachFrom(
  layout: LineLayout,
  from: Heading,
  through?: (at: Heading, metres: number) => void,
): ReadonlyMap<string, number> {
  const ways = new Ways(layout);
  const ends = new Map<string, number>();
  const seen = new Map<number, number>();
  const open: { at: Heading; metres: number }[] = [{ at: from, metres: 0 }];
  while (open.length > 0) {
    // the nearest first, so that the first visit is the shortest
    let best = 0;
    for (let index = 1; index < open.length; index++)
      if ((open[index] as { metres: number }).metres < (open[best] as { metres: number }).metres) best = index;
    const [{ at, metres } = { at: from, metres: 0 }] = open.splice(best, 1);
    const name = nameOfHeading(at);
    if (seen.has(name)) continue;
    seen.set(name, metres);
    through?.(at, metres);
    const on = metres + metresOfStep(at.stretch);
    for (const next of ways.next(at, null)) {
      if (next.what === "end") ends.set(next.id, Math.min(on, ends.get(next.id) ?? Number.POSITIVE_INFINITY));
      else if (next.what === "track") open.push({ at: next.at, metres: on });
    }
  }
  return ends;
}
