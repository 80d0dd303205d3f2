import { nameOfPoint, pointsAlong, type RailwayRecord } from "@alderman/core";
import { latticeAt, type Spot } from "./shapes.ts";
import { STEP } from "./useCamera.ts";

/** How near one has to point at track, steps. */
const NEAR = 0.4;

/** The stretch nearest to where one points, in steps, with the step of it that is meant; null when none is within so many steps. */
export function trackNear(
  { tracks }: Pick<RailwayRecord, "tracks">,
  [px, py]: Spot,
  within = NEAR,
): { trackId: string; step: [[number, number], [number, number]] } | null {
  let best: ReturnType<typeof trackNear> = null;
  let least = within;
  for (const { id, points } of tracks) {
    const along = pointsAlong(points) ?? [];
    for (let index = 1; index < along.length; index++) {
      const [a, b] = [along[index - 1], along[index]];
      if (!a || !b || Math.abs(a[0] - px) > 2 || Math.abs(a[1] - py) > 2) continue;
      const far = distanceTo([px, py], a, b);
      if (far >= least) continue;
      least = far;
      best = { trackId: id, step: [a, b] };
    }
  }
  return best;
}

/** From a point to a stretch between two others. */
function distanceTo([px, py]: Spot, [ax, ay]: Spot, [bx, by]: Spot): number {
  const [dx, dy] = [bx - ax, by - ay];
  const share = ((px - ax) * dx + (py - ay) * dy) / (dx * dx + dy * dy || 1);
  const at = Math.min(1, Math.max(0, share));
  return Math.hypot(px - ax - dx * at, py - ay - dy * at);
}

/** Stretches that lie wholly in a box, in steps. */
export function tracksIn({ tracks }: Pick<RailwayRecord, "tracks">, a: Spot, b: Spot): string[] {
  const [left, right] = [Math.min(a[0], b[0]), Math.max(a[0], b[0])];
  const [top, bottom] = [Math.min(a[1], b[1]), Math.max(a[1], b[1])];
  const isIn = ([x, y]: Spot) => x >= left && x <= right && y >= top && y <= bottom;
  return tracks.flatMap(({ id, points }) => (points.every(isIn) ? [id] : []));
}

/** Where one points, in steps. @param place as drawn at scale 1 */
export function stepsAt([x, y]: Spot): Spot {
  return [x / STEP, y / STEP];
}

/** The name of the lattice point that is nearest to where one points, when it is near enough to be meant. */
export function pointMeant(place: Spot): string | null {
  const [x, y] = stepsAt(place);
  const nearest = latticeAt(place);
  return Math.hypot(nearest[0] - x, nearest[1] - y) < NEAR ? nameOfPoint(nearest) : null;
}
