import { CATALOGUE } from "../catalogue/catalogue.ts";
import type { OutputKind } from "../catalogue/deviceType.ts";
import { type MovedBy, traitsOf } from "../catalogue/traits.ts";
import { changeType } from "../equip/devices.ts";
import type { Thread, ThreadMotor } from "../schematic/thread.ts";
import { rule } from "./rule.ts";

interface Misbought {
  thread: Thread;
  motor: ThreadMotor;
  reverser: NonNullable<ThreadMotor["driver"]>;
}

export const reverserKind = rule<Misbought>({
  id: "reverser-kind",
  stage: "equip",
  column: "driver",
  severity: "stop",
  title: "The automatic reverser is of the wrong kind for the motor",
  about:
    "Automatic reversers come plain, with an output that pulses a twin-coil motor, and with one that holds a stall motor. They look alike, and the wrong kind is a bought mistake: a pulse does not move a stall motor, and a held output burns a coil.",
  look: (look) =>
    look.inThreads("reverser's kind", (thread) =>
      thread.motors.flatMap((motor): Misbought[] => {
        const { driver } = motor;
        const misbought = driver && traitsOf(driver.type).inTrack === "reverser" && !reverserSuits(motor);
        return misbought ? [{ thread, motor, reverser: driver }] : [];
      }),
    ),
  subject: ({ motor }) => motor.device.id,
  where: ({ reverser }) => reverser.device.label,
  terminals: ({ reverser, motor }) => [reverser.device.label, motor.device.label],
  turnouts: ({ thread }) => [thread],
  why: ({ reverser, motor }) =>
    `${reverser.device.label} has an output for ${reverser.type.drives === "coil" ? "twin-coil" : "stall"} motors; ${motor.device.label} is a ${motor.type.short} motor.`,
  remedies: ({ reverser, motor }, { record }) =>
    CATALOGUE.filter(
      (type) =>
        traitsOf(type).inTrack === "reverser" && type.drives === WANTED[traitsOf(motor.type).movedBy ?? "commands"],
    ).map((type) => ({
      label: `Make ${reverser.device.label} an ${type.name.charAt(0).toLowerCase()}${type.name.slice(1)}`,
      group: changeType(record, reverser.device.id, type.id),
    })),
  caution: ({ motor }) => motor.type,
});

const WANTED: Partial<Record<MovedBy, OutputKind>> = { pulse: "coil", reversal: "pair" };

/** Whether a reverser's output gives what the motor on it wants. */
export function reverserSuits({ type, driver }: ThreadMotor): boolean {
  return WANTED[traitsOf(type).movedBy ?? "commands"] === driver?.type.drives;
}
