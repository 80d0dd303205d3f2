import { Draft } from "../equip/draft.ts";
import { setFrog } from "../equip/frogsAndLamps.ts";
import { freeContact } from "../equip/ways.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { Thread, ThreadFrog, ThreadMotor } from "../schematic/thread.ts";
import { type Remedy, rule } from "./rule.ts";

interface Unsafe {
  thread: Thread;
  label: string;
  what: string;
  /** A frog that changes while its motor stays; null where the motor moves. */
  frog: { of: ThreadFrog; motor: ThreadMotor } | null;
}

export const powerOnUnsafe = rule<Unsafe>({
  id: "power-on-unsafe",
  stage: "equip",
  column: "driver",
  severity: "look",
  title: "Power comes back and something moves or changes by itself",
  about:
    "After power has been off and on, a reverser that throws its turnout back moves the blades under a train that stands there; relays that dropped out give the frog the polarity of the straight road while the blades of a coil motor or servo still lie for the other. A start of day that sets everything anew, before trains have power, cures both. The rule looks at what each device does when power returns.",
  look: ({ threads }) => threads.flatMap((thread) => [...moving(thread), ...changing(thread)]),
  subject: ({ thread, label }) => `${thread.turnout.id} ${label}`,
  where: ({ label }) => label,
  terminals: ({ label }) => [label],
  turnouts: ({ thread }) => [thread],
  why: ({ what }) => what,
  remedies: ({ frog }, { record }) => (frog ? byMotor(record, frog.of, frog.motor) : []),
});

/** Boards that throw by themselves when power returns. */
function moving(thread: Thread): Unsafe[] {
  const driver = thread.motors[0]?.driver;
  if (driver?.type.powerOn !== "normal") return [];
  const { label } = driver.device;
  return [
    {
      thread,
      label,
      what: `${label} throws ${thread.label} to normal whenever power returns, under whatever stands on it.`,
      frog: null,
    },
  ];
}

/** Relays that drop out while the blades stay. */
function changing(thread: Thread): Unsafe[] {
  return thread.frogs.flatMap((frog): Unsafe[] => {
    const { from, turnout } = frog;
    const motor = thread.motors.find((each) => each.turnout.id === turnout.id);
    // a stall motor's driver sets both anew
    if (from?.type.powerOn !== "off" || !motor) return [];
    const { label } = from.device;
    return [
      {
        thread,
        label,
        what: `${label} drops out when power goes: with ${turnout.label} left at reverse its frog carries the polarity of normal until ${label} is told again.`,
        frog: { of: frog, motor },
      },
    ];
  });
}

/** The frog from a contact of the motor, which stays where the blades are. */
function byMotor(record: RailwayRecord, { turnout, assignment }: ThreadFrog, motor: ThreadMotor): Remedy[] {
  const set = freeContact(record, motor.device.id);
  if (set === null) return [];
  const draft = new Draft(record);
  setFrog(draft, turnout.id, { deviceId: motor.device.id, way: set }, assignment.crossed);
  const words = `Feed the frog of ${turnout.label} from S${set} of ${motor.device.label}`;
  return [{ label: words, group: draft.group(words) }];
}
