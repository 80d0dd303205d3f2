// Every exhibit of the tests by name, and railways made by random deeds of an owner.
import fc from "fast-check";
import { CATALOGUE, typeOf } from "../src/catalogue/catalogue.ts";
import { edit } from "../src/catalogue/edit.ts";
import { setBlock } from "../src/equip/blocks.ts";
import { COLUMNS } from "../src/equip/columns.ts";
import { addBoard, changeType, removeDevice } from "../src/equip/devices.ts";
import { Draft } from "../src/equip/draft.ts";
import { feedFrom, possibleCommands, possibleSupplies } from "../src/equip/feed.ts";
import { possiblePieces, setColours, setPiece } from "../src/equip/lampFittings.ts";
import { lockChoices, setLock } from "../src/equip/locks.ts";
import { plainSources, setPlainInput } from "../src/equip/plainInputs.ts";
import { removeTurnouts } from "../src/equip/turnouts.ts";
import { addTurnout, writeCell } from "../src/equip/write.ts";
import { setEvent, setLink, setProducer } from "../src/events/edits.ts";
import { eventPlan } from "../src/events/plan.ts";
import { allTaught } from "../src/events/taught.ts";
import type { EditGroup } from "../src/record/edits.ts";
import { assignmentsOfRole } from "../src/record/find.ts";
import type { RailwayRecord } from "../src/record/kinds.ts";
import { EVENT_ACTIONS } from "../src/record/numbers.ts";
import { RecordError } from "../src/record/problems.ts";
import type { Device } from "../src/record/schemas.ts";
import { controlsOf, threadsOf } from "../src/schematic/thread.ts";
import { busNodes } from "../src/settings/nodes.ts";
import { wantSetting } from "../src/settings/settings.ts";
import { smallRailway } from "./build.ts";
import { MISTAKES } from "./mistakes.ts";
import { DRIVING, FROGS, LAMPS, onBus, routeButton, SHARED, zonesAtInputs } from "./recipes.ts";
import { ROUTED } from "./routes.ts";

/** All small railways of the tests, right and wrong. */
export const EXHIBITS: Record<string, () => RailwayRecord> = {
  ...MISTAKES,
  ...DRIVING,
  ...FROGS,
  ...LAMPS,
  ...Object.fromEntries(Object.entries(SHARED).map(([what, { make }]) => [what, make])),
  ...ROUTED,
  "a button of a route": routeButton,
  "zones at inputs": zonesAtInputs,
  "two turnouts on a bus": () => onBus("push-pair", "toggle-latching"),
};

/** Something an owner may do, chosen by numbers. */
export type Deed = [kind: number, which: number, what: number];

export const deeds: fc.Arbitrary<Deed> = fc.tuple(fc.nat(COLUMNS.length + 9), fc.nat(60), fc.nat(60));

const FEED = COLUMNS.length + 3;
const BLOCK = COLUMNS.length + 2;

const ADD = COLUMNS.length + 4;
const LOCK = COLUMNS.length + 5;
const LAMP = COLUMNS.length + 6;
const FOLLOW = COLUMNS.length + 7;
const EVENT = COLUMNS.length + 8;
const PLAIN_INPUT = COLUMNS.length + 9;

/** What an owner says of events and of what is read plainly at inputs, more than anything else. */
export const busDeeds: fc.Arbitrary<Deed> = fc.oneof(
  fc.tuple(fc.constantFrom(EVENT, EVENT, PLAIN_INPUT), fc.nat(60), fc.nat(60)),
  deeds,
);

/** Things that are added by themselves, among others. */
const ADDED = ["resistor-board-6", "key-switch", "touch-button", "infrared-sensor", "current-detector-4", "reverser"];

/** Has a control locked out by whatever may, or by nothing. */
function locked(record: RailwayRecord, which: number, what: number): EditGroup | null {
  const all = threadsOf(record).flatMap((thread) => controlsOf(thread).map((control) => ({ thread, control })));
  const at = all[which % Math.max(1, all.length)];
  if (!at) return null;
  const choices = [null, ...lockChoices(record, at.thread, at.control).map(({ lock }) => lock)];
  const { deviceId, way } = at.control.assignment;
  return setLock(record, { controlId: deviceId, controlWay: way }, choices[what % choices.length] ?? null);
}

/** Gives a lamp other colours, a piece of a resistor board, or its sensor another side. */
function fittedLamp(record: RailwayRecord, which: number, what: number): EditGroup | null {
  const lamps = assignmentsOfRole(record, "lamp");
  const lamp = lamps[which % Math.max(1, lamps.length)];
  if (!lamp) return null;
  if (what % 3 === 0) return setColours(record, lamp.deviceId, ["red", what % 2 ? "white" : "green"]);
  if (what % 3 === 1) {
    const pieces = possiblePieces(record, lamp.deviceId);
    return setPiece(record, lamp.deviceId, pieces[what % (pieces.length + 1)] ?? null);
  }
  const draft = new Draft(record);
  if (lamp.coveredAt) draft.put("assignment", { ...lamp, coveredAt: lamp.coveredAt === "N" ? "R" : "N" });
  else draft.put("assignment", { ...lamp, crossed: !lamp.crossed });
  return draft.group("Turned a lamp");
}

/** Has a control followed, or not. */
function followedOrNot(record: RailwayRecord, which: number): EditGroup | null {
  const controls = assignmentsOfRole(record, "control");
  const control = controls[which % Math.max(1, controls.length)];
  if (!control) return null;
  const draft = new Draft(record);
  draft.put("assignment", { ...control, follows: !control.follows, to: control.follows ? control.to : null });
  return draft.group("Followed or not");
}

/** Says something of an event, teaches a node, gives it another number, or has an input send another event. */
function saidOfEvents(record: RailwayRecord, which: number, what: number): EditGroup | null {
  const threads = threadsOf(record);
  const { events, outputs } = eventPlan(record, threads);
  const event = events[which % Math.max(1, events.length)];
  const output = outputs[what % Math.max(1, outputs.length)];
  const node = busNodes(record)[which % Math.max(1, busNodes(record).length)];
  switch (what % 6) {
    case 0:
      return node ? allTaught(record, threads, node.line.device.id, "2026-05-12T20:14:00.000Z") : null;
    case 1:
      return node ? wantSetting(record, node.line, String(1 + (which % 9))) : null;
    case 2:
      return event ? setEvent(record, threads, event.id, { nodeId: null, number: 1 + which }) : null;
    case 3: {
      const [input] = events[what % Math.max(1, events.length)]?.inputs ?? [];
      return event && input ? setProducer(record, threads, input, which % 2 ? event.id : null) : null;
    }
    default: {
      const actions = [null, ...EVENT_ACTIONS];
      return event && output
        ? setLink(record, threads, event.id, output, actions[which % actions.length] ?? null)
        : null;
    }
  }
}

/** Has a zone or a contact read at an input of a board, or nothing. */
function readPlainly(record: RailwayRecord, which: number, what: number): EditGroup | null {
  const boards = record.devices.filter((device) => typeOf(record, device).inputs);
  const board = boards[which % Math.max(1, boards.length)];
  const sources = [null, ...plainSources(record)];
  return board ? setPlainInput(record, board.id, 1 + (what % 16), sources[which % sources.length] ?? null) : null;
}

/** Has a device fed or commanded by another one, by whatever may; null when nothing may. */
function fed(record: RailwayRecord, device: Device, which: number, what: number): EditGroup | null {
  const role = what % 2 ? "supply" : "commands";
  const type = typeOf(record, device);
  const from = role === "supply" ? possibleSupplies(record, type) : possibleCommands(record, type);
  const choice = from[which % (from.length + 1)];
  return from.length === 0 ? null : feedFrom(record, device, role, choice?.id ?? null);
}

/** The edits of a deed; null when it changes nothing. */
export function done(record: RailwayRecord, [kind, which, what]: Deed): EditGroup | null {
  const turnout = record.turnouts[which % Math.max(1, record.turnouts.length)];
  const device = record.devices[which % Math.max(1, record.devices.length)];
  const type = CATALOGUE[what % CATALOGUE.length] as (typeof CATALOGUE)[number];
  if (kind === 0) return addTurnout(record, `N${what}`);
  if (kind === 1 && device) return removeDevice(record, device.id);
  if (kind === 2 && turnout) return removeTurnouts(record, [turnout.id]);
  if (kind === 3 && device) return changeType(record, device.id, type.id);
  if (kind === FEED && device) return fed(record, device, which + what, what);
  if (kind === BLOCK && device) {
    return setBlock(record, device.id, 1 + (what % 4), {
      block: "block ".repeat(what % 4),
      rail: what % 2 ? "J" : "K",
    });
  }
  if (kind === ADD) return addBoard(record, ADDED[what % ADDED.length] as string);
  if (kind === LOCK) return locked(record, which, what);
  if (kind === LAMP) return fittedLamp(record, which, what);
  if (kind === FOLLOW) return followedOrNot(record, which);
  if (kind === EVENT) return saidOfEvents(record, which, what);
  if (kind === PLAIN_INPUT) return readPlainly(record, which, what);
  if (!turnout) return null;
  const column = COLUMNS[kind % COLUMNS.length] as (typeof COLUMNS)[number];
  const choices = [...(column.choices?.(record, turnout) ?? []).map(({ text }) => text), "", "7", "none"];
  return writeCell(record, turnout.id, column.id, choices[what % choices.length] as string);
}

/** The record after a deed; as it was when the deed is refused with a sentence. */
export function after(record: RailwayRecord, deed: Deed): RailwayRecord {
  try {
    const group = done(record, deed);
    return group ? edit(record, group.edits).record : record;
  } catch (error) {
    if (!(error instanceof RecordError) || !/^\S.*\.$/s.test(error.message)) throw error;
    return record;
  }
}

/** A railway that an owner may have come to. @param most deeds at most */
export function randomRailway(most = 25): fc.Arbitrary<RailwayRecord> {
  const starts = [smallRailway, ...Object.values(EXHIBITS)];
  return fc
    .tuple(fc.constantFrom(...starts), fc.array(deeds, { maxLength: most }))
    .map(([start, all]) => all.reduce(after, start()));
}
