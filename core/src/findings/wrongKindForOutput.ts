import { typesOfFamily } from "../catalogue/catalogue.ts";
import type { OutputKind } from "../catalogue/deviceType.ts";
import { type MovedBy, traitsOf } from "../catalogue/traits.ts";
import { wayName } from "../schematic/nets.ts";
import { asksBy } from "../schematic/recipes/controlSides.ts";
import type { Thread, ThreadMotor } from "../schematic/thread.ts";
import { fitInstead, putOnDischargeUnit } from "./remedies.ts";
import { reverserSuits } from "./reverserKind.ts";
import { rule } from "./rule.ts";

interface Mismatch {
  thread: Thread;
  motor: ThreadMotor & { driver: NonNullable<ThreadMotor["driver"]> };
}

export const wrongKindForOutput = rule<Mismatch>({
  id: "wrong-kind-for-output",
  stage: "equip",
  column: "driver",
  severity: "stop",
  title: "The motor does not suit its output",
  about:
    "An output for stall motors gives a few milliamps for ever, reversed to throw; a coil wants amps for a moment. A discharge unit gives a pulse and no more, which leaves a stall motor without the power it needs to stay where it is.",
  look: (look) =>
    look.inThreads("wrong kind", (thread) =>
      thread.motors.flatMap((motor): Mismatch[] => {
        const { driver } = motor;
        // a reverser has a finding of its own
        if (!driver || traitsOf(driver.type).inTrack === "reverser") return [];
        return suitsDriver(thread, motor) ? [] : [{ thread, motor: { ...motor, driver } }];
      }),
    ),
  subject: ({ motor }) => motor.device.id,
  where: ({ motor }) => motor.device.label,
  terminals: ({ motor }) => [`${motor.driver.device.label}${motor.driver.way === null ? "" : `-${motor.driver.way}`}`],
  turnouts: ({ thread }) => [thread],
  why: ({ motor }) => {
    const output = wayName(motor.driver.device.label, motor.driver.way);
    const gives = GIVES[motor.driver.type.drives ?? "none"];
    return `${output} ${gives}; ${motor.device.label} ${WANTS[traitsOf(motor.type).movedBy ?? "commands"]}.`;
  },
  remedies: ({ thread, motor }, { record }) => {
    if (motor.driver.type.drives === "pair") {
      const stall = fitInstead(record, motor.device, "stall-motor", "a stall motor");
      if (traitsOf(motor.type).movedBy !== "pulse") return [stall];
      return [putOnDischargeUnit(record, thread), stall];
    }
    if (traitsOf(motor.type).movedBy !== "reversal") return [];
    const [coil] = typesOfFamily(record, "motor").filter((type) => traitsOf(type).movedBy === "pulse");
    return coil ? [fitInstead(record, motor.device, "twin-coil", "a twin-coil motor")] : [];
  },
  caution: ({ motor }) => motor.type,
});

/** What an output gives, as part of a sentence. */
const GIVES: Record<OutputKind | "none", string> = {
  pair: "holds a small current for a stall motor",
  coil: "gives a pulse for coils",
  servo: "gives pulses and 5 V for a servo",
  matrix: "gives a coil the pulse of a route button",
  contact: "is a contact and gives nothing itself",
  sink: "pulls a lamp down to 0 V",
  none: "gives a pulse for coils",
};

/** What a motor wants, as part of a sentence. */
const WANTS: Record<MovedBy, string> = {
  pulse: "has coils, which need a pulse of amps and nothing after it",
  reversal: "is a stall motor and must stay powered, reversed to throw",
  signal: "is a servo, which wants 5 V and a signal",
  commands: "has its decoder inside and needs the track bus only",
};

/** Whether a driver gives what its motor wants; a bare supply gives a stall motor its power through a reversing toggle. */
export function suitsDriver({ control }: Thread, motor: ThreadMotor): boolean {
  const { type, driver } = motor;
  if (!driver) return true;
  if (traitsOf(driver.type).inTrack === "reverser") return reverserSuits(motor);
  switch (traitsOf(type).movedBy) {
    case "pulse":
      return driver.type.drives === "coil" || driver.type.drives === "matrix" || !driver.type.drives;
    case "reversal":
      return driver.type.drives === "pair" || (asksBy(control) === "poles" && traitsOf(driver.type).gives === "dc");
    case "signal":
      return driver.type.drives === "servo";
    default:
      return false;
  }
}
