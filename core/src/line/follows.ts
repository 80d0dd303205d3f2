import { Draft } from "../equip/draft.ts";
import type { EditGroup } from "../record/edits.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { Point } from "../record/line.ts";
import type { Turnout } from "../record/schemas.ts";
import { nameOfStep, opposite } from "./lattice.ts";
import { type LineLayout, lineLayout } from "./layout.ts";
import { stepOfMark } from "./marks.ts";
import { type Reversing, reversing } from "./reversing.ts";
import { type Route, routesIn } from "./routes.ts";
import { type Line, type Port, turnoutPort } from "./topology.ts";

/** Two turnouts whose reverse legs lead to each other between parallel tracks: they are thrown together. */
export interface Crossover {
  pair: [Turnout, Turnout];
  /** They move together in the record already. */
  isCoupled: boolean;
}

/** What follows from a line. */
export interface Follows {
  placed: number;
  /** Sections that turn trains, whatever gaps there are. */
  turning: Reversing;
  /** What of them no gap in both rails cuts: there the rails meet their opposites. */
  shorted: Reversing;
  crossovers: Crossover[];
  metres: number;
  hiddenMetres: number;
}

/** While one draws: routes that are looked for at most, turnouts passed on the way, links looked at for the fewest cuts. */
const MOST = { routes: 2_000, turnouts: 100_000, lookedAt: 20_000_000 };

/** What follows from the track alone, whatever its turnouts are called and its rails are parted. */
type OfTrack = Omit<Follows, "placed" | "crossovers" | "shorted"> & {
  /** Places among the junctions of the two ends of each crossover. */
  parallel: [number, number][];
};

const known = new WeakMap<Line, { marks: RailwayRecord["marks"]; ofTrack: OfTrack; shorted: Reversing }>();

/** The line without the links whose rails are parted. */
function withoutGapped({ marks }: RailwayRecord, { line, stretches }: LineLayout): Line {
  const gaps = new Set(
    marks.flatMap((mark) => (mark.what === "gap" && mark.rails === "both" ? [stepOfMark(mark)] : [])),
  );
  if (gaps.size === 0) return line;
  const parted = new Set(
    stretches.flatMap(({ points, from, to }) =>
      points.some((point, index) => index > 0 && gaps.has(nameOfStep(points[index - 1] as Point, point)))
        ? [`${from} ${to}`]
        : [],
    ),
  );
  return { ...line, links: line.links.filter(([a, b]) => !parted.has(`${a} ${b}`)) };
}

const found = new WeakMap<RailwayRecord, Follows>();

/** What follows from the line diagram of a record; of its track worked out once, whatever else is edited. */
export function followsFrom(record: RailwayRecord): Follows {
  const known = found.get(record) ?? followsOf(record);
  found.set(record, known);
  return known;
}

function followsOf(record: RailwayRecord): Follows {
  const layout = lineLayout(record);
  const before = known.get(layout.line);
  const ofTrack = before?.ofTrack ?? trackFollows(layout);
  const shorted =
    before?.marks === record.marks
      ? before.shorted
      : ofTrack.turning.conflict
        ? reversing(withoutGapped(record, layout), MOST.lookedAt)
        : ofTrack.turning;
  known.set(layout.line, { marks: record.marks, ofTrack, shorted });
  const placed = layout.junctions.filter(({ turnout }) => turnout).length;
  const { parallel, ...follows } = ofTrack;
  return { ...follows, shorted, placed, crossovers: crossoversIn(layout, parallel) };
}

/** Routes between ends, each a way that trains can go. */
interface BetweenEnds {
  routes: Route[];
  /** There are more routes than were looked for. */
  more: boolean;
}

const counted = new WeakMap<Line, BetweenEnds>();

/** The routes of a record's line between its ends, worked out once for a track. */
export function routesBetweenEnds(record: RailwayRecord): BetweenEnds {
  const { line } = lineLayout(record);
  const known = counted.get(line);
  if (known) return known;
  const routes: Route[] = [];
  const all = routesIn(line, MOST.turnouts);
  let next = all.next();
  for (; !next.done && routes.length < MOST.routes; next = all.next()) routes.push(next.value);
  const found = { routes, more: next.done !== true || !next.value };
  counted.set(line, found);
  return found;
}

function trackFollows(layout: LineLayout): OfTrack {
  return {
    ...{ turning: reversing(layout.line, MOST.lookedAt), parallel: parallelIn(layout) },
    metres: layout.stretches.reduce((total, { metres }) => total + metres, 0),
    hiddenMetres: layout.stretches.reduce((total, { hiddenMetres }) => total + hiddenMetres, 0),
  };
}

/** Pairs of blades joined by their reverse legs in one straight, whose straight tracks are parallel: their places among the junctions. */
function parallelIn({ stretches, junctions }: LineLayout): [number, number][] {
  const at = new Map(junctions.map(({ id }, place) => [id, place]));
  const reverseOf = (port: Port | null): number | null => {
    const own = port === null ? null : turnoutPort(port);
    const place = own === null ? undefined : at.get(own.id);
    const junction = place === undefined ? undefined : junctions[place];
    if (!own || place === undefined || !junction || junction.hand === "wye") return null;
    const isReverse = (own.leg === "reverse") !== (junction.spot?.turned ?? false);
    return isReverse ? place : null;
  };
  return stretches.flatMap(({ from, to }): [number, number][] => {
    const [one, other] = [reverseOf(from), reverseOf(to)];
    const [a, b] = [junctions[one ?? -1], junctions[other ?? -1]];
    if (one === null || other === null || !a || !b || a === b) return [];
    const isStraight = a.reverse === opposite(b.reverse);
    const isParallel = a.normal === opposite(b.normal);
    return isStraight && isParallel ? [[one, other]] : [];
  });
}

/** The crossovers whose two ends are turnouts of the list. */
function crossoversIn({ junctions }: LineLayout, parallel: readonly [number, number][]): Crossover[] {
  return parallel.flatMap(([first, second]): Crossover[] => {
    const [one, other] = [junctions[first]?.turnout, junctions[second]?.turnout];
    if (!one || !other) return [];
    return [{ pair: [one, other], isCoupled: one.movesWith === other.id || other.movesWith === one.id }];
  });
}

/** Lets the second of a crossover move with the first. */
export function couple(record: RailwayRecord, { pair: [leader, follower] }: Crossover): EditGroup {
  const draft = new Draft(record);
  draft.put("turnout", { ...follower, movesWith: leader.movesWith ?? leader.id });
  return draft.group(`${follower.label} moves with ${leader.label}`);
}
