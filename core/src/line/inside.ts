import { find } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { Outline, Point } from "../record/line.ts";
import type { Turnout } from "../record/schemas.ts";

/** Whether a point lies within an outline that is closed by a straight line from its end to its beginning. */
export function isInside([x, y]: Point, { points }: Pick<Outline, "points">): boolean {
  let inside = false;
  for (const [index, [ax, ay]] of points.entries()) {
    const [bx, by] = points[(index + 1) % points.length] as Point;
    if (ay > y !== by > y && x < ((bx - ax) * (y - ay)) / (by - ay) + ax) inside = !inside;
  }
  return inside;
}

/** Turnouts of the line that lie within an outline: on a section that is lifted out, their wires pass its edge by a plug. */
export function turnoutsInside(record: RailwayRecord, outline: Pick<Outline, "points">): Turnout[] {
  return record.spots.flatMap(({ x, y, turnoutId }) =>
    isInside([x, y], outline) ? (find(record, "turnout", turnoutId) ?? []) : [],
  );
}
