import { figureValue, findType, typeOf } from "../catalogue/catalogue.ts";
import type { DeviceType, Model } from "../catalogue/deviceType.ts";
import { gate } from "../catalogue/gate.ts";
import { traitsOf } from "../catalogue/traits.ts";
import { requireType } from "../equip/typeMeant.ts";
import { usualChargeVolts } from "../readings/recharge.ts";
import { find } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { recordError } from "../record/problems.ts";
import type { Turnout } from "../record/schemas.ts";
import { drivesItself, type Thread, threadsOf } from "../schematic/thread.ts";
import { amps, count } from "../units/format.ts";

/** How addresses are given out: on from the highest in use, board by board; the number in the turnout's label; a hundred for each zone; factory setting. */
export const ADDRESSING = ["runs", "numbers", "zones", "factory"] as const;
export type Addressing = (typeof ADDRESSING)[number];

/** What the owner wants of an allotment. */
export interface AllotOptions {
  /** Turnouts to be looked at; all when null. */
  turnoutIds: readonly string[] | null;
  /** Motor for turnouts that have none; null leaves those out. */
  motor: string | null;
  /** Type of board or unit for each kind of motor. */
  boards: Partial<Record<Model, string>>;
  /** A crossover whose motors are too much for one output may have an output for each. */
  split: boolean;
  addresses: Addressing;
  /** Most new boards of a kind; null for as many as it takes. */
  mostBoards: number | null;
}

/** A turnout that wants a driver. */
export interface Want {
  turnout: Turnout;
  followers: Turnout[];
  label: string;
  zoneId: string | null;
  motor: DeviceType;
  board: DeviceType;
  /** Motors on each output that it takes: all on one, or one on each. */
  outputs: number;
  amps: number;
}

/** Why a turnout cannot be given a driver: which limit stops it, and by how much. */
export interface Stopped {
  turnoutId: string;
  label: string;
  why: string;
}

/** Which turnouts want what; those that no output can serve, with the limit that stops them. */
export function wantsOf(record: RailwayRecord, options: AllotOptions): { wants: Want[]; stopped: Stopped[] } {
  const chosen = options.turnoutIds && new Set(options.turnoutIds);
  const wants: Want[] = [];
  const stopped: Stopped[] = [];
  for (const thread of threadsOf(record)) {
    const all = [thread.turnout, ...thread.followers];
    if (chosen && !all.some(({ id }) => chosen.has(id))) continue;
    if (isEquipped(thread)) continue;
    const want = wantOf(record, thread, options);
    if (typeof want === "string") stopped.push({ turnoutId: thread.turnout.id, label: thread.label, why: want });
    else if (want) wants.push(want);
  }
  return { wants, stopped };
}

/** Each of its turnouts has a motor with a driver. */
function isEquipped({ motors, followers }: Thread): boolean {
  return motors.length === followers.length + 1 && motors.every((motor) => motor.driver || drivesItself(motor));
}

/** @returns why it cannot be; null for one that is to be left out */
function wantOf(record: RailwayRecord, thread: Thread, options: AllotOptions): Want | string | null {
  const types = thread.motors.map(({ type }) => type);
  const [fitted] = types;
  const motor = fitted ?? (options.motor ? requireType(record, options.motor) : undefined);
  if (!motor) return null;
  if (traitsOf(motor).movedBy === "commands") return null;
  if (types.some(({ model }) => model !== motor.model))
    return `${thread.label} has motors of two kinds, which no one output drives. Fit motors of one kind.`;
  const boardId = options.boards[motor.model];
  const board = boardId ? findType(record, boardId) : undefined;
  if (!board) return `nothing is chosen that drives a ${motor.name.toLowerCase()}.`;
  const motors = thread.followers.length + 1;
  const each = drawOf(motor, board);
  const limit =
    board.outputs > 0 ? (board.figures.outputAmps?.value ?? Number.POSITIVE_INFINITY) : Number.POSITIVE_INFINITY;
  const room = boardRoom(board);
  const over = (what: string, draws: number, gives: number, does = "gives") =>
    `${count(motors, "motor")} ${motors === 1 ? "draws" : "draw"} ${amps(draws)} and ${what} ${does} ${amps(gives)}: ${amps(draws - gives)} too much.`;
  const onOne = each * motors <= limit + 1e-9;
  if (!onOne && (motors === 1 || !options.split)) return over(`an output of ${board.name}`, each * motors, limit);
  if (each > limit + 1e-9)
    return `each motor draws ${amps(each)} and an output of ${board.name} gives ${amps(limit)}: ${amps(each - limit)} too much.`;
  if (each * motors > room + 1e-9) return over(`${board.name}`, each * motors, room, "gives in all");
  const verdict = gate({ motor, driver: board });
  if (verdict.fits === "cannot") return `${board.name} cannot drive it: ${verdict.why}.`;
  if (traitsOf(board).gives === "pulse") {
    const most = firesTogether(motor, board);
    if (motors > most)
      return `${count(motors, "coil")} fire together, and one ${board.name.toLowerCase()} fires ${most}: ${motors - most} too many. Choose one for each motor.`;
  }
  return {
    ...{ turnout: thread.turnout, followers: thread.followers, label: thread.label, motor, board },
    zoneId: thread.turnout.zoneId,
    outputs: onOne ? 1 : motors,
    amps: each * motors,
  };
}

/** Volts that a board for coils is charged to by factory setting (common practice). */
const COIL_VOLTS = 18;

/** Amps that one motor draws of an output: while it moves or stalls, or at the peak of its pulse. */
export function drawOf(motor: DeviceType, board: DeviceType): number {
  if (traitsOf(motor).movedBy === "pulse")
    return board.drives === "coil" ? COIL_VOLTS / figureValue(motor, "coilOhms") : 0;
  return motor.figures.ratedAmps?.value ?? 0;
}

/** Amps of all outputs of a board together; coils are pulsed one after the other. */
export function boardRoom(board: DeviceType): number {
  if (board.drives === "coil") return Number.POSITIVE_INFINITY;
  return board.figures.boardAmps?.value ?? Number.POSITIVE_INFINITY;
}

/** Coils that one charge throws together, wire left out: stored energy shared alike. */
function firesTogether(motor: DeviceType, unit: DeviceType): number {
  const stored = (figureValue(unit, "farads") * usualChargeVolts() ** 2) / 2;
  return Math.floor(stored / figureValue(motor, "pulseJoules"));
}

/** The type of board for a kind of motor that a railway uses most, else the usual one. */
export function usualBoard(record: RailwayRecord, model: Model): string | null {
  const counts = new Map<string, number>();
  for (const thread of threadsOf(record)) {
    for (const { type, driver } of thread.motors)
      if (driver && type.model === model && driver.type.family === "driver")
        counts.set(driver.type.id, (counts.get(driver.type.id) ?? 0) + 1);
  }
  const [most] = [...counts].sort((a, b) => b[1] - a[1]);
  return most?.[0] ?? USUAL[model] ?? null;
}

const USUAL: Partial<Record<Model, string>> = {
  "stall-motor": "stall-decoder-8",
  "twin-coil": "cdu",
  servo: "servo-decoder-4",
};

/** What an allotment asks for when nothing else is said. */
export function usualOptions(record: RailwayRecord): AllotOptions {
  const models = Object.keys(USUAL) as Model[];
  return {
    turnoutIds: null,
    motor: null,
    boards: Object.fromEntries(
      models.flatMap((model) => (usualBoard(record, model) ? [[model, usualBoard(record, model)]] : [])),
    ),
    split: true,
    addresses: "runs",
    mostBoards: null,
  };
}

/** Label of a zone; empty for none. */
export function zoneLabel(record: RailwayRecord, zoneId: string | null): string {
  return zoneId === null ? "" : (find(record, "zone", zoneId)?.label ?? "");
}

/** The type of a device by its identifier. @throws {RecordError} when it is gone */
export function typeOfDevice(record: RailwayRecord, deviceId: string): DeviceType {
  const device = find(record, "device", deviceId);
  if (!device) throw recordError("A board of the proposal is not there any more. Ask for the proposal again.");
  return typeOf(record, device);
}
