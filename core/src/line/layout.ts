import { find } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { Mark, MarkOf, Point, Spot, Track } from "../record/line.ts";
import type { Turnout } from "../record/schemas.ts";
import { type Direction, lengthOf, nameOfPoint, numberOfStep, opposite, stepFrom, stepsOf } from "./lattice.ts";
import { type Blades, legTowards, type PlaceKind, shapeOf } from "./places.ts";
import { type Barred, type Leg, type Lie, type Line, type Port, portOf } from "./topology.ts";

/** A point of the line at which something is, with what is there. */
export interface LinePlace {
  point: Point;
  kind: PlaceKind;
  directions: Direction[];
  /** A crossing that may have blades. */
  acute: boolean;
  junctions: Junction[];
}

/** A pair of blades on the line. */
export interface Junction extends Blades {
  /** The turnout's identifier; made of the place where none is put yet. */
  id: string;
  turnout: Turnout | null;
  point: Point;
  spot: Spot | null;
  /** Of a slip or three-way turnout the second pair. */
  second: boolean;
}

/** Where track ends. */
export interface LineEnd {
  id: string;
  point: Point;
  mark: MarkOf<"end"> | null;
  /** The direction in which its track begins. */
  direction: Direction;
}

/** Track between two ports, or what runs in a circle or into a place that leads nowhere. */
export interface Stretch {
  /** Its place in the list of stretches. */
  index: number;
  from: Port | null;
  to: Port | null;
  points: Point[];
  metres: number;
  /** How much of it is out of sight, metres. */
  hiddenMetres: number;
}

/** What a line diagram means. */
export interface LineLayout {
  places: LinePlace[];
  /** Places by the names of their points; plain track is not among them. */
  at: ReadonlyMap<string, LinePlace>;
  /** Directions in which there is track, at every point of it. */
  around: ReadonlyMap<string, { point: Point; directions: ReadonlySet<Direction> }>;
  junctions: Junction[];
  ends: LineEnd[];
  stretches: Stretch[];
  /** The stretch that one leaves a port by, and whether it is its first port. */
  byPort: ReadonlyMap<Port, { stretch: Stretch; isFrom: boolean }>;
  /** The same as turnouts, ends and links. */
  line: Line;
  /** Stretches that leave the lattice; they are drawn and mean nothing. */
  astray: Track[];
  /** Turnouts that are put where no blades are. */
  lost: Spot[];
}

const known = new WeakMap<readonly Track[], { record: RailwayRecord; layout: LineLayout }>();

/** What the geometry of a line follows from; what its turnouts are called and how they are wired is nothing to it. */
const LOOKED_AT = ["tracks", "spots"] as const;

/** Marks that say what a place is; gaps, blocks and signals lie on it and do not change it. */
const shaping = ({ what }: Mark) => what === "end" || what === "slip";

function isShapedAlike(before: readonly Mark[], now: readonly Mark[]): boolean {
  if (before === now) return true;
  const [were, are] = [before.filter(shaping), now.filter(shaping)];
  return were.length === are.length && were.every((mark, index) => mark === are[index]);
}

/** What the line diagram of a record means; worked out anew only when something of it is another. */
export function lineLayout(record: RailwayRecord): LineLayout {
  const before = known.get(record.tracks);
  const isSame =
    before &&
    LOOKED_AT.every((list) => before.record[list] === record[list]) &&
    isShapedAlike(before.record.marks, record.marks) &&
    before.record.railway.stepMetres === record.railway.stepMetres;
  if (isSame && before.record.turnouts === record.turnouts) return before.layout;
  const layout = isSame ? withTurnouts(before.layout, record) : layoutOf(record);
  known.set(record.tracks, { record, layout });
  return layout;
}

/** The same line with the turnouts as they are now; stretches, links and places without one that changed are the same objects. */
function withTurnouts(layout: LineLayout, record: RailwayRecord): LineLayout {
  const turnoutAt = ({ spot }: Junction) => (spot ? (find(record, "turnout", spot.turnoutId) ?? null) : null);
  if (layout.junctions.every((junction) => turnoutAt(junction) === junction.turnout)) return layout;
  const at = new Map(layout.at);
  const places = layout.places.map((place): LinePlace => {
    if (place.junctions.every((junction) => turnoutAt(junction) === junction.turnout)) return place;
    const junctions = place.junctions.map((junction) => ({ ...junction, turnout: turnoutAt(junction) }));
    const renewed = { ...place, junctions };
    at.set(nameOfPoint(place.point), renewed);
    return renewed;
  });
  return { ...layout, places, at, junctions: places.flatMap(({ junctions }) => junctions) };
}

function layoutOf(record: RailwayRecord): LineLayout {
  const { around, hidden, astray } = stepsOf(record.tracks);
  const slips = new Set(record.marks.flatMap((mark) => (mark.what === "slip" ? [nameOfPoint([mark.x, mark.y])] : [])));
  const endMarks = new Map(
    record.marks.flatMap((mark) => (mark.what === "end" ? [[nameOfPoint([mark.x, mark.y]), mark] as const] : [])),
  );
  const spots = new Map(record.spots.map((spot) => [`${nameOfPoint([spot.x, spot.y])} ${spot.second}`, spot]));
  const at = new Map<string, LinePlace>();
  const through = new Map<string, readonly [Direction, Direction][]>();
  const ends: LineEnd[] = [];
  for (const [name, { point, directions }] of around) {
    const straight = plainThrough(directions);
    if (straight) {
      through.set(name, straight);
      continue;
    }
    const shape = shapeOf(directions, slips.has(name));
    through.set(name, shape.through);
    if (shape.kind === "plain") continue;
    const junctions = shape.blades.map((blades, index): Junction => {
      const spot = spots.get(`${name} ${index === 1}`) ?? null;
      const turnout = spot ? (find(record, "turnout", spot.turnoutId) ?? null) : null;
      const id = turnout?.id ?? `at ${name}${index === 1 ? " second" : ""}`;
      return { ...blades, id, turnout, point, spot, second: index === 1 };
    });
    at.set(name, { point, kind: shape.kind, directions: [...directions].sort(), acute: shape.acute, junctions });
    const [direction] = directions;
    if (shape.kind === "end" && direction !== undefined) {
      const mark = endMarks.get(name) ?? null;
      ends.push({ id: mark?.id ?? `end ${name}`, point, mark, direction });
    }
  }
  const places = [...at.values()];
  const junctions = places.flatMap((place) => place.junctions);
  const stretches = stretchesOf(record, { around, at, ends, through, hidden });
  const links = stretches.flatMap(({ from, to }): [Port, Port][] => (from !== null && to !== null ? [[from, to]] : []));
  const placed = new Set(junctions.flatMap(({ spot }) => spot ?? []));
  const within = innerLinks(places);
  const line: Line = {
    turnouts: junctions.map(({ id }) => ({ id })),
    ends: ends.map(({ id }) => id),
    links: [...links, ...within],
    within,
    barred: barredAt(record, places),
  };
  return {
    ...{ places, at, around, junctions, ends, stretches, byPort: byPortOf(stretches), line, astray },
    lost: record.spots.filter((spot) => !placed.has(spot)),
  };
}

/** Whether a stretch runs on into itself, with nothing in it. */
export function isCircle({ at }: Pick<LineLayout, "at">, { from, to, points }: Stretch): boolean {
  const [first, last] = [points[0], points.at(-1)];
  if (from !== null || to !== null || !first || !last) return false;
  return nameOfPoint(first) === nameOfPoint(last) && !at.has(nameOfPoint(first));
}

function byPortOf(stretches: readonly Stretch[]): LineLayout["byPort"] {
  const found = new Map<Port, { stretch: Stretch; isFrom: boolean }>();
  for (const stretch of stretches) {
    if (stretch.from !== null) found.set(stretch.from, { stretch, isFrom: true });
    if (stretch.to !== null) found.set(stretch.to, { stretch, isFrom: false });
  }
  return found;
}

/** Straight track each way, of which most of a line is made; made once for each direction. */
const STRAIGHT = ([0, 1, 2, 3] as const).map((direction): readonly [Direction, Direction][] => [
  [direction, opposite(direction)],
]);

/** What goes straight through a point with nothing else there; null where there is more, or less. */
function plainThrough(directions: ReadonlySet<Direction>): readonly [Direction, Direction][] | null {
  if (directions.size !== 2) return null;
  for (const direction of directions)
    return directions.has(opposite(direction)) ? (STRAIGHT[direction % 4] ?? null) : null;
  return null;
}

/** Links within a place: of a three-way turnout from the first pair to the second, of a slip from toe to toe. */
function innerLinks(places: readonly LinePlace[]): [Port, Port][] {
  return places.flatMap(({ kind, junctions: [first, second] }): [Port, Port][] => {
    if (!first || !second) return [];
    const straight = first.spot?.turned ? "reverse" : "normal";
    return kind === "slip"
      ? [[portOf(first.id, "toe"), portOf(second.id, "toe")]]
      : [[portOf(first.id, straight), portOf(second.id, "toe")]];
  });
}

/** What single slips do not lead over: from the second track of one side to the first of the other, or the other way. */
function barredAt({ marks }: RailwayRecord, places: readonly LinePlace[]): Barred[] {
  return places.flatMap(({ kind, point, junctions: [first, second] }): Barred[] => {
    if (kind !== "slip" || !first || !second) return [];
    const mark = marks.find((each) => each.what === "slip" && each.x === point[0] && each.y === point[1]);
    if (mark?.what !== "slip" || mark.slip === "double") return [];
    const lieOf = ({ spot }: Junction, isFirstTrack: boolean): Lie =>
      isFirstTrack !== (spot?.turned ?? false) ? "normal" : "reverse";
    return [{ first: first.id, second: second.id, lies: [lieOf(first, mark.other), lieOf(second, !mark.other)] }];
  });
}

/** The port of a place at which track in a direction begins or ends; null where it goes through or leads nowhere. */
function portAt(place: LinePlace | undefined, direction: Direction): Port | null {
  if (!place) return null;
  const [first, second] = place.junctions;
  if (!first) return null;
  const legOf = (junction: Junction): Leg | null => legTowards(junction, direction, junction.spot?.turned ?? false);
  if (!second) {
    const leg = legOf(first);
    return leg ? portOf(first.id, leg) : null;
  }
  if (place.kind === "three-way") {
    // the straight leg of the first is the toe of the second
    if (direction === first.toe) return portOf(first.id, "toe");
    const of = direction === first.reverse ? first : second;
    const leg = legOf(of);
    return leg ? portOf(of.id, leg) : null;
  }
  // at a slip each direction is a leg of the pair on its side
  const own = place.junctions.find(({ normal, reverse }) => normal === direction || reverse === direction);
  const leg = own ? legTowards({ ...own, toe: opposite(own.normal) }, direction, own.spot?.turned ?? false) : null;
  return own && leg ? portOf(own.id, leg) : null;
}

/** What is at the points of a line. */
interface Found {
  around: LineLayout["around"];
  at: LineLayout["at"];
  ends: readonly LineEnd[];
  /** Ways through a point, by its name. */
  through: ReadonlyMap<string, readonly [Direction, Direction][]>;
  /** Steps that are out of sight, by their numbers. */
  hidden: ReadonlySet<number>;
}

/** All track, from port to port. */
function stretchesOf({ railway }: RailwayRecord, { around, at, ends, through, hidden: outOfSight }: Found): Stretch[] {
  const endAt = new Map(ends.map((end) => [nameOfPoint(end.point), end.id]));
  const stretches: Stretch[] = [];
  const walked = new Set<number>();
  const portOn = (name: string, direction: Direction): Port | null =>
    endAt.get(name) ?? portAt(at.get(name), direction);
  const stretch = (from: Port | null, to: Port | null, points: Point[], length: number, hidden: number): Stretch => {
    const metres = { metres: length * railway.stepMetres, hiddenMetres: hidden * railway.stepMetres };
    return { index: stretches.length, from, to, points, ...metres };
  };
  /** Walks on from a point until a port or a place that leads nowhere is reached. */
  const walk = (start: Point, first: Direction, from: Port | null) => {
    const points = [start];
    let [point, direction, length, hidden] = [start, first, 0, 0];
    for (;;) {
      const next = stepFrom(point, direction);
      const step = numberOfStep(point, direction);
      if (walked.has(step)) break;
      walked.add(step);
      length += lengthOf(direction);
      if (outOfSight.has(step)) hidden += lengthOf(direction);
      points.push(next);
      const back = opposite(direction);
      const name = nameOfPoint(next);
      const port = portOn(name, back);
      const on = through.get(name)?.find((pair) => pair.includes(back));
      point = next;
      if (port !== null || !on) {
        stretches.push(stretch(from, port, points, length, hidden));
        return;
      }
      direction = on[0] === back ? on[1] : on[0];
    }
    // round in a circle
    if (points.length > 1) stretches.push(stretch(from, null, points, length, hidden));
  };
  const begin = (name: string, point: Point, direction: Direction) => {
    if (!walked.has(numberOfStep(point, direction))) walk(point, direction, portOn(name, direction));
  };
  for (const [name, { point, directions, kind }] of at)
    if (kind !== "crossing" && kind !== "bend") for (const direction of directions) begin(name, point, direction);
  // what is left are circles without anything in them
  for (const [name, { point }] of around)
    for (const pair of through.get(name) ?? []) for (const direction of pair) begin(name, point, direction);
  return stretches;
}
