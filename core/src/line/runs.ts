import { assignmentsOfRole, find } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { Point } from "../record/line.ts";

/** A place on the baseboard, metres along and across. */
type Place = readonly [along: number, across: number];

/** Runs are told to so many metres, and never shorter than that. */
const FINE = 0.05;

const NONE: ReadonlyMap<string, number> = new Map();

let last: { looked: readonly unknown[]; runs: ReadonlyMap<string, number> } = { looked: [], runs: NONE };

/**
 * Wires from the board that drives a turnout to the turnout, metres, where both have places on the line: along the line of the
 * cables where one is drawn, else square along and across. The same object as long as none of them is another.
 */
export function runsOnLine(record: RailwayRecord): ReadonlyMap<string, number> {
  const stands = record.marks.flatMap((mark) => (mark.what === "stand" ? [mark] : []));
  if (stands.length === 0 || record.spots.length === 0) return NONE;
  const drivers = assignmentsOfRole(record, "driver");
  const motors = assignmentsOfRole(record, "motor");
  const step = record.railway.stepMetres;
  const looked = [step, record.spots, record.outlines, ...stands, ...drivers, ...motors];
  if (looked.length === last.looked.length && looked.every((each, index) => each === last.looked[index]))
    return last.runs;
  const placeOf = ([x, y]: Point): Place => [x * step, y * step];
  const boards = new Map(
    stands.map(({ deviceId, x, y, alongMetres, acrossMetres }): [string, Place] => {
      const drawn = placeOf([x, y]);
      return [deviceId, [alongMetres ?? drawn[0], acrossMetres ?? drawn[1]]];
    }),
  );
  const trunks = record.outlines.flatMap(({ what, points }) => (what === "trunk" ? [points.map(placeOf)] : []));
  const driverOf = new Map(drivers.map(({ motorId, deviceId }) => [motorId, deviceId]));
  const boardOf = new Map(
    motors.flatMap(({ deviceId, turnoutId }): [string, Place][] => {
      const board = boards.get(driverOf.get(deviceId) ?? "");
      return board ? [[turnoutId, board]] : [];
    }),
  );
  const runs = new Map(
    record.spots.flatMap(({ turnoutId, x, y }): [string, number][] => {
      // a turnout that another leads has its wires from the same board
      const board = boardOf.get(turnoutId) ?? boardOf.get(find(record, "turnout", turnoutId)?.movesWith ?? "");
      return board ? [[turnoutId, roundedUp(between(board, placeOf([x, y]), trunks))]] : [];
    }),
  );
  const isAsBefore = runs.size === last.runs.size && [...runs].every(([id, run]) => last.runs.get(id) === run);
  last = { looked, runs: isAsBefore ? last.runs : runs };
  return last.runs;
}

/** Wire to a turnout: as typed, else as the line says, else as usual on the railway. */
export function runOf(record: RailwayRecord, turnoutId: string): number {
  const typed = find(record, "turnout", turnoutId)?.runMetres;
  return typed ?? runsOnLine(record).get(turnoutId) ?? record.railway.runMetres;
}

function roundedUp(metres: number): number {
  return Math.max(FINE, Math.round(Math.ceil(metres / FINE - 1e-9) * FINE * 100) / 100);
}

/** From one place to another by the trunk that makes it shortest; without one, square along and across. */
function between(a: Place, b: Place, trunks: readonly (readonly Place[])[]): number {
  const ways = trunks.map((trunk) => {
    const [on, off] = [nearestOn(trunk, a), nearestOn(trunk, b)];
    return on.far + Math.abs(on.along - off.along) + off.far;
  });
  return ways.length > 0 ? Math.min(...ways) : Math.abs(a[0] - b[0]) + Math.abs(a[1] - b[1]);
}

/** The nearest place of a polyline: how far it is, and how far along the polyline. */
function nearestOn(polyline: readonly Place[], [px, py]: Place): { far: number; along: number } {
  let best = { far: Number.POSITIVE_INFINITY, along: 0 };
  let before = 0;
  for (let index = 1; index < polyline.length; index++) {
    const [[ax, ay], [bx, by]] = [polyline[index - 1] as Place, polyline[index] as Place];
    const length = Math.hypot(bx - ax, by - ay);
    const share = length === 0 ? 0 : ((px - ax) * (bx - ax) + (py - ay) * (by - ay)) / length ** 2;
    const at = Math.min(1, Math.max(0, share));
    const far = Math.hypot(px - ax - (bx - ax) * at, py - ay - (by - ay) * at);
    if (far < best.far) best = { far, along: before + at * length };
    before += length;
  }
  return best;
}
