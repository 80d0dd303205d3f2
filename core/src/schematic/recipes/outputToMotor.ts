import type { OutputKind } from "../../catalogue/deviceType.ts";
import { traitsOf } from "../../catalogue/traits.ts";
import type { Purpose } from "../../record/purposes.ts";
import type { Joiner } from "../nets.ts";
import type { Thread, ThreadMotor } from "../thread.ts";

/** Wires from an output, by what it gives: letter of the output's terminal and what the wire is for. */
const WIRES: Partial<Record<OutputKind, readonly (readonly [string, Purpose])[]>> = {
  pair: [
    ["A", "to-normal"],
    ["B", "to-reverse"],
  ],
  coil: [
    ["N", "to-normal"],
    ["C", "pulse-plus"],
    ["R", "to-reverse"],
  ],
  matrix: [
    ["N", "to-normal"],
    ["R", "to-reverse"],
  ],
  servo: [
    ["S", "servo-signal"],
    ["+", "dc-plus"],
    ["−", "dc-zero"],
  ],
};

/**
 * A numbered output drives a motor; motors of a crossover follow one another on the same output.
 *
 * Motors of another kind than the output is made for are joined as far as their terminals go: a twin-coil motor on a pair
 * has both coils in series across it, a stall motor on a coil output lies between the two coil ends. A servo fits a servo
 * output only.
 */
export function outputToMotor(thread: Thread, joiner: Joiner): void {
  for (const motor of thread.motors) {
    const { driver } = motor;
    if (!driver || driver.way === null || !driver.type.drives) continue;
    const ends = motorEnds(motor, driver.type.drives);
    for (const [index, [letter, purpose]] of (WIRES[driver.type.drives] ?? []).entries()) {
      const terminal = ends[index];
      if (!terminal) continue;
      joiner.join(purpose, motor.turnout.id, [
        { deviceId: driver.device.id, terminal: `${driver.way}${letter}` },
        { deviceId: motor.device.id, terminal },
      ]);
    }
  }
}

/** A motor's terminals for an output's, in the order of the output's; null where it has none. */
export function motorEnds(motor: ThreadMotor, kind: OutputKind): readonly (string | null)[] {
  if ((traitsOf(motor.type).movedBy === "signal") !== (kind === "servo") || kind === "contact" || kind === "sink")
    return [];
  if (kind === "servo") return ["S", "+", "−"];
  const [first, second] = leads(motor);
  // a diode board gives one coil or the other its pulse; what has no coils cannot use it
  if (kind === "matrix" && traitsOf(motor.type).movedBy !== "pulse") return [];
  if (kind === "pair" || kind === "matrix") return [first, second];
  return traitsOf(motor.type).movedBy === "pulse" ? [first, "C", second] : [first, null, second];
}

/** A motor's two leads, the one for the output's A side first. */
export function leads({ type, assignment }: ThreadMotor): [string, string] {
  const [a, b]: [string, string] = traitsOf(type).movedBy === "pulse" ? ["N", "R"] : ["+", "−"];
  return assignment.crossed ? [b, a] : [a, b];
}

/** Names of the terminals of an output. */
export function outputTerminals(kind: OutputKind, way: number): string[] {
  return (WIRES[kind] ?? []).map(([letter]) => `${way}${letter}`);
}
