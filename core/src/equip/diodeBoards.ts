import { typeOf, typesOfFamily } from "../catalogue/catalogue.ts";
import { traitsOf } from "../catalogue/traits.ts";
import type { EditGroup } from "../record/edits.ts";
import {
  assignmentsOfDevice,
  assignmentsOfTurnout,
  deviceOf,
  freshId,
  turnoutOf,
  turnoutsInOrder,
} from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { recordError } from "../record/problems.ts";
import type { BoardPart } from "../record/routes.ts";
import type { Device } from "../record/schemas.ts";
import { type BoardJoin, movingWith } from "../routes/boards.ts";
import { turnoutsOfRoute } from "../routes/routes.ts";
import { inputOf, supplyOf } from "../schematic/thread.ts";
import { list } from "../units/format.ts";
import { Draft } from "./draft.ts";
import { driverOfTurnout } from "./equipment.ts";
import { feed } from "./feed.ts";
import { freeInput, freeWays } from "./ways.ts";

/** Puts coil motors of routes that hang on no board of their own yet on diode boards: those of each zone near their motors. */
export function putOnBoards(draft: Draft, routeIds: readonly string[]): void {
  // what a decoder pulses stays there
  const motors = coilMotors(draft.record, routeIds).flatMap(({ motorId, zoneId, driverId, by }) =>
    by?.drives ? [] : [{ motorId, zoneId, unitId: driverId }],
  );
  for (const { motorId, zoneId, unitId } of motors) {
    const near = motors.filter((each) => each.zoneId === zoneId).length;
    const board = boardWithRoom(draft, unitId, zoneId, near, routeIds.length);
    const [way = 1] = freeWays(draft.record, board.id, typeOf(draft.record, board).outputs);
    draft.unassign((a) => a.role === "driver" && a.motorId === motorId);
    draft.assign("driver", { deviceId: board.id, way, motorId });
  }
  // toggles whose current goes to the same coils stay: they are wired beside the boards
}

/** The coil motors that routes throw, with what drives each. */
export function coilMotors(record: RailwayRecord, routeIds: readonly string[]) {
  const turnouts = new Set(routeIds.flatMap((id) => turnoutsOfRoute(record, id).map(({ turnoutId }) => turnoutId)));
  const moving = new Set([...turnouts].flatMap((id) => movingWith(record, id)));
  return turnoutsInOrder(record).flatMap(({ id, zoneId }) => {
    if (!moving.has(id)) return [];
    const [motor] = assignmentsOfTurnout(record, id, "motor");
    if (!motor || traitsOf(typeOf(record, deviceOf(record, motor.deviceId))).movedBy !== "pulse") return [];
    const driver = driverOfTurnout(record, id);
    const by = driver && typeOf(record, deviceOf(record, driver.deviceId));
    return [{ motorId: motor.deviceId, zoneId, driverId: driver?.deviceId ?? null, by }];
  });
}

/** Zones of the turnouts whose motors hang on a board. */
function zonesOf(record: RailwayRecord, boardId: string): Set<string | null> {
  return new Set(
    assignmentsOfDevice(record, boardId).flatMap((a) => {
      if (a.role !== "driver" || a.deviceId !== boardId) return [];
      return assignmentsOfDevice(record, a.motorId).flatMap((each) =>
        each.role === "motor" ? [turnoutOf(record, each.turnoutId).zoneId] : [],
      );
    }),
  );
}

/** A diode board fed by a unit that has room for a motor of a zone and none of another, or a new one that is large enough. */
function boardWithRoom(
  draft: Draft,
  unitId: string | null,
  zoneId: string | null,
  motors: number,
  buttons: number,
): Device {
  const known = draft.record.devices.find((device) => {
    const type = typeOf(draft.record, device);
    if (type.drives !== "matrix" || freeWays(draft.record, device.id, type.outputs).length === 0) return false;
    if (unitId !== null && supplyOf(draft.record, device.id)?.device.id !== unitId) return false;
    return [...zonesOf(draft.record, device.id)].every((each) => each === zoneId);
  });
  if (known) return known;
  const sizes = typesOfFamily(draft.record, "driver").filter(({ drives }) => drives === "matrix");
  const type = sizes.find(({ outputs, inputs }) => outputs >= motors && (inputs ?? 0) >= buttons) ?? sizes.at(-1);
  if (!type) throw recordError("The catalogue holds no diode board.");
  const board = draft.addDevice(type.id, type.prefix, type.place);
  if (unitId === null) feed(draft, board, type);
  else draft.assign("supply", { deviceId: unitId, toDeviceId: board.id });
  return board;
}

/** Joins each contact that asks for a route to a free row of every diode board that has a coil of the route. */
export function joinRows(draft: Draft): void {
  for (const { boardId, deviceId, way } of rowsMissing(draft.record)) {
    const row = freeInput(draft.record, boardId, 1);
    if (row === null) {
      const { label } = deviceOf(draft.record, boardId);
      throw recordError(`${label} has no row left for another button. Fit a larger diode board.`);
    }
    draft.assign("input", { deviceId: boardId, way: row, controlId: deviceId, controlWay: way });
  }
}

/** Contacts that ask for a route and have no row on a diode board on which a motor of the route hangs. */
export function rowsMissing(
  record: RailwayRecord,
): { boardId: string; deviceId: string; way: number | null; routeId: string }[] {
  const seen = new Set<string>();
  return record.routeControls.flatMap(({ routeId, deviceId, way }) => {
    const { asks } = traitsOf(typeOf(record, deviceOf(record, deviceId)));
    // what a computer hears is joined to no board
    if (asks === null || inputOf(record, deviceId, way)) return [];
    return [...boardsOfRoute(record, routeId)].flatMap((boardId) => {
      const has = assignmentsOfDevice(record, deviceId).some(
        (a) => a.role === "input" && a.deviceId === boardId && a.controlId === deviceId && a.controlWay === way,
      );
      const key = `${boardId} ${deviceId} ${way}`;
      if (has || seen.has(key)) return [];
      seen.add(key);
      return [{ boardId, deviceId, way, routeId }];
    });
  });
}

/** Diode boards on which motors of a route hang. */
export function boardsOfRoute(record: RailwayRecord, routeId: string): Set<string> {
  return new Set(
    turnoutsOfRoute(record, routeId)
      .flatMap(({ turnoutId }) => movingWith(record, turnoutId))
      .flatMap((id) => {
        const driver = driverOfTurnout(record, id);
        const type = driver && typeOf(record, deviceOf(record, driver.deviceId));
        return driver && type?.drives === "matrix" ? [driver.deviceId] : [];
      }),
  );
}

/** Has diode boards built in another way, where nothing lies on them yet. */
export function setConstruction(
  record: RailwayRecord,
  matrixBy: RailwayRecord["railway"]["matrixBy"],
): EditGroup | null {
  if (record.railway.matrixBy === matrixBy) return null;
  const words = {
    fewest: "as few diodes as can be",
    full: "a diode at each link",
    cascaded: "buttons that feed one another",
  };
  return {
    words: `Diode boards with ${words[matrixBy]}`,
    edits: [{ op: "railway", value: { ...record.railway, matrixBy } }],
  };
}

/** Writes down that parts of a diode board were soldered, as they are proposed; those that are made already stay. */
export function makeParts(record: RailwayRecord, joins: readonly BoardJoin[], at: string): EditGroup | null {
  const draft = new Draft(record);
  for (const { boardId, from, to, turned, standing, partId, with: by } of joins) {
    if (standing === "made") continue;
    const id = partId ?? freshId(draft.record, "boardPart", `${boardId}-${from}-${to}`);
    draft.put("boardPart", { id, deviceId: boardId, from, to, with: by, turned, madeAt: at });
  }
  if (draft.edits.length === 0) return null;
  const [first] = joins;
  const labels = list([...new Set(joins.map(({ boardId }) => deviceOf(record, boardId).label))]);
  return draft.group(
    joins.length === 1
      ? `Soldered ${first?.from} to ${first?.to} of ${labels}`
      : `Soldered ${draft.edits.length} parts of ${labels}`,
  );
}

/** Says what lies between two terminals of a board, as the owner sees it there; null takes it out. */
export function setPart(
  record: RailwayRecord,
  boardId: string,
  [from, to]: readonly [string, string],
  part: Pick<BoardPart, "with" | "turned" | "madeAt"> | null,
): EditGroup | null {
  const board = deviceOf(record, boardId);
  const known = record.boardParts.find(
    (each) => each.deviceId === boardId && [each.from, each.to].sort().join() === [from, to].sort().join(),
  );
  const draft = new Draft(record);
  if (part === null) {
    if (!known) return null;
    draft.remove("boardPart", known.id);
    return draft.group(`${board.label}: took out what lay between ${known.from} and ${known.to}`);
  }
  const id = known?.id ?? freshId(record, "boardPart", `${boardId}-${from}-${to}`);
  draft.put("boardPart", { id, deviceId: boardId, from, to, ...part });
  const what = part.with === "wire" ? "a plain wire" : part.turned ? "a diode the wrong way round" : "a diode";
  return draft.group(`${board.label}: ${what} between ${from} and ${to}`);
}
