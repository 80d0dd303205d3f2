import { typeOf } from "../catalogue/catalogue.ts";
import { waysForRoutes } from "../catalogue/checkTypes.ts";
import { type DeviceType, numbered } from "../catalogue/deviceType.ts";
import type { EditGroup } from "../record/edits.ts";
import { find } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { recordError } from "../record/problems.ts";
import type { Device } from "../record/schemas.ts";
import { movingWith } from "../routes/boards.ts";
import { routesInOrder, turnoutsOfRoute } from "../routes/routes.ts";
import { boardsOfRoute, coilMotors, joinRows, putOnBoards } from "./diodeBoards.ts";
import { Draft } from "./draft.ts";
import { feed, firstOfType } from "./feed.ts";
import { putControl, unask } from "./routes.ts";
import { requireType } from "./typeMeant.ts";
import { freeInput, freeWays } from "./ways.ts";

/**
 * How routes are asked for. buttons: one for each, through diodes. entry-exit: the button of the entry and that of the exit, held
 * together. rotary: chosen by a switch, fired by a button. macro: kept in a board or the command station. message: a button that
 * a computer hears.
 */
export const ROUTE_SCHOOLS = ["buttons", "entry-exit", "rotary", "macro", "message"] as const;
export type RouteSchool = (typeof ROUTE_SCHOOLS)[number];

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

/** One button more for a route, as for a second panel: through the diode boards where its motors hang on them, else read for a computer. */
export function anotherButton(record: RailwayRecord, routeId: string): EditGroup {
  const draft = new Draft(record);
  const onBoards = boardsOfRoute(record, routeId).size > 0;
  const button = newControl(draft, onBoards ? buttonFor(record, [routeId]) : "push-button");
  putControl(draft, routeId, { deviceId: button.id, way: null, throughId: null });
  if (onBoards) joinRows(draft);
  else readByComputer(draft, button);
  return draft.group(`${button.label} asks for ${find(record, "route", routeId)?.label ?? routeId} as well`);
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
      readByComputer(draft, button);
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

/** Gives a button a free input of an encoder. */
function readByComputer(draft: Draft, { id }: Device): void {
  const reader = readerWithRoom(draft);
  const way = freeInput(draft.record, reader.id, 1) ?? 1;
  draft.assign("input", { deviceId: reader.id, way, controlId: id, controlWay: null });
}

/** An encoder with a free input, or a new one. */
function readerWithRoom(draft: Draft): Device {
  const known = draft.record.devices.find(
    (device) => typeOf(draft.record, device).family === "reader" && freeInput(draft.record, device.id, 1) !== null,
  );
  if (known) return known;
  const type = requireType(draft.record, "encoder-16");
  const encoder = draft.addDevice(type.id, type.prefix, type.place);
  feed(draft, encoder, type);
  return encoder;
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
