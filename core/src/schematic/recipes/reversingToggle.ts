import type { Joiner } from "../nets.ts";
import { controlsOf, type Thread } from "../thread.ts";
import { asksBy } from "./controlSides.ts";
import { joinThroughLock } from "./lockOut.ts";
import { leads } from "./outputToMotor.ts";
import { outTerminals } from "./toggleToMotor.ts";

/**
 * A toggle of two poles exchanges plus and minus of a supply at a stall motor's leads: plus to 1N and 2R, minus to 1R
 * and 2N, the motor between the commons. Motors of a crossover follow one another on the same two leads. A toggle is fed
 * alike whatever it commands: one that is labelled for the other line has its commons exchanged.
 */
export function reversingToggle(thread: Thread, joiner: Joiner): void {
  const driver = thread.motors[0]?.driver;
  if (!driver || driver.way !== null) return;
  const id = thread.turnout.id;
  const [plus, minus] = outTerminals(driver);
  for (const control of controlsOf(thread)) {
    if (asksBy(control) !== "poles") continue;
    const { device, assignment } = control;
    const at = (terminal: string) => ({ deviceId: device.id, terminal });
    const feed = { deviceId: driver.device.id, terminal: plus };
    joinThroughLock(control, joiner, "dc-plus", id, feed, [feed, at("1N"), at("2R")]);
    joiner.join("dc-zero", id, [{ deviceId: driver.device.id, terminal: minus }, at("1R"), at("2N")]);
    const [normal, reverse] = assignment.inverse ? ["2C", "1C"] : ["1C", "2C"];
    for (const motor of thread.motors) {
      const [first, second] = leads(motor);
      joiner.join("to-normal", motor.turnout.id, [at(normal), { deviceId: motor.device.id, terminal: first }]);
      joiner.join("to-reverse", motor.turnout.id, [at(reverse), { deviceId: motor.device.id, terminal: second }]);
    }
  }
}
