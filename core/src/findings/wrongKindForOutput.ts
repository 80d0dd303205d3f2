import { findType, typesOfFamily } from "../catalogue/catalogue.ts";
import type { Model, OutputKind } from "../catalogue/deviceType.ts";
import type { Thread, ThreadMotor } from "../schematic/thread.ts";
import { fitInstead, putOnDischargeUnit } from "./remedies.ts";
import { rule } from "./rule.ts";

interface Mismatch {
  thread: Thread;
  motor: ThreadMotor & { driver: NonNullable<ThreadMotor["driver"]> };
}

export const wrongKindForOutput = rule<Mismatch>({
  id: "wrong-kind-for-output",
  severity: "stop",
  title: "The motor does not suit its output",
  about:
    "An output for stall motors gives a few milliamps for ever, reversed to throw; a coil wants amps for a moment. A discharge unit gives a pulse and no more, which leaves a stall motor without the power it needs to stay where it is.",
  look: ({ threads }) =>
    threads.flatMap((thread) =>
      thread.motors.flatMap((motor): Mismatch[] => {
        const { driver } = motor;
        // a reverser has a finding of its own
        if (!driver || driver.type.model === "reverser") return [];
        return !suits(thread, motor, driver) ? [{ thread, motor: { ...motor, driver } }] : [];
      }),
    ),
  subject: ({ motor }) => motor.device.id,
  where: ({ motor }) => motor.device.label,
  terminals: ({ motor }) => [`${motor.driver.device.label}${motor.driver.way === null ? "" : `-${motor.driver.way}`}`],
  turnouts: ({ thread }) => [thread],
  why: ({ motor }) => {
    const output =
      motor.driver.way === null ? motor.driver.device.label : `${motor.driver.device.label}-${motor.driver.way}`;
    const gives = GIVES[motor.driver.type.drives ?? "none"];
    return `${output} ${gives}; ${motor.device.label} ${WANTS[motor.type.model] ?? "wants something else"}.`;
  },
  remedies: ({ thread, motor }, { record }) => {
    if (motor.driver.type.drives === "pair") {
      const stall = fitInstead(record, motor.device, "stall-motor", "a stall motor");
      if (motor.type.model !== "twin-coil") return [stall];
      return [putOnDischargeUnit(record, thread, (typeId) => findType(record, typeId)?.model === "cdu"), stall];
    }
    if (motor.type.model !== "stall-motor") return [];
    const [coil] = typesOfFamily(record, "motor").filter((type) => type.model === "twin-coil");
    return coil ? [fitInstead(record, motor.device, "twin-coil", "a twin-coil motor")] : [];
  },
  caution: ({ motor }) => motor.type,
});

/** What an output gives, as part of a sentence. */
const GIVES: Record<OutputKind | "none", string> = {
  pair: "holds a small current for a stall motor",
  coil: "gives a pulse for coils",
  servo: "gives pulses and 5 V for a servo",
  contact: "is a contact and gives nothing itself",
  sink: "pulls a lamp down to 0 V",
  none: "gives a pulse for coils",
};

/** What a motor wants, as part of a sentence. */
const WANTS: Partial<Record<Model, string>> = {
  "twin-coil": "has coils, which need a pulse of amps and nothing after it",
  "stall-motor": "is a stall motor and must stay powered, reversed to throw",
  servo: "is a servo, which wants 5 V and a signal",
  "decoder-motor": "has its decoder inside and needs the track bus only",
};

/** Whether a driver gives what a motor wants; a bare supply gives a stall motor its power through a reversing toggle. */
function suits({ control }: Thread, { type }: ThreadMotor, driver: NonNullable<ThreadMotor["driver"]>): boolean {
  switch (type.model) {
    case "twin-coil":
      return driver.type.drives === "coil" || !driver.type.drives;
    case "stall-motor":
      return (
        driver.type.drives === "pair" ||
        (control?.type.model === "reversing-toggle" && driver.type.model === "dc-supply")
      );
    case "servo":
      return driver.type.drives === "servo";
    default:
      return false;
  }
}
