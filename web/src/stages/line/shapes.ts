import {
  type LatticeDirection as Direction,
  type Junction,
  type LinePlace,
  nameOfPoint,
  stepFrom,
} from "@alderman/core";
import { STEP } from "./useCamera.ts";

export type Spot = readonly [x: number, y: number];

/** Where a point of the lattice is drawn, at scale 1. */
export function drawnAt([x, y]: readonly [number, number]): Spot {
  return [x * STEP, y * STEP];
}

/** The point of the lattice nearest to where something is drawn. */
export function latticeAt([x, y]: Spot): [number, number] {
  return [Math.round(x / STEP) + 0, Math.round(y / STEP) + 0];
}

/** A unit vector in a direction, on the screen. */
export function unit(direction: Direction): Spot {
  const angle = (direction * Math.PI) / 4;
  return [Math.cos(angle), -Math.sin(angle)];
}

/** A point so far from another in a direction. */
export function along([x, y]: Spot, direction: Direction, far: number): Spot {
  const [dx, dy] = unit(direction);
  return [x + dx * far, y + dy * far];
}

/** Points as a path or polygon wants them. */
export function textOf(points: readonly Spot[]): string {
  return points.map(([x, y]) => `${round(x)},${round(y)}`).join(" ");
}

function round(value: number): number {
  return Math.round(value * 100) / 100;
}

/** The order in which sides are tried for a label. */
const SIDES: readonly Direction[] = [2, 6, 3, 1, 5, 7, 0, 4];

/** What track one step away on a side counts against it, in eighths of a turn. */
const BESIDE = 1.5;

/** The side of a place on which the least track lies, for its label. @param around points that have track */
export function labelSide(
  { point, directions }: Pick<LinePlace, "point" | "directions">,
  around: ReadonlyMap<string, unknown>,
): Direction {
  const room = (side: Direction) => {
    const turns = directions.map((each) => {
      const turn = Math.abs(each - side) % 8;
      return Math.min(turn, 8 - turn);
    });
    const nearest = Math.min(...turns);
    return nearest > 0 && around.has(nameOfPoint(stepFrom(point, side))) ? Math.max(0.1, nearest - BESIDE) : nearest;
  };
  return SIDES.reduce((best, side) => (room(side) > room(best) ? side : best));
}

/** How a label is set on its side of a place. */
export function anchorOf(side: Direction): "start" | "middle" | "end" {
  if (side === 2 || side === 6) return "middle";
  return side === 7 || side === 0 || side === 1 ? "start" : "end";
}

/** The wedge of blades: from where they part along both legs. */
export function wedgeOf({ point, normal, reverse }: Pick<Junction, "point" | "normal" | "reverse">): Spot[] {
  const at = drawnAt(point);
  return [at, along(at, normal, STEP * 0.62), along(at, reverse, STEP * 0.62)];
}
