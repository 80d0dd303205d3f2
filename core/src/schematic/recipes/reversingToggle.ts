import { traitsOf } from "../../catalogue/traits.ts";
import type { Joiner } from "../nets.ts";
import { controlsOf, type Thread } from "../thread.ts";
import { leads } from "./outputToMotor.ts";
import { outTerminals } from "./toggleToMotor.ts";

/**
 * A toggle of two poles exchanges plus and minus of a supply at a stall motor's leads: plus to 1N and 2R, minus to 1R
 * and 2N, the motor between the commons. Motors of a crossover follow one another on the same two leads.
 */
export function reversingToggle(thread: Thread, joiner: Joiner): void {
  const driver = thread.motors[0]?.driver;
  if (!driver || driver.way !== null) return;
  const id = thread.turnout.id;
  const [plus, minus] = outTerminals(driver);
  for (const { device, type, assignment } of controlsOf(thread)) {
    if (traitsOf(type).asks !== "poles") continue;
    const at = (terminal: string) => ({ deviceId: device.id, terminal });
    const [one, two] = assignment.inverse ? ["R", "N"] : ["N", "R"];
    joiner.join("dc-plus", id, [{ deviceId: driver.device.id, terminal: plus }, at(`1${one}`), at(`2${two}`)]);
    joiner.join("dc-zero", id, [{ deviceId: driver.device.id, terminal: minus }, at(`1${two}`), at(`2${one}`)]);
    for (const motor of thread.motors) {
      const [first, second] = leads(motor);
      joiner.join("to-normal", motor.turnout.id, [at("1C"), { deviceId: motor.device.id, terminal: first }]);
      joiner.join("to-reverse", motor.turnout.id, [at("2C"), { deviceId: motor.device.id, terminal: second }]);
    }
  }
}
