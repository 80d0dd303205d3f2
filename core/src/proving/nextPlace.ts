import { traitsOf } from "../catalogue/traits.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { Reading } from "../record/schemas.ts";
import { terminalName } from "../schematic/nets.ts";
import { asksBy, controlSides } from "../schematic/recipes/controlSides.ts";
import { heardAt } from "../schematic/recipes/controlToInputs.ts";
import { motorEnds, outputTerminals } from "../schematic/recipes/outputToMotor.ts";
import { powerTerminals } from "../schematic/recipes/supplyToBoard.ts";
import { outTerminals } from "../schematic/recipes/toggleToMotor.ts";
import { controlsOf, type Fitted, supplyOf, type Thread } from "../schematic/thread.ts";

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
    ...lampLists(record, thread),
    ...frogLists(record, thread),
  ];
}

/**
 * The next place to measure in a list when a reading disagrees: half-way between the last place that agreed and the first
 * that did not.
 * @param standing what was read at a place: true when it agreed, false when not, null when it was not read
 * @returns the place; or the two places between which the fault lies; or null when nothing in the list disagrees
 */
export function nextPlace(
  points: readonly MeasuringPoint[],
  standing: (point: MeasuringPoint) => boolean | null,
): { measure: MeasuringPoint } | { between: [MeasuringPoint | null, MeasuringPoint] } | null {
  const read = points.map(standing);
  const bad = read.indexOf(false);
  const worst = points[bad];
  if (!worst) return null;
  const good = read.lastIndexOf(true, bad);
  const middle = points[good + Math.ceil((bad - good) / 2)];
  if (bad - good <= 1 || !middle) return { between: [points[good] ?? null, worst] };
  return { measure: middle };
}

/** Whether a kept reading agreed at a place, the latest one in the given state; null when none was taken. */
export function standingAt(
  readings: readonly Reading[],
  point: MeasuringPoint,
  state: Pick<Reading, "turnoutId" | "position" | "moment">,
): boolean | null {
  const taken = readings.filter(
    ({ red, black, range, turnoutId, position, moment }) =>
      range === "V" &&
      turnoutId === state.turnoutId &&
      position === state.position &&
      moment === state.moment &&
      ((red === point.red && black === point.black) || (red === point.black && black === point.red)),
  );
  const latest = taken.sort((a, b) => (a.at < b.at ? -1 : 1)).at(-1);
  return latest?.agrees ?? null;
}

function point(one: Fitted, red: string, other: Fitted, black: string): MeasuringPoint {
  return {
    red: `${one.device.id}:${red}`,
    black: `${other.device.id}:${black}`,
    redName: terminalName(one.device.label, red),
    blackName: terminalName(other.device.label, black),
  };
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
      const atControl = control && sides && !reversing ? [point(control, sides.common, driver, minus)] : [];
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

function lampLists(record: RailwayRecord, { lamp }: Thread): MeasuringPoint[][] {
  const supply = lamp && supplyOf(record, lamp.device.id);
  const leads = lamp?.type.leads;
  if (!lamp || !supply || !leads) return [];
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
