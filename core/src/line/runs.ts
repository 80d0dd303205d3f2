import { assignmentsOfDevice, assignmentsOfRole, assignmentsOfTurnout, find } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { Point } from "../record/line.ts";
import type { Device } from "../record/schemas.ts";

/** A place on the baseboard, metres along and across. */
type Place = readonly [along: number, across: number];

/** Runs are told to so many metres, and never shorter than that. */
const FINE = 0.05;

const NONE: ReadonlyMap<string, number> = new Map();

/** What the line says of where things are. */
interface OnLine {
  /** Wire from the board that drives a turnout to the turnout, by the turnout. */
  runs: ReadonlyMap<string, number>;
  /** Wire from where the supplies stand to a board, by the board. */
  boards: ReadonlyMap<string, number>;
}

let last: OnLine & { looked: readonly unknown[] } = { looked: [], runs: NONE, boards: NONE };

/**
 * Wires from the board that drives a turnout to the turnout, metres, where both have places on the line: along the line of the
 * cables where one is drawn, else square along and across. The same object as long as none of them is another.
 */
export function runsOnLine(record: RailwayRecord): ReadonlyMap<string, number> {
  return onLine(record).runs;
}

/** Wires along the trunk line from the first supply that has a place on the line, else from the first board, to all that have one. */
export function boardsOnLine(record: RailwayRecord): ReadonlyMap<string, number> {
  return onLine(record).boards;
}

function onLine(record: RailwayRecord): OnLine {
  const stands = record.marks.flatMap((mark) => (mark.what === "stand" ? [mark] : []));
  if (stands.length === 0) return { runs: NONE, boards: NONE };
  const drivers = assignmentsOfRole(record, "driver");
  const motors = assignmentsOfRole(record, "motor");
  const supplies = assignmentsOfRole(record, "supply");
  const step = record.railway.stepMetres;
  const looked = [step, record.spots, record.outlines, ...stands, ...drivers, ...motors, ...supplies];
  if (looked.length === last.looked.length && looked.every((each, index) => each === last.looked[index])) return last;
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
  const gives = new Set(supplies.map(({ deviceId }) => deviceId));
  const from = boards.get([...boards.keys()].find((id) => gives.has(id)) ?? stands[0]?.deviceId ?? "");
  const along = new Map(
    [...boards].flatMap(([id, at]): [string, number][] => {
      const metres = from && at !== from ? between(from, at, trunks) : 0;
      return metres > FINE ? [[id, roundedUp(metres)]] : [];
    }),
  );
  last = { looked, runs: asBefore(last.runs, runs), boards: asBefore(last.boards, along) };
  return last;
}

/** Runs as they were before, where none of them is another. */
function asBefore(before: ReadonlyMap<string, number>, now: ReadonlyMap<string, number>): ReadonlyMap<string, number> {
  return now.size === before.size && [...now].every(([id, run]) => before.get(id) === run) ? before : now;
}

/**
 * Wire along the trunk line from where supplies and boards stand together to a device, as it was typed, metres. What the line says
 * of it is a proposal only: wires that are there were laid without it.
 */
export function boardAlong({ runMetres }: Pick<Device, "runMetres">): number {
  return runMetres ?? 0;
}

const apart = new WeakMap<readonly Device[], boolean>();

/** Whether any board stands apart from the others; asked for each turnout, and looked for once. */
export function hasBoardsApart({ devices }: RailwayRecord): boolean {
  const known = apart.get(devices) ?? devices.some(({ runMetres }) => runMetres !== null);
  apart.set(devices, known);
  return known;
}

/** How far along the trunk line a turnout is from where supplies and boards stand together: its own wire begins at its board, metres. */
export function alongOf(record: RailwayRecord, turnoutId: string): number {
  const run = runOf(record, turnoutId);
  if (!hasBoardsApart(record)) return run;
  const own = boardOfTurnout(record, turnoutId);
  const leader = find(record, "turnout", turnoutId)?.movesWith;
  const board = own ?? (leader ? boardOfTurnout(record, leader) : undefined);
  return board ? Math.round((boardAlong(board) + run) * 1000) / 1000 : run;
}

/** The board from which a turnout's motor is driven. */
function boardOfTurnout(record: RailwayRecord, turnoutId: string): Device | undefined {
  const [motor] = assignmentsOfTurnout(record, turnoutId, "motor");
  const driver = motor && assignmentsOfDevice(record, motor.deviceId).find((a) => a.role === "driver");
  return driver && find(record, "device", driver.deviceId);
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
