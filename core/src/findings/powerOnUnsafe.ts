import type { Thread } from "../schematic/thread.ts";
import { rule } from "./rule.ts";

interface Unsafe {
  thread: Thread;
  label: string;
  what: string;
}

export const powerOnUnsafe = rule<Unsafe>({
  id: "power-on-unsafe",
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
  remedies: () => [],
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
    },
  ];
}

/** Relays that drop out while the blades stay. */
function changing(thread: Thread): Unsafe[] {
  return thread.frogs.flatMap(({ from, turnout }): Unsafe[] => {
    const motor = thread.motors.find((each) => each.turnout.id === turnout.id);
    // a stall motor's driver sets both anew
    if (from?.type.powerOn !== "off" || !motor) return [];
    const { label } = from.device;
    return [
      {
        thread,
        label,
        what: `${label} drops out when power goes: with ${turnout.label} left at reverse its frog carries the polarity of normal until ${label} is told again.`,
      },
    ];
  });
}
