import { figureValue } from "../catalogue/catalogue.ts";
import { traitsOf } from "../catalogue/traits.ts";
import type { Pulse } from "../readings/pulse.ts";
import { stateFor } from "../readings/threadReading.ts";
import type { Position } from "../record/schemas.ts";
import { terminalName } from "../schematic/nets.ts";
import type { Thread, ThreadMotor } from "../schematic/thread.ts";
import { joules, milliseconds } from "../units/format.ts";
import { layThicker } from "./remedies.ts";
import { POSITIONS, rule } from "./rule.ts";

/** Share of a pulse lost in wires from which it is worth a look (common practice). */
const LOOK_SHARE = 0.3;

interface Lost {
  thread: Thread;
  motor: ThreadMotor;
  position: Position;
  pulse: Pulse;
  /** Energy lost in wires, joules, and its share of what coil and wires take together. */
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
  title: "A good part of the pulse is lost in thin wire",
  about:
    "A coil of a few ohms shares the pulse with the wire to it: 24 AWG has 0.084 ohm a metre, and the way is there and back. The rule follows each throw through time in the solved circuit, adds up the energy that is left in wires, and holds what the coil gets against the least that throws it firmly.",
  look: ({ threads, circuitry }) =>
    threads.flatMap((thread) =>
      thread.motors.flatMap((motor): Lost[] => {
        if (traitsOf(motor.type).movedBy !== "pulse" || !thread.control) return [];
        const thrown = POSITIONS.flatMap((position): Lost[] => {
          const state = stateFor(thread, position, "throwing");
          const coil = motor.assignment.crossed ? (position === "N" ? "R" : "N") : position;
          if (Math.abs(circuitry.amps(motor.device.id, coil, state)) < figureValue(motor.type, "restAmps")) return [];
          const pulse = circuitry.pulse(motor.device.id, coil, state);
          if (!pulse) return [];
          const wires = Object.values(pulse.wires).reduce((sum, each) => sum + each, 0);
          const least = figureValue(motor.type, "pulseJoules");
          const leastSeconds = figureValue(motor.type, "pulseSeconds");
          // what would be too weak without any wire is not the wire's fault
          if (pulse.joules + wires < least) return [];
          return [
            { thread, motor, position, pulse, wires, share: wires / (wires + pulse.joules), least, leastSeconds },
          ];
        });
        const [worst] = thrown.sort((a, b) => b.share - a.share);
        return worst && worst.share > LOOK_SHARE ? [worst] : [];
      }),
    ),
  subject: ({ motor }) => motor.device.id,
  where: ({ motor }) => motor.device.label,
  terminals: ({ motor, position }) => [
    terminalName(motor.device.label, position),
    terminalName(motor.device.label, "C"),
  ],
  turnouts: ({ thread }) => [thread],
  why: ({ motor, position, pulse, wires, share, least }) =>
    `Thrown to ${position}, ${motor.device.label} gets ${joules(pulse.joules)} in ${milliseconds(pulse.secondsAboveHalf)}; ${joules(wires)}, ${Math.round(share * 100)} % of the pulse, is lost in wires. It needs ${joules(least)}.`,
  remedies: (_, { record }) => [...layThicker(record, "cableGauge"), ...layThicker(record, "wireGauge")],
});
