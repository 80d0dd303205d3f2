import type { Point, Track } from "../record/line.ts";

/** A direction of the lattice, in eighths of a turn from east over north: 0 east, 2 north, 4 west, 6 south. */
export type Direction = 0 | 1 | 2 | 3 | 4 | 5 | 6 | 7;

/** Steps to the right and down, for each direction. */
const STEPS: readonly Point[] = [
  [1, 0],
  [1, -1],
  [0, -1],
  [-1, -1],
  [-1, 0],
  [-1, 1],
  [0, 1],
  [1, 1],
];

/** Room for the steps of a line in each direction from its middle, as a power of two. */
const SIDE = 2 ** 15;

/** The direction that lies so many eighths further round. */
export function turnedBy(direction: Direction, eighths: number): Direction {
  return ((((direction + eighths) % 8) + 8) % 8) as Direction;
}

export function opposite(direction: Direction): Direction {
  return turnedBy(direction, 4);
}

/** The neighbouring point in a direction. */
export function stepFrom([x, y]: Point, direction: Direction): Point {
  const [dx, dy] = STEPS[direction] as Point;
  return [x + dx, y + dy];
}

/** Length of a step in a direction, in steps of the lattice. */
export function lengthOf(direction: Direction): number {
  return direction % 2 === 0 ? 1 : Math.SQRT2;
}

/** The direction from one point to another; null when the lattice has none, or they are the same. */
export function directionTo([ax, ay]: Point, [bx, by]: Point): Direction | null {
  const [dx, dy] = [bx - ax, by - ay];
  if ((dx === 0 && dy === 0) || (dx !== 0 && dy !== 0 && Math.abs(dx) !== Math.abs(dy))) return null;
  const found = STEPS.findIndex(([x, y]) => x === Math.sign(dx) && y === Math.sign(dy));
  return found as Direction;
}

/** Names that were made already: a text is not put together again for every step of a large line. */
const names = new Map<number, string>();
/** Names that are kept at most; then they are made anew. */
const MOST_NAMES = 200_000;

/** What a point is known by. */
export function nameOfPoint([x, y]: Point): string {
  // beyond the lattice numbers would meet
  if (Math.abs(x) >= SIDE / 2 || Math.abs(y) >= SIDE / 2) return `${x},${y}`;
  const number = (x + SIDE / 2) * SIDE + (y + SIDE / 2);
  const known = names.get(number);
  if (known !== undefined) return known;
  if (names.size >= MOST_NAMES) names.clear();
  const name = `${x},${y}`;
  names.set(number, name);
  return name;
}

/** The points that a polyline passes, one step after the other; null when part of it leaves the lattice. */
export function pointsAlong(points: readonly Point[]): Point[] | null {
  const [first] = points;
  if (!first) return null;
  const along: Point[] = [first];
  for (const to of points.slice(1)) {
    let at = along.at(-1) as Point;
    const direction = directionTo(at, to);
    if (direction === null) return null;
    while (at[0] !== to[0] || at[1] !== to[1]) {
      at = stepFrom(at, direction);
      along.push(at);
    }
  }
  return along;
}

/** The same polyline without points that lie on the way from one to the next; points in a row that are one become one. */
export function simplified(points: readonly Point[]): Point[] {
  const kept: Point[] = [];
  for (const point of points) {
    const [before, last] = [kept.at(-2), kept.at(-1)];
    if (last && last[0] === point[0] && last[1] === point[1]) continue;
    if (before && last) {
      const [one, other] = [directionTo(before, last), directionTo(last, point)];
      if (one !== null && one === other) kept.pop();
    }
    kept.push(point);
  }
  return kept;
}

/** A step of track between two neighbouring points, whichever way round. */
export function nameOfStep(a: Point, b: Point): string {
  const [first, second] = a[0] < b[0] || (a[0] === b[0] && a[1] < b[1]) ? [a, b] : [b, a];
  return `${nameOfPoint(first)} ${nameOfPoint(second)}`;
}

/**
 * The way from one point to another that a hand would lay: slanted as far as it must be, the rest straight.
 * @param slantedFirst the slanted part comes first, not last
 */
export function wayBetween(from: Point, to: Point, slantedFirst = false): Point[] {
  const [dx, dy] = [to[0] - from[0], to[1] - from[1]];
  const diagonal = Math.min(Math.abs(dx), Math.abs(dy));
  if (directionTo(from, to) !== null || diagonal === 0) return simplified([from, to]);
  const slanted: Point = [from[0] + Math.sign(dx) * diagonal, from[1] + Math.sign(dy) * diagonal];
  const straight: Point = [to[0] - Math.sign(dx) * diagonal, to[1] - Math.sign(dy) * diagonal];
  return simplified([from, slantedFirst ? slanted : straight, to]);
}

/** A number that a step of track is known by, from whichever end; quicker than its name where there are thousands. */
export function numberOfStep(from: Point, direction: Direction): number {
  if (direction > 3) return numberOfStep(stepFrom(from, direction), opposite(direction));
  return ((from[0] + SIDE / 2) * SIDE + (from[1] + SIDE / 2)) * 4 + direction;
}

/** Every point that the stretches pass with the directions in which they leave it, and the steps that are out of sight. */
export function stepsOf(tracks: readonly Track[]): {
  around: Map<string, { point: Point; directions: Set<Direction> }>;
  hidden: Set<number>;
  /** Stretches that leave the lattice. */
  astray: Track[];
} {
  const around = new Map<string, { point: Point; directions: Set<Direction> }>();
  const hidden = new Set<number>();
  const astray: Track[] = [];
  const at = (point: Point) => {
    const name = nameOfPoint(point);
    let known = around.get(name);
    if (!known) {
      known = { point, directions: new Set() };
      around.set(name, known);
    }
    return known.directions;
  };
  for (const track of tracks) {
    const along = pointsAlong(track.points);
    if (!along || along.length < 2) {
      astray.push(track);
      continue;
    }
    let directions = at(along[0] as Point);
    for (let index = 1; index < along.length; index++) {
      const [a, b] = [along[index - 1] as Point, along[index] as Point];
      const direction = directionTo(a, b) as Direction;
      directions.add(direction);
      directions = at(b);
      directions.add(opposite(direction));
      if (track.hidden) hidden.add(numberOfStep(a, direction));
    }
  }
  return { around, hidden, astray };
}
