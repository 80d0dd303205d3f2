import { findType, typesOfFamily } from "../catalogue/catalogue.ts";
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
        if (!driver) return [];
        const forStall = driver.type.model === "stall-decoder";
        const wrong = forStall ? motor.type.model !== "stall-motor" : motor.type.model !== "twin-coil";
        return wrong ? [{ thread, motor: { ...motor, driver } }] : [];
      }),
    ),
  subject: ({ motor }) => motor.device.id,
  where: ({ motor }) => motor.device.label,
  terminals: ({ motor }) => [`${motor.driver.device.label}${motor.driver.way === null ? "" : `-${motor.driver.way}`}`],
  turnouts: ({ thread }) => [thread],
  why: ({ motor }) => {
    const output =
      motor.driver.way === null ? motor.driver.device.label : `${motor.driver.device.label}-${motor.driver.way}`;
    return motor.type.model === "twin-coil"
      ? `${output} holds a small current for a stall motor; ${motor.device.label} has coils, which need a pulse of amps and nothing after it.`
      : `${output} gives a pulse for coils; ${motor.device.label} is a stall motor and must stay powered, reversed to throw.`;
  },
  remedies: ({ thread, motor }, { record }) => {
    if (motor.type.model === "twin-coil") {
      return [
        putOnDischargeUnit(record, thread, (typeId) => findType(record, typeId)?.model === "cdu"),
        fitInstead(record, motor.device, "stall-motor", "a stall motor"),
      ];
    }
    const [coil] = typesOfFamily(record, "motor").filter((type) => type.model === "twin-coil");
    return coil ? [fitInstead(record, motor.device, "twin-coil", "a twin-coil motor")] : [];
  },
  caution: ({ motor }) => motor.type,
});
