import { motorEnds, outputTerminals, type ThreadMotor, traitsOf } from "@alderman/core";
import { type DrawnEnd, drawnEnd } from "./wiring.ts";

/** Heights of an output's terminals, by how many there are. */
const OUTPUT_HEIGHTS: Record<number, readonly number[]> = { 2: [100, 136], 3: [92, 118, 144] };
/** Heights of a motor's terminals below its top. */
const MOTOR_HEIGHTS: Record<number, readonly number[]> = { 2: [9, 29], 3: [6, 19, 32] };
const MOTOR_PITCH = 66;

export const MOTOR_X = 476;

/** One wire from an output to the motors on it, as far as it reaches them. */
export interface OutputWire {
  terminal: DrawnEnd;
  /** Letter beside the terminal. */
  letter: string;
  y: number;
  /** Where it turns down or up to the first motor, and from there to the next. */
  turn: number;
  bus: number;
  /** Heights at the motors, null at one that it does not reach. */
  ends: (number | null)[];
}

/** The wires of a numbered output. @param from where the output's terminals stand */
export function outputWires(motors: readonly ThreadMotor[], from: number): OutputWire[] {
  const driver = motors[0]?.driver;
  if (!driver?.type.drives || driver.way === null) return [];
  const { drives } = driver.type;
  const terminals = outputTerminals(drives, driver.way);
  const room = MOTOR_X - from;
  const reach = motors.map((motor) => motorEnds(motor, drives));
  return terminals.map((terminal, index) => ({
    terminal: drawnEnd(driver, terminal),
    letter: terminal.replace(/^\d+/, ""),
    y: OUTPUT_HEIGHTS[terminals.length]?.[index] ?? 100,
    turn: from + room * (0.28 + 0.13 * index),
    bus: MOTOR_X - room * (0.18 + 0.13 * index),
    ends: motors.map((motor, at) => {
      const end = reach[at]?.[index];
      return end ? motorTop(at) + leadHeight(motor, end) : null;
    }),
  }));
}

/** Top of a motor's box, the first one uppermost. */
export function motorTop(index: number): number {
  return 68 + index * MOTOR_PITCH;
}

/** Terminals of a motor's winding, from above. */
export function windingTerminals({ type }: ThreadMotor): readonly string[] {
  switch (traitsOf(type).movedBy) {
    case "pulse":
      return ["N", "C", "R"];
    case "signal":
      return ["S", "+", "−"];
    case "commands":
      return ["J", "K"];
    default:
      return ["+", "−"];
  }
}

export function leadHeight(motor: ThreadMotor, terminal: string): number {
  const names = windingTerminals(motor);
  return MOTOR_HEIGHTS[names.length]?.[names.indexOf(terminal)] ?? 9;
}
