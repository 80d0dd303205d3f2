import { traitsOf } from "../catalogue/traits.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { Reading } from "../record/schemas.ts";
import { terminalName } from "../schematic/nets.ts";
import { asksBy, controlSides } from "../schematic/recipes/controlSides.ts";
import { heardAt } from "../schematic/recipes/controlToInputs.ts";
import { isCut } from "../schematic/recipes/lockOut.ts";
import { motorEnds, outputTerminals } from "../schematic/recipes/outputToMotor.ts";
import { powerTerminals } from "../schematic/recipes/supplyToBoard.ts";
import { outTerminals } from "../schematic/recipes/toggleToMotor.ts";
import { controlsOf, type Fitted, supplyOf, type Thread, type ThreadLamp } from "../schematic/thread.ts";
import { type Sign, signOf } from "./signs.ts";

/** Two terminals between which volts tell whether everything before them is in order. */
export interface MeasuringPoint {
  red: string;
  black: string;
  redName: string;
  blackName: string;
}

/**
 * Where to measure along a thread, each list from its supply to its end: power to the motors, the control at its board,
 * the lamp, each frog. A fault lies after the last point of a list that agrees and before the first that does not.
 */
export function measuringPoints(record: RailwayRecord, thread: Thread): MeasuringPoint[][] {
  return [
    ...powerLists(record, thread),
    ...controlLists(record, thread),
    ...thread.lamps.flatMap((lamp) => lampLists(record, lamp)),
    ...frogLists(record, thread),
  ];
}

/** What is wrong, by the signs of what was read, and where. */
export interface Fault {
  kind: /** Nothing arrives at the second place, and what comes before it has no load. */
    | "open"
    /** Nothing arrives: the way there is open, or something behind it is a short. */
    | "open-or-short"
    /** Too few volts: lost on the way there, or taken by something behind it. */
    | "loss-or-overload"
    /** Plus and minus have changed places on the way there. */
    | "exchanged"
    /** Too many volts to the very end: the last thing takes no current. */
    | "no-load";
  /** The last place that is in order, null when there is none, and the first that is not. */
  between: [MeasuringPoint | null, MeasuringPoint];
}

/**
 * The next place to measure in a list when a reading disagrees: half-way between the last place up to which the way is
 * whole and the first where it is not. Where there are too many volts the way is whole, and what should load it is missing
 * further on.
 * @param standing the sign of what was read at a place; null when it was not read
 * @returns the place; or the fault, when two places beside each other say it; or null when nothing in the list disagrees
 */
export function nextPlace(
  points: readonly MeasuringPoint[],
  standing: (point: MeasuringPoint) => Sign | null,
): { measure: MeasuringPoint } | { fault: Fault } | null {
  const read = points.map(standing);
  const isWhole = (sign: Sign | null | undefined) => sign === "agrees" || sign === "over";
  if (read.every((sign) => sign === null || sign === "agrees")) return null;
  const bad = read.findIndex((sign) => sign !== null && !isWhole(sign));
  const good = read.findLastIndex((sign, index) => isWhole(sign) && (bad < 0 || index < bad));
  const end = bad < 0 ? points.length : bad;
  const middle = points[good + Math.ceil((end - good) / 2)];
  const last = points[bad < 0 ? good : bad];
  if (!last) return null;
  if (end - good > 1 && middle && middle !== last) return { measure: middle };
  if (bad < 0) return { fault: { kind: "no-load", between: [points[good - 1] ?? null, last] } };
  const kind = kindOf(read[bad] ?? "zero", read[good] ?? null);
  return { fault: { kind, between: [points[good] ?? null, last] } };
}

function kindOf(bad: Sign, before: Sign | null): Fault["kind"] {
  if (bad === "reversed") return "exchanged";
  if (bad === "under") return "loss-or-overload";
  // too many volts before it say that nothing behind takes any current
  return before === "over" ? "open" : "open-or-short";
}

/** The sign of the latest kept reading at a place in the given state; null when none was taken. */
export function standingAt(
  readings: readonly Reading[],
  point: MeasuringPoint,
  state: Pick<Reading, "turnoutId" | "position" | "moment">,
): Sign | null {
  const taken = readings.filter(
    ({ red, black, range, turnoutId, position, moment }) =>
      range === "V" &&
      turnoutId === state.turnoutId &&
      position === state.position &&
      moment === state.moment &&
      ((red === point.red && black === point.black) || (red === point.black && black === point.red)),
  );
  const latest = taken.sort((a, b) => (a.at < b.at ? -1 : 1)).at(-1);
  return latest ? signOf(latest) : null;
}

function point(one: Fitted, red: string, other: Fitted, black: string): MeasuringPoint {
  return {
    red: `${one.device.id}:${red}`,
    black: `${other.device.id}:${black}`,
    redName: terminalName(one.device.label, red),
    blackName: terminalName(other.device.label, black),
  };
}

/** Where a fault lies and what it may be, in a sentence or two. */
export function faultWords({ kind, between: [good, bad] }: Fault): string {
  const where = good ? `between ${good.redName} and ${bad.redName}` : `at ${bad.redName} or before it`;
  switch (kind) {
    case "open":
      return `The way is open ${where}: too many volts before it, none after it.`;
    case "open-or-short":
      return `The way is open ${where}, or something behind ${bad.redName} is a short. Take the lead off there: if the volts come back, look behind it.`;
    case "loss-or-overload":
      return `Volts are lost ${where}: a joint there is bad, or open and only leaks, or something behind ${bad.redName} takes too much. Take the lead off there: if the volts come back, look behind it.`;
    case "exchanged":
      return `Two leads are exchanged ${where}, or a common return there is open.`;
    case "no-load":
      return `The volts arrive at ${bad.redName} and nothing takes them: it is open inside, or still moves.`;
  }
}

const pair = (fitted: Fitted, [plus, minus]: readonly [string, string]) => point(fitted, plus, fitted, minus);

function powerLists(record: RailwayRecord, thread: Thread): MeasuringPoint[][] {
  const driver = thread.motors[0]?.driver;
  if (!driver) return [];
  const supply = supplyOf(record, driver.device.id);
  const fed = supply ? [pair(supply, powerTerminals(supply)), pair(driver, powerTerminals(driver))] : [];
  return thread.motors.map((motor): MeasuringPoint[] => {
    if (driver.way === null) {
      const [plus, minus] = outTerminals(driver);
      const { control } = thread;
      const sides = control && controlSides(control);
      const reversing = asksBy(control) === "poles";
      const fedAt = reversing ? "1N" : sides?.common;
      const lock = control && isCut(control) ? control.lock : null;
      const atLock = lock ? [point(lock, lock.way === null ? "C" : `S${lock.way}c`, driver, minus)] : [];
      const atControl = control && fedAt ? [...atLock, point(control, fedAt, driver, minus)] : [];
      const atMotor =
        traitsOf(motor.type).movedBy === "pulse" ? [point(motor, "N", motor, "C")] : [pair(motor, ["+", "−"])];
      return [...fed, pair(driver, [plus, minus]), ...atControl, ...atMotor];
    }
    const { drives } = driver.type;
    if (!drives) return fed;
    // a servo's power, any other motor's two leads
    const [a, b] = drives === "servo" ? [1, 2] : [0, drives === "coil" ? 2 : 1];
    const out = outputTerminals(drives, driver.way);
    const ends = motorEnds(motor, drives);
    const atOutput = out[a] && out[b] ? [pair(driver, [out[a], out[b]])] : [];
    const atMotor = ends[a] && ends[b] ? [pair(motor, [ends[a], ends[b]])] : [];
    return [...fed, ...atOutput, ...atMotor];
  });
}

function controlLists(record: RailwayRecord, thread: Thread): MeasuringPoint[][] {
  return controlsOf(thread).flatMap((control): MeasuringPoint[][] => {
    const heard = heardAt(thread, control);
    if (!heard) return [];
    const { board, common } = heard;
    const supply = supplyOf(record, board.device.id);
    const sides = controlSides(control);
    const side = sides.N ?? sides.R ?? sides.press;
    const input = sides.N ? heard.N : sides.R ? heard.R : heard.press;
    return [
      [
        ...(supply ? [pair(supply, powerTerminals(supply)), pair(board, powerTerminals(board))] : []),
        pair(board, [input, common]),
        ...(side ? [point(control, side, control, sides.common)] : []),
      ],
    ];
  });
}

function lampLists(record: RailwayRecord, lamp: ThreadLamp): MeasuringPoint[][] {
  const supply = supplyOf(record, lamp.device.id);
  const { leads } = lamp.type;
  if (!supply || !leads) return [];
  const [plus, minus] = powerTerminals(supply);
  const back = lamp.type.commonPlus ? plus : minus;
  const set = `S${lamp.assignment.way ?? 1}`;
  const { from } = lamp;
  return (["n", "r"] as const).map((end, index) => [
    pair(supply, [plus, minus]),
    point(from, `${set}c`, supply, back),
    point(from, `${set}${end}`, supply, back),
    point(lamp, leads[index as 0 | 1], lamp, leads[2]),
  ]);
}

function frogLists(record: RailwayRecord, { frogs }: Thread): MeasuringPoint[][] {
  return frogs.flatMap((frog): MeasuringPoint[][] => {
    const supply = supplyOf(record, frog.device.id);
    const { from, assignment } = frog;
    if (!supply) return [];
    const set = `S${assignment.way ?? 1}`;
    const atSource = from && from.type.contactSets > 0 ? [pair(from, [`${set}n`, `${set}r`])] : [];
    return [[pair(supply, powerTerminals(supply)), pair(frog, ["L", "R"]), ...atSource, pair(frog, ["F", "L"])]];
  });
}
