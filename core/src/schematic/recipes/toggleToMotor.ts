import type { End, Joiner } from "../nets.ts";
import type { Thread, ThreadMotor } from "../thread.ts";
import { powerTerminals } from "./supplyToBoard.ts";

/**
 * A toggle sends the driver's pulse to one coil or the other; the coils' common goes back to the driver.
 *
 * The driver is a discharge unit or a bare supply. Motors of a crossover hang on the one toggle, each coil beside its
 * like. A stall motor put here gets the normal side only, which is what such a wiring can give it.
 */
export function toggleToMotor(thread: Thread, joiner: Joiner): void {
  const driver = thread.motors[0]?.driver;
  if (!driver || driver.type.outputs > 0) return;
  const switched = thread.motors.filter((motor) => motor.driver?.device.id === driver.device.id);
  const id = thread.turnout.id;
  const [plus, minus] = driver.type.model === "cdu" ? ["+", "−"] : powerTerminals(driver);
  const at = (deviceId: string, terminal: string): End => ({ deviceId, terminal });
  const control = thread.control?.device.id;

  if (control) {
    joiner.join("pulse-plus", id, [at(driver.device.id, plus), at(control, "C")]);
    joiner.join("to-normal", id, [at(control, "N"), ...switched.map((motor) => coilEnd(motor, "N"))]);
    const reverse = switched.filter((motor) => motor.type.model === "twin-coil");
    joiner.join("to-reverse", id, [at(control, "R"), ...reverse.map((motor) => coilEnd(motor, "R"))]);
  }
  for (const motor of switched) {
    joiner.join("pulse-return", motor.turnout.id, [at(driver.device.id, minus), returnEnd(motor)]);
  }
}

function coilEnd({ device, type, assignment }: ThreadMotor, throwTo: "N" | "R"): End {
  if (type.model === "stall-motor") return { deviceId: device.id, terminal: assignment.crossed ? "−" : "+" };
  const other = throwTo === "N" ? "R" : "N";
  return { deviceId: device.id, terminal: assignment.crossed ? other : throwTo };
}

function returnEnd({ device, type, assignment }: ThreadMotor): End {
  if (type.model === "stall-motor") return { deviceId: device.id, terminal: assignment.crossed ? "+" : "−" };
  return { deviceId: device.id, terminal: "C" };
}
