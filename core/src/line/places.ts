import { type Direction, opposite, turnedBy } from "./lattice.ts";
import type { Leg } from "./topology.ts";

/** What tracks that meet at a point make. */
export type PlaceKind =
  | "plain"
  /** Two that meet in an angle that no train takes. */
  | "bend"
  | "end"
  | "turnout"
  | "three-way"
  | "crossing"
  | "slip"
  /** Tracks that meet, and of which none runs on into the others. */
  | "unclear";

/** A pair of blades at a point: where its toe and its two legs point. Of a slip and a three-way there are two. */
export interface Blades {
  /** Seen from the toe, the leg that bends away; wye when both do. */
  hand: "left" | "right" | "wye";
  toe: Direction;
  /** The straighter leg, until the owner says otherwise. */
  normal: Direction;
  reverse: Direction;
}

/** What is at a point. */
export interface PlaceShape {
  kind: PlaceKind;
  blades: Blades[];
  /** Directions that a train goes through between, where there are no blades. */
  through: [Direction, Direction][];
  /** A crossing whose tracks meet at an eighth of a turn: it may have blades. */
  acute: boolean;
}

/** What tracks in these directions make where they meet. @param isSlip a crossing that has blades */
export function shapeOf(directions: ReadonlySet<Direction>, isSlip: boolean): PlaceShape {
  const all = [...directions].sort((a, b) => a - b);
  const shape = (kind: PlaceKind, more: Partial<PlaceShape> = {}): PlaceShape => {
    return { kind, blades: [], through: [], acute: false, ...more };
  };
  if (all.length < 2) return shape("end");
  const [first, second] = all as [Direction, Direction];
  if (all.length === 2) {
    const isBend = Math.abs(eighthsBetween(opposite(first), second)) > 1;
    return shape(isBend ? "bend" : "plain", { through: [[first, second]] });
  }
  const toe = all.find((each) => all.every((other) => other === each || runsOn(each, other)));
  if (toe !== undefined && all.length === 3) return shape("turnout", { blades: [bladesOf(toe, all)] });
  if (toe !== undefined && all.length === 4) return shape("three-way", { blades: threeWay(toe) });
  const lines = all.filter((each) => each < 4 && directions.has(opposite(each)));
  if (all.length !== 4 || lines.length !== 2) return shape("unclear");
  const [one, other] = lines as [Direction, Direction];
  const acute = (other - one) % 2 === 1;
  const through: PlaceShape["through"] = [
    [one, opposite(one)],
    [other, opposite(other)],
  ];
  if (!acute || !isSlip) return shape("crossing", { through, acute });
  return shape("slip", { blades: slipOf(one, other), acute });
}

/** Whether a train that comes in by one direction runs on into another: straight, or by an eighth of a turn. */
function runsOn(toe: Direction, leg: Direction): boolean {
  return Math.abs(eighthsBetween(opposite(toe), leg)) <= 1;
}

/** Eighths of a turn from one direction to another, from -3 to 4; above nought to the left. */
function eighthsBetween(from: Direction, to: Direction): number {
  const turn = turnedBy(to, -from);
  return turn > 4 ? turn - 8 : turn;
}

function bladesOf(toe: Direction, all: readonly Direction[]): Blades {
  const ahead = opposite(toe);
  const legs = all.filter((each) => each !== toe);
  const [left, right] = [turnedBy(ahead, 1), turnedBy(ahead, -1)];
  if (!legs.includes(ahead)) return { hand: "wye", toe, normal: left, reverse: right };
  const isLeft = legs.includes(left);
  return { hand: isLeft ? "left" : "right", toe, normal: ahead, reverse: isLeft ? left : right };
}

/** The blades of a three-way turnout: the first to the left, the second, on its straight leg, to the right. */
function threeWay(toe: Direction): Blades[] {
  const ahead = opposite(toe);
  return [
    { hand: "left", toe, normal: ahead, reverse: turnedBy(ahead, 1) },
    { hand: "right", toe, normal: ahead, reverse: turnedBy(ahead, -1) },
  ];
}

/**
 * The blades of a slip: at each of its acute sides a pair, whose legs are the two tracks there and whose toe is that of the other
 * pair. Normal is along the first of its tracks.
 */
function slipOf(one: Direction, other: Direction): Blades[] {
  // the acute side lies between two directions that are an eighth of a turn apart
  const [a, b] = other - one === 1 ? [one, other] : [opposite(one), other];
  const pair = (normal: Direction, reverse: Direction): Blades => {
    const isLeft = eighthsBetween(normal, reverse) > 0;
    return { hand: isLeft ? "left" : "right", toe: opposite(normal), normal, reverse };
  };
  const along = (direction: Direction) => (direction === one || direction === opposite(one) ? 0 : 1);
  const sides: [Direction, Direction][] = [
    [a, b],
    [opposite(a), opposite(b)],
  ];
  return sides.map(([first, second]) => (along(first) === 0 ? pair(first, second) : pair(second, first)));
}

/** The leg of blades that points in a direction, with the owner's word on which is normal; null for none. */
export function legTowards({ toe, normal, reverse }: Blades, direction: Direction, turned: boolean): Leg | null {
  if (direction === toe) return "toe";
  if (direction === normal) return turned ? "reverse" : "normal";
  return direction === reverse ? (turned ? "normal" : "reverse") : null;
}
