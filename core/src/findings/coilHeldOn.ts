import { figureValue, findType } from "../catalogue/catalogue.ts";
import { traitsOf } from "../catalogue/traits.ts";
import type { Position } from "../record/schemas.ts";
import { terminalName } from "../schematic/nets.ts";
import type { Thread, ThreadMotor } from "../schematic/thread.ts";
import { amps } from "../units/format.ts";
import { fitInstead, putOnDischargeUnit } from "./remedies.ts";
import { POSITIONS, rule } from "./rule.ts";

interface Held {
  thread: Thread;
  motor: ThreadMotor;
  coil: Position;
  position: Position;
  amps: number;
}

export const coilHeldOn = rule<Held>({
  id: "coil-held-on",
  stage: "equip",
  column: "control",
  severity: "stop",
  title: "A coil stays energised",
  about:
    "A twin-coil motor is made for a pulse of some tens of milliseconds. Current that goes on heats the coil until it burns, or drains the discharge unit so that nothing else can fire. The rule looks at the solved current in each coil with nobody touching anything, in both positions.",
  look: ({ threads, reading }) =>
    threads.flatMap((thread) =>
      thread.motors.flatMap((motor): Held[] => {
        if (traitsOf(motor.type).movedBy !== "pulse") return [];
        const held = POSITIONS.flatMap((position) => {
          const found = reading(thread, position, "rest").motors.find(({ motorId }) => motorId === motor.device.id);
          return POSITIONS.map((coil) => ({ thread, motor, coil, position, amps: Math.abs(found?.amps[coil] ?? 0) }));
        });
        const [worst] = held.sort((a, b) => b.amps - a.amps);
        return worst && worst.amps > figureValue(motor.type, "restAmps") ? [worst] : [];
      }),
    ),
  subject: ({ motor }) => motor.device.id,
  where: ({ motor }) => motor.device.label,
  terminals: ({ motor, coil }) => [terminalName(motor.device.label, coil)],
  turnouts: ({ thread }) => [thread],
  why: ({ thread, motor, coil, position, amps: held }) => {
    const { control } = thread;
    const cause = control ? `${control.device.label} stays at ${position}` : `${thread.label} stands at ${position}`;
    const bears = amps(figureValue(motor.type, "restAmps"));
    return `Coil ${coil} of ${motor.device.label} carries ${amps(held)} for as long as ${cause}; it bears ${bears} for ever.`;
  },
  remedies: ({ thread, motor }, { record }) => {
    const { control } = thread;
    const remedies = [];
    if (control?.type.maintained) {
      remedies.push(fitInstead(record, control.device, "momentary-toggle", "a centre-off momentary toggle"));
    }
    if (motor.driver && motor.driver.type.outputs > 0) {
      remedies.push(
        putOnDischargeUnit(record, thread, (typeId) => traitsOf(findType(record, typeId)).gives === "pulse"),
      );
    }
    if (motor.driver?.type.family === "supply") {
      remedies.push(
        putOnDischargeUnit(record, thread, (typeId) => traitsOf(findType(record, typeId)).gives === "pulse"),
      );
    }
    return remedies;
  },
  caution: ({ motor }) => motor.type,
});
