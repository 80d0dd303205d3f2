import { setFrog } from "../equip/frogs.ts";
import { freeContact } from "../equip/ways.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { Device } from "../record/schemas.ts";
import type { Thread, ThreadFrog, ThreadMotor } from "../schematic/thread.ts";
import { list } from "../units/format.ts";
import { made } from "./remedies.ts";
import { type Remedy, rule } from "./rule.ts";

interface Unsafe {
  device: Device;
  threads: Thread[];
  /** Frogs that change while their motors stay; none where the motors move. */
  frogs: { of: ThreadFrog; motor: ThreadMotor }[];
}

export const powerOnUnsafe = rule<Unsafe>({
  id: "power-on-unsafe",
  stage: "equip",
  column: "driver",
  severity: "look",
  title: "Power comes back and something moves or changes by itself",
  about:
    "After power has been off and on, a reverser that throws its turnout back moves the blades under a train that stands there; relays that dropped out give the frog the polarity of the straight road while the blades of a coil motor or servo still lie for the other. A start of day that sets everything anew, before trains have power, cures both. The rule looks at what each device does when power returns.",
  look: ({ threads }) => {
    const found = new Map<string, Unsafe>();
    const at = (device: Device, thread: Thread) => {
      const known = found.get(device.id) ?? { device, threads: [], frogs: [] };
      found.set(device.id, known);
      if (!known.threads.includes(thread)) known.threads.push(thread);
      return known;
    };
    for (const thread of threads) {
      const driver = thread.motors[0]?.driver;
      // boards that throw by themselves
      if (driver?.type.powerOn === "normal") at(driver.device, thread);
      for (const frog of thread.frogs) {
        const motor = thread.motors.find((each) => each.turnout.id === frog.turnout.id);
        // relays that drop out while the blades stay; a stall motor's driver sets both anew
        if (frog.from?.type.powerOn === "off" && motor) at(frog.from.device, thread).frogs.push({ of: frog, motor });
      }
    }
    return [...found.values()];
  },
  subject: ({ device }) => device.id,
  where: ({ device }) => device.label,
  terminals: ({ device }) => [device.label],
  turnouts: ({ threads }) => threads,
  why: ({ device: { label }, threads, frogs }) => {
    if (frogs.length === 0)
      return `${label} throws ${list(threads.map((thread) => thread.label))} to normal whenever power returns, under whatever stands there.`;
    const turnouts = list(
      frogs.map(({ of }) => of.turnout.label),
      "or",
    );
    return `${label} drops out when power goes: with ${turnouts} left at reverse, the frog there carries the polarity of normal until ${label} is told again.`;
  },
  remedies: ({ frogs }, { record }) => byMotors(record, frogs),
});

/** Each frog from a contact of its motor, which stays where the blades are. */
function byMotors(record: RailwayRecord, frogs: Unsafe["frogs"]): Remedy[] {
  const sets = frogs.map(({ of, motor }) => ({ of, motor, set: freeContact(record, motor.device.id) }));
  const [first] = sets;
  if (!first || sets.some(({ set }) => set === null)) return [];
  const words =
    sets.length === 1
      ? `Feed the frog of ${first.of.turnout.label} from S${first.set} of ${first.motor.device.label}`
      : `Feed the frogs of ${list(sets.map(({ of }) => of.turnout.label))} from contacts of their motors`;
  return [
    made(record, words, (draft) => {
      for (const { of, motor, set } of sets)
        setFrog(draft, of.turnout.id, { deviceId: motor.device.id, way: set }, of.assignment.crossed);
    }),
  ];
}
