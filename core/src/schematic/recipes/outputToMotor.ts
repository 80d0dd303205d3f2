import type { Joiner } from "../nets.ts";
import type { Thread, ThreadMotor } from "../thread.ts";

/**
 * A numbered decoder output drives a motor by its two leads; motors of a crossover follow one another on the same pair.
 *
 * A twin-coil motor put here has its two coil ends on the pair, and so both coils in series.
 */
export function outputToMotor(thread: Thread, joiner: Joiner): void {
  for (const motor of thread.motors) {
    const { driver } = motor;
    if (!driver || driver.way === null) continue;
    const [first, second] = leads(motor);
    for (const [purpose, letter, terminal] of [
      ["to-normal", "A", first],
      ["to-reverse", "B", second],
    ] as const) {
      joiner.join(purpose, motor.turnout.id, [
        { deviceId: driver.device.id, terminal: `${driver.way}${letter}` },
        { deviceId: motor.device.id, terminal },
      ]);
    }
  }
}

/** A motor's two leads, the one for the output's A side first. */
export function leads({ type, assignment }: ThreadMotor): [string, string] {
  const [a, b]: [string, string] = type.model === "twin-coil" ? ["N", "R"] : ["+", "−"];
  return assignment.crossed ? [b, a] : [a, b];
}
