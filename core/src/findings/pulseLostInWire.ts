import { figureValue } from "../catalogue/catalogue.ts";
import { traitsOf } from "../catalogue/traits.ts";
import type { Pulse } from "../readings/pulse.ts";
import { stateFor } from "../readings/threadReading.ts";
import type { Position } from "../record/schemas.ts";
import { terminalName } from "../schematic/nets.ts";
import type { Thread, ThreadMotor } from "../schematic/thread.ts";
import { joules } from "../units/format.ts";
import { pulseWords } from "./pulseWords.ts";
import { layThicker } from "./remedies.ts";
import { type Look, POSITIONS, rule } from "./rule.ts";

/** Share of what is stored, lost in wires, from which they are to blame for a weak pulse (common practice). */
const BLAME_SHARE = 0.2;

/** A coil that gets less than this many times what it needs is worth a look: parts differ by a fifth (common practice). */
const FIRM = 1.3;

interface Lost {
  thread: Thread;
  motor: ThreadMotor;
  position: Position;
  pulse: Pulse;
  /** Energy lost in wires, joules, and its share of what was stored for the coils that share it. */
  wires: number;
  share: number;
  least: number;
  leastSeconds: number;
}

export const pulseLostInWire = rule<Lost>({
  id: "pulse-lost-in-wire",
  stage: "loom",
  column: "run",
  severity: ({ pulse, least, leastSeconds }) =>
    pulse.joules < least || pulse.secondsAboveHalf < leastSeconds ? "stop" : "look",
  title: "A coil gets too little because wires take the pulse",
  about:
    "A coil of a few ohms shares the pulse with the wire to it: 24 AWG has 0.084 ohm a metre, and the way is there and back. The rule follows each throw through time in the solved circuit, adds up the energy that is left in wires, and holds what the coil gets against the least that throws it firmly; it counts only while the current moves the slug, whose force goes with its square. A pulse that is strong enough may lose what it likes.",
  look: (look) =>
    look.inThreads("pulses lost", (thread) => thread.motors.flatMap((motor) => lostOf(look, thread, motor))),
  subject: ({ motor }) => motor.device.id,
  where: ({ motor }) => motor.device.label,
  terminals: ({ motor, position }) => [
    terminalName(motor.device.label, position),
    terminalName(motor.device.label, "C"),
  ],
  turnouts: ({ thread }) => [thread],
  why: ({ motor, position, pulse, wires, share, least }) =>
    `Thrown to ${position}, ${motor.device.label} gets ${pulseWords(pulse)}; a firm throw takes ${joules(least)}. Of the ${joules(pulse.stored)} stored${pulse.coils > 1 ? ` for ${pulse.coils} coils` : ""}, ${joules(wires)} are lost in wires: ${Math.round(share * 100)} %.`,
  remedies: (_, { record }) => [...layThicker(record, "cableGauge"), ...layThicker(record, "wireGauge")],
});

/** The throw in which a motor's coil gets least, when it gets too little for what wires take; empty when it gets enough. */
export function lostOf(look: Look, thread: Thread, motor: ThreadMotor): Lost[] {
  return look.remember(thread, `pulse lost ${motor.device.id}`, () => findLost(look, thread, motor));
}

function findLost({ circuitry }: Look, thread: Thread, motor: ThreadMotor): Lost[] {
  // a route shares its pulse among all of its coils, which is looked at for each of its buttons
  if (traitsOf(motor.type).movedBy !== "pulse" || !thread.control || thread.control.route) return [];
  const least = figureValue(motor.type, "pulseJoules");
  const leastSeconds = figureValue(motor.type, "pulseSeconds");
  const thrown = POSITIONS.flatMap((position): Lost[] => {
    const state = stateFor(thread, position, "throwing");
    const coil = motor.assignment.crossed ? (position === "N" ? "R" : "N") : position;
    const pulse = circuitry.pulse(motor.device.id, coil, state);
    if (!pulse) return [];
    if (pulse.joules >= least * FIRM && pulse.secondsAboveHalf >= leastSeconds) return [];
    const wires = [...pulse.wires.values()].reduce((sum, each) => sum + each, 0);
    // what would be too weak without any wire is not the wire's fault
    if (pulse.joules + wires / Math.max(1, pulse.coils) < least) return [];
    const share = wires / pulse.stored;
    return share > BLAME_SHARE ? [{ thread, motor, position, pulse, wires, share, least, leastSeconds }] : [];
  });
  return thrown.sort((a, b) => a.pulse.joules - b.pulse.joules).slice(0, 1);
}
