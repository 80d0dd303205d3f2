import { typeOf, typesOfFamily } from "../catalogue/catalogue.ts";
import { waysForRoutes } from "../catalogue/checkTypes.ts";
import { type DeviceType, numbered } from "../catalogue/deviceType.ts";
import { traitsOf } from "../catalogue/traits.ts";
import type { EditGroup } from "../record/edits.ts";
import {
  assignmentsOfDevice,
  assignmentsOfTurnout,
  deviceOf,
  find,
  freshId,
  turnoutOf,
  turnoutsInOrder,
} from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { recordError } from "../record/problems.ts";
import type { BoardPart, RouteControl } from "../record/routes.ts";
import type { Device, Position } from "../record/schemas.ts";
import { type BoardJoin, movingWith } from "../routes/boards.ts";
import { asksForRoutes, controlsOfRoute, routesInOrder, turnoutsOfRoute } from "../routes/routes.ts";
import { supplyOf } from "../schematic/thread.ts";
import { removeUnused } from "./controls.ts";
import { Draft } from "./draft.ts";
import { driverOfTurnout } from "./equipment.ts";
import { feed, firstOfType } from "./feed.ts";
import { requireType } from "./typeMeant.ts";
import { freeInput, freeWays } from "./ways.ts";

/** A route as it is to be: what it is called, and how turnouts lie in it. */
export interface WantedRoute {
  label: string;
  settings: readonly { turnoutId: string; to: Position }[];
  /** Where it begins, for a button of the entry; those of one entry share it. */
  entry?: string;
}

/**
 * How routes are asked for. buttons: one for each, through diodes. entry-exit: the button of the entry and that of the exit, held
 * together. rotary: chosen by a switch, fired by a button. macro: kept in a board or the command station. message: a button that
 * a computer hears.
 */
export const ROUTE_SCHOOLS = ["buttons", "entry-exit", "rotary", "macro", "message"] as const;
export type RouteSchool = (typeof ROUTE_SCHOOLS)[number];

/** Adds routes after those that are there. One that is there by its label gets the settings instead of its own. */
export function addRoutes(record: RailwayRecord, wanted: readonly WantedRoute[]): EditGroup {
  const draft = new Draft(record);
  for (const each of wanted) putRoute(draft, each);
  const [first] = wanted;
  const words =
    wanted.length === 1 ? `Added route ${first?.label}` : `Added ${wanted.length} routes, ${first?.label} and on`;
  return draft.group(words);
}

function putRoute(draft: Draft, { label, settings }: WantedRoute): string {
  const { record } = draft;
  const known = record.routes.find((route) => route.label.toLowerCase() === label.toLowerCase());
  const order = record.routes.reduce((most, route) => Math.max(most, route.order + 1), 0);
  const id = known?.id ?? freshId(record, "route", label);
  if (!known) draft.put("route", { id, label, name: "", order });
  for (const each of turnoutsOfRoute(record, id)) draft.remove("routeTurnout", each.id);
  for (const { turnoutId, to } of settings) putSetting(draft, id, turnoutId, to);
  return id;
}

function putSetting(draft: Draft, routeId: string, turnoutId: string, to: Position): void {
  const known = turnoutsOfRoute(draft.record, routeId).find((each) => each.turnoutId === turnoutId);
  const id = known?.id ?? freshId(draft.record, "routeTurnout", `${routeId}-${turnoutId}`);
  draft.put("routeTurnout", { id, routeId, turnoutId, to });
}

/** Has a route set a turnout to a position, or leave it as it lies (null). */
export function setInRoute(
  record: RailwayRecord,
  routeId: string,
  turnoutId: string,
  to: Position | null,
): EditGroup | null {
  const route = find(record, "route", routeId);
  const turnout = find(record, "turnout", turnoutId);
  if (!route || !turnout) throw recordError("There is no such route or turnout.");
  const known = turnoutsOfRoute(record, routeId).find((each) => each.turnoutId === turnoutId);
  if ((known?.to ?? null) === to) return null;
  const draft = new Draft(record);
  if (to !== null) putSetting(draft, routeId, turnoutId, to);
  else if (known) draft.remove("routeTurnout", known.id);
  return draft.group(
    `${route.label}: ${to === null ? `leaves ${turnout.label} as it lies` : `${turnout.label} to ${to}`}`,
  );
}

/** Calls a route by another name. */
export function renameRoute(record: RailwayRecord, routeId: string, label: string, name?: string): EditGroup {
  const route = find(record, "route", routeId);
  if (!route) throw recordError("There is no such route.");
  const draft = new Draft(record);
  draft.put("route", { ...route, label, name: name ?? route.name });
  return draft.group(`Route ${route.label} is called ${label}`);
}

/** Takes routes away, with buttons that ask for nothing else then. Parts of boards that were made stay. */
export function removeRoutes(record: RailwayRecord, routeIds: readonly string[]): EditGroup {
  const draft = new Draft(record);
  const labels = routeIds.flatMap((id) => find(record, "route", id)?.label ?? []);
  for (const id of routeIds) {
    unask(draft, id);
    draft.removeWhole("route", id);
  }
  return draft.group(`Removed ${labels.length === 1 ? `route ${labels[0]}` : `${labels.length} routes`}`);
}

/** Takes away what asks for a route; a button that asks for nothing else goes. */
function unask(draft: Draft, routeId: string): void {
  for (const { id, deviceId, way, throughId } of controlsOfRoute(draft.record, routeId)) {
    draft.remove("routeControl", id);
    if (!asksForRoutes(draft.record, deviceId, way))
      draft.unassign((a) => a.role === "input" && a.controlId === deviceId && a.controlWay === way);
    for (const each of [deviceId, throughId]) if (each) removeUnused(draft, each);
  }
}

/** Has one thing more ask for a route, as `asking` says. */
export function askBy(
  record: RailwayRecord,
  routeId: string,
  asking: Pick<RouteControl, "deviceId" | "way" | "throughId">,
): EditGroup {
  const draft = new Draft(record);
  putControl(draft, routeId, asking);
  joinRows(draft);
  const label = deviceOf(draft.record, asking.deviceId).label;
  return draft.group(`${find(record, "route", routeId)?.label ?? routeId} is asked for by ${label}`);
}

function putControl(draft: Draft, routeId: string, asking: Pick<RouteControl, "deviceId" | "way" | "throughId">): void {
  const id = freshId(draft.record, "routeControl", `${routeId}-${asking.deviceId}-${asking.way ?? ""}`);
  draft.put("routeControl", { id, routeId, ...asking });
}

/**
 * Has routes asked for in one of the ways of the trade, instead of what asks for them now: with new buttons, and for all but
 * macros and messages with the motors on diode boards, fed by the discharge unit that they had.
 * @param entryOf where each route begins, for a button of the entry
 */
export function commandRoutes(
  record: RailwayRecord,
  routeIds: readonly string[],
  school: RouteSchool,
  entryOf: (routeId: string) => string = () => "",
): EditGroup {
  const draft = new Draft(record);
  const wanted = new Set(routeIds);
  const ids = routesInOrder(record).flatMap(({ id }) => (wanted.has(id) ? [id] : []));
  const through = school === "buttons" || school === "entry-exit" || school === "rotary";
  if (through) putOnBoards(draft, ids);
  else putOnDecoders(draft, ids);
  for (const id of ids) unask(draft, id);
  fitControls[school](draft, ids, entryOf);
  if (through) joinRows(draft);
  const count =
    routeIds.length === 1
      ? (find(record, "route", routeIds[0] ?? "")?.label ?? "1 route")
      : `${routeIds.length} routes`;
  return draft.group(`${count} by ${SCHOOL_WORDS[school]}`);
}

const SCHOOL_WORDS: Record<RouteSchool, string> = {
  buttons: "a button for each",
  "entry-exit": "buttons of entry and exit",
  rotary: "a rotary switch and a button",
  macro: "a macro",
  message: "messages to a computer",
};

/** What a school of routes is called. */
export function routeSchoolWords(school: RouteSchool): string {
  return SCHOOL_WORDS[school];
}

type FitControls = (draft: Draft, routeIds: readonly string[], entryOf: (routeId: string) => string) => void;

const newControl = (draft: Draft, typeId: string): Device => {
  const type = requireType(draft.record, typeId);
  return draft.addDevice(typeId, type.prefix, type.place);
};

const fitControls: Record<RouteSchool, FitControls> = {
  buttons: (draft, routeIds) => {
    const typeId = buttonFor(draft.record, routeIds);
    for (const id of routeIds)
      putControl(draft, id, { deviceId: newControl(draft, typeId).id, way: null, throughId: null });
  },
  "entry-exit": (draft, routeIds, entryOf) => {
    const entries = [...new Set(routeIds.map(entryOf))];
    const button = buttonFor(draft.record, routeIds);
    const entry = new Map(entries.map((name) => [name, newControl(draft, button).id]));
    // routes of different entries that lead to the same place share the button of the exit, a pole for each entry
    const exits = new Map<string, string[]>();
    for (const id of routeIds) {
      const exit = exitOf(draft.record, id, entryOf(id));
      exits.set(exit, [...(exits.get(exit) ?? []), id]);
    }
    for (const ids of exits.values()) {
      const typeId = ids.length === 1 ? button : ids.length === 2 ? "push-button-2" : "push-button-4";
      for (let first = 0; first < ids.length; first += 4) {
        const exit = newControl(draft, typeId);
        const poles = waysForRoutes(typeOf(draft.record, exit)) ?? 0;
        for (const [index, id] of ids.slice(first, first + 4).entries())
          putControl(draft, id, {
            ...{ deviceId: exit.id, way: poles === 0 ? null : index + 1 },
            throughId: entry.get(entryOf(id)) ?? null,
          });
      }
    }
  },
  rotary: (draft, routeIds) => {
    const positions = waysForRoutes(requireType(draft.record, "rotary")) ?? 12;
    for (let first = 0; first < routeIds.length; first += positions) {
      const [rotary, fire] = [newControl(draft, "rotary"), newControl(draft, buttonFor(draft.record, routeIds))];
      for (const [index, id] of routeIds.slice(first, first + positions).entries())
        putControl(draft, id, { deviceId: rotary.id, way: index + 1, throughId: fire.id });
    }
  },
  macro: (draft, routeIds) => {
    const keeper = macroKeeper(draft, routeIds.length);
    const free = freeMacros(draft.record, keeper);
    if (free.length < routeIds.length)
      throw recordError(
        `${keeper.label} keeps ${free.length} macros more, and there are ${routeIds.length} routes. Choose fewer of them.`,
      );
    for (const [index, id] of routeIds.entries())
      putControl(draft, id, { deviceId: keeper.id, way: free[index] ?? null, throughId: null });
  },
  message: (draft, routeIds) => {
    for (const id of routeIds) {
      const button = newControl(draft, "push-button");
      putControl(draft, id, { deviceId: button.id, way: null, throughId: null });
      const reader = readerWithRoom(draft);
      const way = freeInput(draft.record, reader.id, 1) ?? 1;
      draft.assign("input", { deviceId: reader.id, way, controlId: button.id, controlWay: null });
    }
  },
};

/** Coils whose current the contact of a plain button bears for a pulse: some 5 A each, of 9 A (common practice). */
const COILS_OF_A_BUTTON = 1;

/** The button that bears the current of all coils of a route, the same for all of some routes. */
function buttonFor(record: RailwayRecord, routeIds: readonly string[]): string {
  const coils = routeIds.map(
    (id) => new Set(turnoutsOfRoute(record, id).flatMap(({ turnoutId }) => movingWith(record, turnoutId))).size,
  );
  return Math.max(0, ...coils) > COILS_OF_A_BUTTON ? "push-button-heavy" : "push-button";
}

/** What a route sets without the entry that it begins at: its last words, as "Road 3" of "West Road 3". */
function exitOf(record: RailwayRecord, routeId: string, entry: string): string {
  const label = find(record, "route", routeId)?.label ?? routeId;
  return entry !== "" && label.startsWith(entry) ? label.slice(entry.length).trim() : label;
}

/** What keeps so many macros: a board or command station that is there, or a new command station. */
function macroKeeper(draft: Draft, macros: number): Device {
  const keepers = draft.record.devices.filter((device) => typeOf(draft.record, device).figures.macros);
  return keepers.find((device) => freeMacros(draft.record, device).length >= macros) ?? firstOfType(draft, "track-bus");
}

function freeMacros(record: RailwayRecord, { id, typeId }: Device): number[] {
  const used = new Set(record.routeControls.flatMap(({ deviceId, way }) => (deviceId === id ? [way] : [])));
  return numbered(waysForRoutes(requireType(record, typeId)) ?? 0).filter((way) => !used.has(way));
}

/** An encoder with a free input, or a new one. */
function readerWithRoom(draft: Draft): Device {
  const known = draft.record.devices.find(
    (device) =>
      typeOf(draft.record, device).family === "reader" && (freeInput(draft.record, device.id, 1) ?? null) !== null,
  );
  if (known) return known;
  const type = requireType(draft.record, "encoder-16");
  const encoder = draft.addDevice(type.id, type.prefix, type.place);
  feed(draft, encoder, type);
  return encoder;
}

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

/** Puts coil motors of routes that no command reaches on outputs for coils of decoders. */
export function putOnDecoders(draft: Draft, routeIds: readonly string[]): void {
  for (const { motorId, by } of coilMotors(draft.record, routeIds)) {
    if (by?.hears || by?.drives === "coil") continue;
    const known = draft.record.devices.find((device) => {
      const type = typeOf(draft.record, device);
      return type.drives === "coil" && type.hears && freeWays(draft.record, device.id, type.outputs).length > 0;
    });
    const type = requireType(draft.record, "coil-decoder-4");
    const board = known ?? newDecoder(draft, type);
    const [way = 1] = freeWays(draft.record, board.id, typeOf(draft.record, board).outputs);
    draft.unassign((a) => a.role === "driver" && a.motorId === motorId);
    draft.assign("driver", { deviceId: board.id, way, motorId });
  }
}

/** A decoder with addresses of its own: the first row of numbers that no output wants or answers to, and nobody has reserved. */
function newDecoder(draft: Draft, type: DeviceType): Device {
  const { assignments, answers, reserves } = draft.record;
  const taken = new Set([
    ...assignments.flatMap((a) => (a.role === "address" ? [a.address] : [])),
    ...answers.map(({ address }) => address),
  ]);
  const isFree = (address: number) =>
    !taken.has(address) && !reserves.some(({ first, last }) => address >= first && address <= last);
  let first = 1;
  while (!numbered(type.outputs).every((way) => isFree(first + way - 1))) first += type.outputs;
  const board = draft.addDevice(type.id, type.prefix, type.place);
  feed(draft, board, type);
  for (const way of numbered(type.outputs))
    draft.assign("address", { deviceId: board.id, way, address: first + way - 1 });
  return board;
}

/** The coil motors that routes throw, with what drives each. */
function coilMotors(record: RailwayRecord, routeIds: readonly string[]) {
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
    if (traitsOf(typeOf(record, deviceOf(record, deviceId))).asks === null || isRead(record, deviceId)) return [];
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

/** Whether a board that tells a computer reads a control. */
function isRead(record: RailwayRecord, controlId: string): boolean {
  return assignmentsOfDevice(record, controlId).some(
    (a) =>
      a.role === "input" &&
      a.controlId === controlId &&
      typeOf(record, deviceOf(record, a.deviceId)).drives !== "matrix",
  );
}

function boardsOfRoute(record: RailwayRecord, routeId: string): Set<string> {
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
  const label = first ? deviceOf(record, first.boardId).label : "";
  return draft.group(
    joins.length === 1
      ? `Soldered ${first?.from} to ${first?.to} of ${label}`
      : `Soldered ${draft.edits.length} parts of ${label}`,
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
