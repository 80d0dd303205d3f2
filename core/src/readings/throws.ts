import type { DeviceType } from "../catalogue/deviceType.ts";
import { traitsOf } from "../catalogue/traits.ts";
import type { Position } from "../record/schemas.ts";
import { asksBy } from "../schematic/recipes/controlSides.ts";
import type { Fitted, Thread, ThreadMotor } from "../schematic/thread.ts";
import type { Throw } from "./piece.ts";
import type { Pulse } from "./pulse.ts";
import type { Solver } from "./solver.ts";
import { PRESSED, type RailwayState, RESTING, turnedIf } from "./states.ts";

/** How a motor is thrown. */
interface Thrown {
  asked: Position;
  /** The control that asks, by its assignment; the turnout's first when undefined. */
  by: string | undefined;
  /** Its mounting, linkage or setting makes the blades go the other way. */
  turned: boolean;
}

/**
 * Where a motor goes when its turnout is thrown: a coil by the energy and length of its pulse, others by the volts that
 * move and hold them; null when they are too few.
 */
export function thrownTo(solver: Solver, motor: ThreadMotor, thread: Thread, thrown: Thrown): Throw {
  const { asked, by } = thrown;
  const leader = thread.turnout.id;
  const id = motor.device.id;
  const least = motor.type.figures.leastVolts?.value ?? 0;
  const lying = (position: Position | null) => position && turnedIf(thrown.turned, position);
  const state: RailwayState = { asked: { [leader]: asked }, ...PRESSED, acting: leader, ...(by ? { by } : {}) };
  switch (traitsOf(motor.type).movedBy) {
    case "commands": {
      const moves = Math.abs(solver.volts(`${id}:J`, `${id}:K`, RESTING) ?? 0) >= least;
      return { to: lying(moves ? asked : null), live: null };
    }
    case "signal":
      return { to: lying(servoGoesTo(solver, motor, state)), live: null };
    case "reversal": {
      // one that its control lets go of again runs while it is held
      const sprung = asksBy(thread.control) === "poles" && !thread.control?.type.maintained;
      const all: RailwayState = { ...RESTING, otherwise: asked, asked: { [leader]: asked } };
      const volts = solver.volts(`${id}:+`, `${id}:−`, by || sprung ? state : all) ?? 0;
      return { to: lying(Math.abs(volts) < least ? null : volts > 0 ? "N" : "R"), live: null };
    }
    default:
      return { to: lying(pulsedTo(solver, motor, state)), live: solver.liveIn(`${id}.N`, state) };
  }
}

/** The side of the one coil that gets a firm pulse; null when none does, or both. */
function pulsedTo(solver: Solver, { device, type }: ThreadMotor, state: RailwayState): Position | null {
  const joules = (coil: Position) => {
    const pulse = solver.pulse(device.id, coil, state);
    return pulse && isFirm(pulse, type) ? pulse.joules : 0;
  };
  const [normal, reverse] = [joules("N"), joules("R")];
  if (normal === reverse || Math.min(normal, reverse) > 0) return null;
  return normal > reverse ? "N" : "R";
}

/** A servo goes by the width of its pulses, which their average volts tell, when it has its 5 V; null when it does not move. */
export function servoGoesTo(
  solver: Solver,
  { device, type, driver }: Fitted & { driver: Fitted | null },
  state: RailwayState,
): Position | null {
  const { signalVolts, frameSeconds, normalSeconds, reverseSeconds } = driver?.type.figures ?? {};
  if (!signalVolts || !frameSeconds || !normalSeconds || !reverseSeconds) return null;
  const power = solver.volts(`${device.id}:+`, `${device.id}:−`, state) ?? 0;
  if (power < (type.figures.leastVolts?.value ?? 0)) return null;
  const width =
    ((solver.volts(`${device.id}:S`, `${device.id}:−`, state) ?? 0) / signalVolts.value) * frameSeconds.value;
  if (width < SHORTEST_PULSE) return null;
  return Math.abs(width - normalSeconds.value) < Math.abs(width - reverseSeconds.value) ? "N" : "R";
}

/** The part of a motor that moves it. */
export function windingOf({ type }: Pick<ThreadMotor, "type">): string {
  return traitsOf(type).movedBy === "pulse" ? "N" : "motor";
}

/** Pulses shorter than this move no servo, seconds (common practice: 0.5 to 2.5 ms do). */
const SHORTEST_PULSE = 0.0004;
/** Whether a pulse throws a motor of a type for certain: enough energy, and long enough (both figures of the type). */
function isFirm(pulse: Pulse, type: DeviceType): boolean {
  const { pulseJoules, pulseSeconds } = type.figures;
  return pulse.joules >= (pulseJoules?.value ?? 0) && pulse.secondsAboveHalf >= (pulseSeconds?.value ?? 0);
}
