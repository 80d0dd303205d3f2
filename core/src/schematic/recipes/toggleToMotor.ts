import { traitsOf } from "../../catalogue/traits.ts";
import type { End, Joiner } from "../nets.ts";
import { controlsOf, type Fitted, type Thread, type ThreadMotor } from "../thread.ts";
import { asksBy, controlSides, switchesCurrent } from "./controlSides.ts";
import { joinThroughLock } from "./lockOut.ts";
import { powerTerminals } from "./supplyToBoard.ts";

/**
 * A toggle sends the driver's pulse to one coil or the other; the coils' common goes back to the driver.
 *
 * The driver is a discharge unit or a bare supply. Motors of a crossover hang on the one toggle, each coil beside its
 * like; with a unit of its own for each motor, all units feed the toggle and each motor's common goes back to its own.
 * A second toggle, labelled for the other line, lies beside the first with its sides exchanged. A stall motor put here
 * gets the normal side only, which is what such a wiring can give it. Beside the buttons of routes a toggle reaches the coils
 * past the diode board.
 */
export function toggleToMotor(thread: Thread, joiner: Joiner): void {
  const switched = thread.motors.filter(({ unit }) => unit !== null);
  const id = thread.turnout.id;
  const at = (deviceId: string, terminal: string): End => ({ deviceId, terminal });
  for (const control of controlsOf(thread)) {
    // the button of a route reaches coils through a diode board
    if (!switchesCurrent(control) || control.reader || control.route || switched.length === 0) continue;
    const sides = controlSides(control);
    const units = new Map(switched.flatMap(({ unit }) => (unit ? [[unit.device.id, unit]] : [])));
    for (const unit of units.values()) {
      const feed = at(unit.device.id, outTerminals(unit)[0]);
      joinThroughLock(control, joiner, "pulse-plus", id, feed, [feed, at(control.device.id, sides.common)]);
    }
    const normal = sides.N ?? sides.press;
    const coils = switched.filter((motor) => traitsOf(motor.type).movedBy === "pulse");
    // each motor for its own turnout, whose run its wires take
    for (const motor of normal ? switched : [])
      joiner.join("to-normal", motor.turnout.id, [at(control.device.id, normal ?? "N"), coilEnd(motor, "N")]);
    for (const motor of sides.R ? coils : [])
      joiner.join("to-reverse", motor.turnout.id, [at(control.device.id, sides.R ?? "R"), coilEnd(motor, "R")]);
  }
  if (asksBy(thread.control) === "poles") return;
  for (const motor of switched) {
    if (!motor.unit) continue;
    joiner.join("pulse-return", motor.turnout.id, [
      at(motor.unit.device.id, outTerminals(motor.unit)[1]),
      returnEnd(motor),
    ]);
  }
}

/** Terminals from which a discharge unit or a bare supply gives its current. */
export function outTerminals(unit: Fitted): [string, string] {
  return traitsOf(unit.type).gives === "pulse" ? ["+", "−"] : powerTerminals(unit);
}

function coilEnd({ device, type, assignment }: ThreadMotor, throwTo: "N" | "R"): End {
  if (traitsOf(type).movedBy !== "pulse") return { deviceId: device.id, terminal: assignment.crossed ? "−" : "+" };
  const other = throwTo === "N" ? "R" : "N";
  return { deviceId: device.id, terminal: assignment.crossed ? other : throwTo };
}

function returnEnd({ device, type, assignment }: ThreadMotor): End {
  if (traitsOf(type).movedBy !== "pulse") return { deviceId: device.id, terminal: assignment.crossed ? "+" : "−" };
  return { deviceId: device.id, terminal: "C" };
}
