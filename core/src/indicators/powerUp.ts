import { typeOf } from "../catalogue/catalogue.ts";
import type { DeviceType, PowerOn } from "../catalogue/deviceType.ts";
import { type Gives, traitsOf } from "../catalogue/traits.ts";
import type { SupplyLoad } from "../hands/supplyLoads.ts";
import { actedOnByStation } from "../numbers/feedback.ts";
import { deviceOf, feederOf } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { Device } from "../record/schemas.ts";
import { heardAt } from "../schematic/recipes/controlToInputs.ts";
import { controlsOf, supplyOf, type Thread, type ThreadMotor } from "../schematic/thread.ts";
import { list } from "../units/format.ts";

/** What one device does when power, track power or a computer comes back, and when it is reset. */
export interface PowerUpRow {
  deviceId: string;
  label: string;
  what: string;
  /** After power has been off and on. */
  power: string;
  /** After a short on the track. */
  short: string;
  /** After a reset of the device. */
  reset: string;
  /** After the computer or command station was started again. */
  computer: string;
  /** Labels of turnouts that move by themselves when power returns. */
  moves: string[];
  /** Labels of lamps that are dark or may be wrong until the first command. */
  lamps: string[];
}

const AFTER_POWER: Record<PowerOn, string> = {
  stays: "as it was",
  normal: "throws to normal",
  off: "off until told",
};

/** A reverser that throws no turnout. */
const REVERSES_ONLY = "joins the loop as drawn until a train comes";

/** State of each device that has one after power, a short, a reset or a restart, and what moves by itself. */
export function powerUpTable(record: RailwayRecord, threads: readonly Thread[]): PowerUpRow[] {
  return record.devices.flatMap((device) => {
    const type = typeOf(record, device);
    const row = rowOf(record, threads, device, type);
    return row ? [row] : [];
  });
}

function rowOf(record: RailwayRecord, threads: readonly Thread[], device: Device, type: DeviceType): PowerUpRow | null {
  const base = { deviceId: device.id, label: device.label, what: type.name, moves: [], lamps: [] };
  if (traitsOf(type).gives === "pulse") {
    const charged = "empty; charges in a second or two";
    return { ...base, power: charged, short: "as it was", reset: "none", computer: "as it was" };
  }
  if ((type.settings ?? []).some(({ isStart }) => isStart)) return encoderRow(record, threads, device, base);
  if (!type.powerOn) return maintainedRow(threads, device, type, base);
  const driven = threads.filter(({ motors }) => motors.some((motor) => isOn(motor, device.id)));
  const fedByTrack = type.hears === "track" && supplyGives(record, device.id) === "track";
  const power = traitsOf(type).inTrack === "reverser" && type.outputs === 0 ? REVERSES_ONLY : AFTER_POWER[type.powerOn];
  const moves = type.powerOn === "normal" ? driven.map(({ label }) => label) : thrownMeanwhile(driven);
  const follows = moves.length > 0 && type.powerOn !== "normal" ? ", then as its toggles stand" : "";
  const settings = (type.settings ?? []).map(({ name, factory }) => `${name} ${factory}`);
  return {
    ...base,
    power: `${power}${follows}${twitchWords(driven, device.id)}`,
    short: shortWords(type, fedByTrack, power),
    reset: settings.length > 0 ? `factory: ${settings.slice(0, 3).join(", ")}` : "none",
    computer: type.hears === "bus" ? "as it was, until the first event" : "as it was",
    moves,
    lamps: type.powerOn === "off" ? lampsOn(threads, device.id) : [],
  };
}

/** Most servos move for an instant when their power comes before their pulses do (common practice). */
function twitchWords(driven: readonly Thread[], deviceId: string): string {
  const hasServo = driven.some(({ motors }) =>
    motors.some((motor) => motor.driver?.device.id === deviceId && traitsOf(motor.type).movedBy === "signal"),
  );
  return hasServo ? "; its servos may twitch until their pulses come" : "";
}

/** An encoder only tells: what follows from it is done by the command station, or by a computer that must run. */
function encoderRow(
  record: RailwayRecord,
  threads: readonly Thread[],
  device: Device,
  base: Pick<PowerUpRow, "deviceId" | "label" | "what" | "moves" | "lamps">,
): PowerUpRow {
  const heard = threads.filter((thread) => controlsOf(thread).some(({ reader }) => reader?.device.id === device.id));
  const dead = heard.length === 0 ? "" : `; until then the panel is dead for ${list(heard.map(({ label }) => label))}`;
  const who = actedOnByStation(record, device.id)
    ? "the command station acts on it again"
    : "the program acts on it again";
  return {
    ...base,
    power: "tells what stands at its inputs",
    short: "as it was",
    reset: "factory: start number 1",
    computer: `${who}${dead}`,
  };
}

/** Only what lives on the track feels a short there: by its power, or by the commands that do not come. */
function shortWords(type: DeviceType, fedByTrack: boolean, power: string): string {
  if (fedByTrack) return `${power}: the short takes its power`;
  return type.hears === "track" ? "as it was; hears nothing while it lasts" : "as it was";
}

/** Turnouts whose toggle stays put and is read by the board: thrown while the power was off, they move when it returns. */
function thrownMeanwhile(driven: readonly Thread[]): string[] {
  return driven
    .filter((thread) => controlsOf(thread).some((each) => each.type.maintained && heardAt(thread, each)))
    .map(({ label }) => label);
}

/** A control that stays put and switches a stall motor itself: the motor goes where the toggle stands. */
function maintainedRow(
  threads: readonly Thread[],
  device: Device,
  type: DeviceType,
  base: Pick<PowerUpRow, "deviceId" | "label" | "what" | "moves" | "lamps">,
): PowerUpRow | null {
  if (!type.maintained || type.family !== "control") return null;
  const moves = threads
    .filter((thread) => controlsOf(thread).some((each) => each.device.id === device.id && !heardAt(thread, each)))
    .filter(({ motors }) => motors.some(({ type: motor }) => traitsOf(motor).movedBy === "reversal"))
    .map(({ label }) => label);
  const words = moves.length > 0 ? "as it stands: thrown meanwhile, the motor follows" : "as it stands";
  return { ...base, power: words, short: "as it stands", reset: "none", computer: "as it stands", moves };
}

function isOn({ driver, device }: ThreadMotor, deviceId: string): boolean {
  return driver?.device.id === deviceId || device.id === deviceId;
}

function supplyGives(record: RailwayRecord, deviceId: string): Gives | null {
  return traitsOf(supplyOf(record, deviceId)?.type).gives;
}

function lampsOn(threads: readonly Thread[], deviceId: string): string[] {
  return threads.flatMap(({ lamps }) =>
    lamps.flatMap(({ from, device }) => (from.device.id === deviceId ? [device.label] : [])),
  );
}

/** How a start of day brings the turnouts on one supply to a known state without asking too much of it. */
export interface StartOfDay {
  label: string;
  turnouts: number;
  /** Motors that may move at once. */
  atOnce: number;
  seconds: number;
}

/** Share of a supply's rating that a start of day may use. */
const SHARE = 0.8;
/** Time constants in which a discharge unit counts as charged again: to 95 %. */
const TIME_CONSTANTS = 3;
/** Time for which a motor is given to move whose type does not say, seconds (common practice). */
const MOVE_SECONDS = 3;

/** A motor on its way: what it takes, and for how long. */
interface Move {
  amps: number;
  seconds: number;
}

/**
 * How long it takes to set every turnout anew, supply by supply: each motor with its own time and current, as many at once
 * as leave a fifth of the supply's rating; coils wait for their unit to charge again, once for those thrown together.
 */
export function startOfDay(
  record: RailwayRecord,
  threads: readonly Thread[],
  loads: readonly SupplyLoad[],
): StartOfDay[] {
  const pulsed = new Map<string, StartOfDay>();
  const moves = new Map<string, Move[]>();
  for (const { motors } of threads) {
    const fired = new Set<string>();
    for (const { type, driver, device } of motors) {
      const source = driver?.device.id ?? device.id;
      const farads = driver?.type.figures.farads?.value;
      if (farads) {
        const label = deviceOf(record, source).label;
        const row = pulsed.get(source) ?? { label, turnouts: 0, atOnce: 1, seconds: 0 };
        pulsed.set(source, row);
        row.turnouts++;
        if (!fired.has(source)) row.seconds += TIME_CONSTANTS * farads * (driver?.type.figures.chargeOhms?.value ?? 0);
        fired.add(source);
        continue;
      }
      const supplyId = supplyIdOf(record, source);
      moves.set(supplyId, [...(moves.get(supplyId) ?? []), moveOf(record, supplyId, type)]);
    }
  }
  const moving = [...moves].map(([id, all]): StartOfDay => {
    const rated = typeOf(record, deviceOf(record, id)).figures.ratedAmps?.value ?? Number.POSITIVE_INFINITY;
    const rest = loads.find(({ deviceId }) => deviceId === id)?.rest ?? 0;
    return { label: deviceOf(record, id).label, turnouts: all.length, ...staggered(all, rated * SHARE - rest) };
  });
  return [...pulsed.values(), ...moving];
}

/** What a motor takes on its way: by its leaflet, or by what it is while it moves. */
function moveOf(record: RailwayRecord, supplyId: string, { figures, model }: DeviceType): Move {
  const volts = typeOf(record, deviceOf(record, supplyId)).figures.volts?.value ?? 0;
  const byOhms = figures.movingOhms ? volts / figures.movingOhms.value : 0;
  const amps = model === "servo" ? (figures.ratedAmps?.value ?? byOhms) : byOhms;
  return { amps, seconds: figures.moveSeconds?.value ?? MOVE_SECONDS };
}

/** The moves one after the other as the current allows; one that asks more than there is moves alone. */
function staggered(moves: readonly Move[], amps: number): { atOnce: number; seconds: number } {
  let under: { amps: number; until: number }[] = [];
  let [now, atOnce] = [0, 0];
  const taken = () => under.reduce((sum, each) => sum + each.amps, 0);
  for (const move of moves) {
    while (under.length > 0 && taken() + move.amps > amps) {
      now = Math.min(...under.map(({ until }) => until));
      under = under.filter(({ until }) => until > now);
    }
    under.push({ amps: move.amps, until: now + move.seconds });
    atOnce = Math.max(atOnce, under.length);
  }
  return { atOnce, seconds: Math.max(0, ...under.map(({ until }) => until)) };
}

function supplyIdOf(record: RailwayRecord, deviceId: string): string {
  return feederOf(record, deviceId, "supply") ?? deviceId;
}

/** What moves by itself when power returns, in one sentence. */
export function movesWords(rows: readonly PowerUpRow[]): string {
  const moving = [...new Set(rows.flatMap(({ moves }) => moves))];
  if (moving.length === 0) return "Nothing moves by itself when power returns.";
  return `${list(moving.slice(0, 12))}${moving.length > 12 ? ` and ${moving.length - 12} more` : ""} may move by ${moving.length === 1 ? "itself" : "themselves"} when power returns: look before you switch on.`;
}
