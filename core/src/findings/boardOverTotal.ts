import { typeOf } from "../catalogue/catalogue.ts";
import type { DeviceType } from "../catalogue/deviceType.ts";
import { gate } from "../catalogue/gate.ts";
import { addBoardTo } from "../equip/devices.ts";
import { Draft } from "../equip/draft.ts";
import { moveOutput } from "../equip/move.ts";
import { freeWays } from "../equip/ways.ts";
import type { BoardLoad } from "../readings/boardLoads.ts";
import { deviceOf, find } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { Device } from "../record/schemas.ts";
import type { Thread } from "../schematic/thread.ts";
import { amps, count, volts, watts } from "../units/format.ts";
import { type Look, type Remedy, rule } from "./rule.ts";
import { threadsWith } from "./threadsOf.ts";

interface Total {
  device: Device;
  type: DeviceType;
  threads: Thread[];
  motors: number;
  /** Most that flows at once as solved, and what all would take held against their stops, amps. */
  solved: number;
  stalled: number;
  limit: number;
  /** What limits it for long, when that is its regulator's heat. */
  lasting: BoardLoad["lasting"];
}

export const boardOverTotal = rule<Total>({
  id: "board-over-total",
  stage: "equip",
  column: "driver",
  severity: ({ solved, limit }) => (solved > limit ? "stop" : "look"),
  title: "A board gives more in all than it may",
  about:
    "Besides each output's limit a board has one for all of them together: its regulator, its rectifier or its tracks. The rule adds up the solved currents of its outputs at rest and moving; for servos also what they would take if all were held against a stop, which happens when an end point is set too far. A linear regulator turns all the volts that are left over into heat: the higher the supply, the less it gives for long.",
  look: (look) => look.boards.flatMap((board) => totalOf(look, board)),
  subject: ({ device }) => device.id,
  where: ({ device }) => device.label,
  turnouts: ({ threads }) => threads,
  why: ({ device, motors, solved, stalled, limit, lasting }) =>
    lasting
      ? `${count(motors, "motor")} on ${device.label} would take ${amps(stalled)} held against their stops; with ${volts(lasting.over)} left over its regulator bears ${watts(lasting.watts)} of heat, which is ${amps(lasting.amps)}.`
      : solved > limit
        ? `${device.label} gives ${amps(solved)} to ${count(motors, "motor")}; all its outputs together may give ${amps(limit)}.`
        : `${count(motors, "motor")} on ${device.label} would take ${amps(stalled)} held against their stops; all its outputs together may give ${amps(limit)}.`,
  remedies: ({ device, type, threads }, { record }) =>
    moveElsewhere(record, device, type, threads.filter((thread) => suits(thread, type)).at(-1)),
  caution: ({ type }) => type,
});

function totalOf({ record, threads }: Look, { deviceId, rest, moving, limit, lasting }: BoardLoad): Total[] {
  if (limit === null) return [];
  const device = deviceOf(record, deviceId);
  const own = threadsWith(threads, new Set([deviceId]));
  const driven = own.filter(({ motors }) => motors.some(({ driver }) => driver?.device.id === deviceId));
  const motors = driven.flatMap((thread) => thread.motors).filter(({ driver }) => driver?.device.id === deviceId);
  const solved = Math.max(rest, moving);
  const arms = own
    .flatMap(({ lamps }) => lamps)
    .filter(({ from, type }) => from.device.id === deviceId && type.figures.stalledAmps);
  const all = [...motors, ...arms];
  const stalled = all.reduce((sum, { type }) => sum + (type.figures.stalledAmps?.value ?? 0), 0);
  const isOver = Math.max(solved, stalled) > limit * (1 + 1e-9);
  const isHot = lasting !== null && Math.max(rest, stalled) > lasting.amps * (1 + 1e-9);
  if (!isOver && !isHot) return [];
  const type = typeOf(record, device);
  const why = { solved, stalled, limit, lasting: isOver ? null : lasting };
  return [{ device, type, threads: driven, motors: all.length, ...why }];
}

/** Whether a board of a type can drive a turnout at all: what cannot is no better off on another one of its kind. */
const suits = ({ motors }: Thread, driver: DeviceType) =>
  motors.every((motor) => gate({ motor: motor.type, driver }).fits !== "cannot");

/** The last turnout on the board that it suits to a free output of another of its kind, or of a new one. */
function moveElsewhere(record: RailwayRecord, from: Device, type: DeviceType, thread: Thread | undefined): Remedy[] {
  if (!thread) return [];
  const draft = new Draft(record);
  const board =
    record.devices.find(
      ({ id, typeId }) => id !== from.id && typeId === type.id && freeWays(record, id, type.outputs).length > 0,
    ) ?? addBoardTo(draft, type.id);
  const { edits, words } = moveOutput(draft.record, thread.turnout.id, board.id, null);
  const where = find(record, "device", board.id) ? board.label : `a new board, ${board.label}`;
  return [{ label: `Move ${thread.label} to ${where}`, group: { words, edits: [...draft.edits, ...edits] } }];
}
