import { Draft } from "../equip/draft.ts";
import { addTurnoutTo } from "../equip/turnouts.ts";
import type { EditGroup } from "../record/edits.ts";
import { find, freshId } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { Mark, Point, Spot, Track } from "../record/line.ts";
import { recordError } from "../record/problems.ts";
import type { Turnout } from "../record/schemas.ts";
import { count, list } from "../units/format.ts";
import {
  type Direction,
  directionTo,
  nameOfPoint,
  nameOfStep,
  pointsAlong,
  simplified,
  stepsOf,
  turnedBy,
  wayBetween,
} from "./lattice.ts";
import { type Junction, type LineLayout, type LinePlace, lineLayout } from "./layout.ts";
import { isOnStep, stepOfMark, stepsIn, stepsOfLine } from "./marks.ts";
import { shapeOf } from "./places.ts";

/** What comes into being, or goes, at a point. */
export interface Becoming {
  point: Point;
  words: string;
  /** It was there, and goes. */
  goes?: true;
}

/** Where in the problem of a refused way it stands that a three-way turnout is what has to be asked for. */
export const ASKS_THREE_WAY = "threeWay";

export interface Laying {
  /** Null when nothing would be laid. */
  group: EditGroup | null;
  /** What comes into being, told while it is laid. */
  becomes: Becoming[];
}

export interface LayOptions {
  /** Turnouts of the list that are put where blades come into being, in turn; then new ones are made. */
  tray?: readonly string[];
  /** Three legs from one toe are wanted. */
  threeWay?: boolean;
  hidden?: boolean;
}

const HAND_WORDS = { left: "left-hand turnout", right: "right-hand turnout", wye: "wye" } as const;

/**
 * Lays track along points, and puts a turnout wherever blades come into being.
 * @throws {RecordError} that says why no train would run there
 */
export function layTrack(record: RailwayRecord, points: readonly Point[], options: LayOptions = {}): Laying {
  const way = simplified(points);
  if (way.length < 2) return { group: null, becomes: [] };
  if (!pointsAlong(way)) throw recordError("Track runs straight from point to point, in eight directions.");
  const draft = new Draft(record);
  const track: Track = { id: freshId(record, "track", "track-1"), points: way, hidden: options.hidden ?? false };
  draft.put("track", track);
  const before = lineLayout(record);
  for (const place of lineLayout(draft.record).places) {
    const known = before.at.get(nameOfPoint(place.point));
    if (known?.kind !== place.kind) refuse(place, options);
  }
  const becomes = settle(draft, record, options.tray ?? []);
  const metres = trackMetres(record, way);
  const what = becomes.filter(({ goes }) => !goes).map(({ words }) => words);
  const words = what.length > 0 ? `Laid track: ${list(what.slice(0, 3))}` : `Laid ${metres.toFixed(2)} m of track`;
  return { group: draft.group(words), becomes };
}

/**
 * What would come into being along points, told while one draws: the same as `layTrack` says, looked at only along the way.
 * @throws {RecordError} that says why no train would run there
 */
export function becomesAlong(record: RailwayRecord, points: readonly Point[], options: LayOptions = {}): Becoming[] {
  const way: Track = { id: "way", points: simplified(points), hidden: false };
  const own = stepsOf([way]);
  if (way.points.length > 1 && own.astray.length > 0)
    throw recordError("Track runs straight from point to point, in eight directions.");
  const { around, at } = lineLayout(record);
  const waiting = [...(options.tray ?? [])];
  const taken = new Set<string>();
  return [...own.around].flatMap(([name, { point, directions: laid }]): Becoming[] => {
    const directions = new Set([...(around.get(name)?.directions ?? []), ...laid]);
    const known = at.get(name);
    const { kind, blades } = shapeOf(directions, false);
    if (kind === "plain" || kind === "end" || kind === (known?.kind ?? "plain")) return [];
    refuse({ kind, point }, options);
    if (kind === "crossing") return [{ point, words: "crossing" }];
    return blades.flatMap((each, second): Becoming[] => {
      if (known?.junctions[second]?.turnout) return [];
      const id = waiting.shift();
      const label = (id && find(record, "turnout", id)?.label) ?? nextLabel(record, point, taken);
      taken.add(label.toLowerCase());
      return [{ point, words: wordsOf(kind, { hand: each.hand, second: second === 1 }, label) }];
    });
  });
}

/**
 * The way from one point to another: where there is track already in the direction in which it would begin, it branches off at
 * once instead of running over it.
 */
export function wayOn(record: RailwayRecord, from: Point, to: Point): Point[] {
  const straight = wayBetween(from, to);
  const [, next] = pointsAlong(straight) ?? [];
  const direction = next && directionTo(from, next);
  const there = lineLayout(record).around.get(nameOfPoint(from))?.directions;
  const isOverTrack = direction !== undefined && direction !== null && (there?.has(direction) ?? false);
  return isOverTrack ? wayBetween(from, to, true) : straight;
}

/** How long track through these points is on the baseboard, metres. */
export function trackMetres({ railway }: RailwayRecord, points: readonly Point[]): number {
  let steps = 0;
  for (let index = 1; index < points.length; index++) {
    const [a, b] = [points[index - 1] as Point, points[index] as Point];
    steps += Math.hypot(b[0] - a[0], b[1] - a[1]);
  }
  return steps * railway.stepMetres;
}

/** @throws {RecordError} for what no train can take, or what has to be asked for */
function refuse({ kind, point: [x, y] }: Pick<LinePlace, "kind" | "point">, { threeWay }: LayOptions): void {
  const at = `At ${x}, ${y}`;
  if (kind === "bend")
    throw recordError(`${at} track would turn by a quarter or more; bend it by an eighth at a time.`);
  if (kind === "unclear")
    throw recordError(
      `${at} tracks would meet of which none runs on into the others: branch off by an eighth of a turn.`,
    );
  if (kind === "three-way" && !threeWay)
    throw recordError(`${at} three legs from one toe is a three-way turnout: press 3 to make it one.`, [
      ASKS_THREE_WAY,
    ]);
}

/**
 * Puts a turnout wherever blades have none, takes up those that have lost their blades, and ends that are none any more.
 * @param before the record before the track was changed
 * @returns what came into being and what went
 */
export function settle(draft: Draft, before: RailwayRecord, tray: readonly string[] = []): Becoming[] {
  const becomes: Becoming[] = [];
  const was = lineLayout(before);
  const layout = lineLayout(draft.record);
  const lostBefore = new Set(was.lost.map(({ id }) => id));
  for (const spot of layout.lost) {
    if (lostBefore.has(spot.id)) continue;
    draft.remove("spot", spot.id);
    const label = find(draft.record, "turnout", spot.turnoutId)?.label ?? spot.turnoutId;
    becomes.push({ point: [spot.x, spot.y], words: `${label} is in the tray again`, goes: true });
  }
  const ends = new Set(layout.ends.map(({ point }) => nameOfPoint(point)));
  for (const mark of before.marks) {
    const there = nameOfPoint([mark.x, mark.y]);
    if (mark.what === "end" && was.ends.some((end) => end.mark === mark) && !ends.has(there)) {
      draft.remove("mark", mark.id);
      becomes.push({ point: [mark.x, mark.y], words: `end "${mark.name}" is none any more`, goes: true });
    }
    const isCrossing = layout.at.get(there)?.acute ?? false;
    if (mark.what === "slip" && (was.at.get(there)?.acute ?? false) && !isCrossing) draft.remove("mark", mark.id);
  }
  const waiting = [...tray];
  for (const place of lineLayout(draft.record).places) {
    const known = was.at.get(nameOfPoint(place.point));
    const isNew = known?.kind !== place.kind;
    for (const junction of place.junctions) {
      if (junction.turnout) continue;
      // what was there before without a turnout stays as the owner left it
      if (!isNew && known?.junctions.some(({ second }) => second === junction.second)) continue;
      const turnout = put(draft, place, junction, waiting.shift());
      becomes.push({ point: place.point, words: wordsOf(place.kind, junction, turnout.label) });
    }
    if (isNew && place.kind === "crossing") becomes.push({ point: place.point, words: "crossing" });
  }
  return becomes;
}

function wordsOf(kind: LinePlace["kind"], { hand, second }: Pick<Junction, "hand" | "second">, label: string): string {
  if (kind === "slip") return `slip, ${label}`;
  if (kind === "three-way") return second ? `its second blades, ${label}` : `three-way turnout, ${label}`;
  return `${HAND_WORDS[hand]}, ${label}`;
}

/** Puts a turnout of the list, or a new one, at blades. */
function put(draft: Draft, { point: [x, y] }: LinePlace, { hand, second }: Junction, id: string | undefined): Turnout {
  const known = id === undefined ? undefined : find(draft.record, "turnout", id);
  const turnout = known ?? addTurnoutTo(draft, nextLabel(draft.record, [x, y]));
  if (turnout.hand === "unknown") draft.put("turnout", { ...turnout, hand });
  draft.put("spot", {
    id: freshId(draft.record, "spot", `at-${turnout.id}`),
    ...{ turnoutId: turnout.id, x, y, second, turned: false, powerRouting: false },
  });
  return turnout;
}

/** The next free label beside a point: as the nearest turnout is called, with the number after the greatest of its kind. */
export function nextLabel(record: RailwayRecord, [x, y]: Point, also: ReadonlySet<string> = new Set()): string {
  const far = (spot: { x: number; y: number }) => Math.max(Math.abs(spot.x - x), Math.abs(spot.y - y));
  const [nearest] = [...record.spots].sort((a, b) => far(a) - far(b));
  const label = nearest && find(record, "turnout", nearest.turnoutId)?.label;
  const stem = /^(.*?)\d+$/.exec(label ?? "")?.[1] ?? "Y";
  const numbers = record.turnouts.flatMap(({ label: each }) =>
    each.startsWith(stem) && /^\d+$/.test(each.slice(stem.length)) ? [Number(each.slice(stem.length))] : [],
  );
  const taken = new Set(record.turnouts.map(({ label: each }) => each.toLowerCase()));
  for (let number = Math.max(0, ...numbers) + 1; ; number++)
    if (![taken, also].some((labels) => labels.has(`${stem}${number}`.toLowerCase())))
      return `${stem}${number}`.slice(0, 24);
}

/** Takes stretches up, with what lies on nothing then; turnouts stay in the list. */
export function takeUp(record: RailwayRecord, trackIds: readonly string[]): EditGroup | null {
  const draft = new Draft(record);
  for (const id of trackIds) if (find(record, "track", id)) draft.remove("track", id);
  if (draft.edits.length === 0) return null;
  return withoutLoose(draft, record, `Took up ${count(trackIds.length, "stretch", "stretches")} of track`);
}

/** Takes up what lies between two neighbouring points; stretches that had it go on at both sides. */
export function takeUpStep(record: RailwayRecord, a: Point, b: Point): EditGroup | null {
  const draft = new Draft(record);
  const step = nameOfStep(a, b);
  for (const track of record.tracks) {
    const along = pointsAlong(track.points);
    if (!along) continue;
    const parts: Point[][] = [[along[0] as Point]];
    for (let index = 1; index < along.length; index++) {
      const [from, to] = [along[index - 1] as Point, along[index] as Point];
      if (nameOfStep(from, to) === step) parts.push([to]);
      else parts.at(-1)?.push(to);
    }
    if (parts.length === 1) continue;
    draft.remove("track", track.id);
    for (const part of parts.filter(({ length }) => length > 1))
      draft.put("track", { ...track, id: freshId(draft.record, "track", "track-1"), points: simplified(part) });
  }
  return draft.edits.length === 0 ? null : withoutLoose(draft, record, "Took up a step of track");
}

/** Marks that lie on no track any more go as well. */
function withoutLoose(draft: Draft, before: RailwayRecord, words: string): EditGroup {
  const told = settle(draft, before).map(({ words: each }) => each);
  const layout = lineLayout(draft.record);
  const { around } = layout;
  const steps = stepsOfLine(layout);
  for (const mark of draft.record.marks) {
    if (mark.what === "stand") continue;
    if (isOnStep(mark) ? steps.has(stepOfMark(mark)) : around.has(nameOfPoint([mark.x, mark.y]))) continue;
    draft.remove("mark", mark.id);
    if ("name" in mark && mark.what !== "end") told.push(`${mark.what} "${mark.name}" is none any more`);
  }
  return draft.group(told.length > 0 ? `${words}: ${list(told.slice(0, 3))}` : words);
}

/** How things are moved: turned by quarters, mirrored up and down, then shifted. */
export interface Move {
  /** Quarters of a turn to the left about the first point of the selection. */
  quarters?: number;
  mirrored?: boolean;
  by?: Point;
}

/**
 * A turnout with its blades moved. Which leg is normal, and which of two pairs is the second, follows from geometry, and may be the other
 * one where it is mirrored or turned: then the record says so, so that the turnout's normal is the leg that it was.
 */
function movedSpot(
  spot: Spot,
  [x, y]: Point,
  turn: (direction: Direction) => Direction,
  before: RailwayRecord,
  now: LineLayout,
): Spot {
  const old = lineLayout(before)
    .at.get(nameOfPoint([spot.x, spot.y]))
    ?.junctions.find(({ second }) => second === spot.second);
  const there = { ...spot, x, y };
  if (!old) return there;
  const [normal, reverse] = [turn(old.normal), turn(old.reverse)];
  const found = now.at
    .get(nameOfPoint([x, y]))
    ?.junctions.find((each) =>
      each.normal === normal ? each.reverse === reverse : each.normal === reverse && each.reverse === normal,
    );
  if (!found) return there;
  return { ...there, second: found.second, turned: spot.turned !== (found.normal !== normal) };
}

/** A mark with its track moved; mirrored, what was the left rail is the right one. */
function movedMark(mark: Mark, moved: (point: Point) => Point, mirrored: boolean): Mark {
  const [x, y] = moved([mark.x, mark.y]);
  if (!isOnStep(mark)) return { ...mark, x, y };
  const [toX, toY] = moved([mark.toX, mark.toY]);
  const there = { ...mark, x, y, toX, toY };
  if (!mirrored) return there;
  if (there.what === "feeder")
    return { ...there, leftGets: there.leftGets === "J" ? "K" : "J", rails: OTHER_RAIL[there.rails] };
  return there.what === "gap" ? { ...there, rails: OTHER_RAIL[there.rails] } : there;
}

const OTHER_RAIL = { both: "both", left: "right", right: "left" } as const;

/**
 * Moves stretches with the turnouts and marks on them, or lays copies of the stretches.
 * @throws {RecordError} that says what would be no track there, or would leave the lattice
 */
export function moveTracks(
  record: RailwayRecord,
  trackIds: readonly string[],
  move: Move,
  copy = false,
): EditGroup | null {
  const tracks = record.tracks.filter(({ id }) => trackIds.includes(id));
  const [first] = tracks;
  if (!first) return null;
  const [cx, cy] = first.points[0] as Point;
  const { quarters = 0, mirrored = false, by: [dx, dy] = [0, 0] } = move;
  const moved = ([x, y]: Point): Point => {
    let [px, py] = [x - cx, mirrored ? cy - y : y - cy];
    for (let turn = 0; turn < ((quarters % 4) + 4) % 4; turn++) [px, py] = [py, -px];
    // no minus nought, which a file would not give back
    return [cx + px + dx + 0, cy + py + dy + 0];
  };
  const draft = new Draft(record);
  const own = new Set(tracks.flatMap(({ points }) => (pointsAlong(points) ?? points).map(nameOfPoint)));
  const others = new Set(
    record.tracks.flatMap(({ id, points }) =>
      trackIds.includes(id) ? [] : (pointsAlong(points) ?? points).map(nameOfPoint),
    ),
  );
  const goes = (x: number, y: number) => own.has(nameOfPoint([x, y])) && !others.has(nameOfPoint([x, y]));
  const ownSteps = stepsIn(tracks.map(({ points }) => pointsAlong(points) ?? []));
  const otherSteps = stepsIn(
    record.tracks.flatMap(({ id, points }) => (trackIds.includes(id) ? [] : [pointsAlong(points) ?? []])),
  );
  const goesAlong = (mark: Mark) => {
    if (mark.what === "stand") return false;
    if (!isOnStep(mark)) return goes(mark.x, mark.y);
    return ownSteps.has(stepOfMark(mark)) && !otherSteps.has(stepOfMark(mark));
  };
  for (const track of tracks) {
    const id = copy ? freshId(draft.record, "track", "track-1") : track.id;
    draft.put("track", { ...track, id, points: track.points.map(moved) });
  }
  if (!copy) {
    // all are taken off before any is put down, so that two may change places
    const tracked = lineLayout(draft.record);
    const hasBlades = ([x, y]: Point, second: boolean) =>
      tracked.at.get(nameOfPoint([x, y]))?.junctions.some((junction) => junction.second === second) ?? false;
    // a turnout goes along with a branch too, where its blades are there now and no longer here
    const follows = ({ x, y, second }: Spot) =>
      own.has(nameOfPoint([x, y])) && !hasBlades([x, y], second) && hasBlades(moved([x, y]), second);
    const spots = record.spots.filter((spot) => goes(spot.x, spot.y) || follows(spot));
    for (const spot of spots) draft.remove("spot", spot.id);
    const turn =
      ({ quarters: by = 0, mirrored: isMirrored }: Move) =>
      (direction: Direction) =>
        turnedBy(isMirrored ? turnedBy(0, -direction) : direction, 2 * by);
    for (const spot of spots) draft.put("spot", movedSpot(spot, moved([spot.x, spot.y]), turn(move), record, tracked));
    for (const mark of record.marks.filter(goesAlong)) draft.put("mark", movedMark(mark, moved, mirrored));
  }
  const was = lineLayout(record);
  // what was drawn so before, here or where it comes from, may be so again
  const carried = new Map(
    was.places.flatMap(({ point, kind }) => (goes(...point) ? [[nameOfPoint(moved(point)), kind] as const] : [])),
  );
  for (const place of lineLayout(draft.record).places) {
    const name = nameOfPoint(place.point);
    if (was.at.get(name)?.kind !== place.kind && carried.get(name) !== place.kind) refuse(place, { threeWay: true });
  }
  const told = settle(draft, record).map(({ words }) => words);
  const what = count(tracks.length, "stretch", "stretches");
  const did = copy
    ? `Laid a copy of ${what}`
    : mirrored
      ? `Mirrored ${what}`
      : quarters
        ? `Turned ${what}`
        : `Moved ${what}`;
  return draft.group(told.length > 0 ? `${did}: ${list(told.slice(0, 3))}` : did);
}
