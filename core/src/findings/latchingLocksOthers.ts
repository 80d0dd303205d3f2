import { changeType } from "../equip/devices.ts";
import { heardAt } from "../schematic/recipes/controlToInputs.ts";
import { controlsOf, isSameControl, type Thread, type ThreadControl } from "../schematic/thread.ts";
import { list } from "../units/format.ts";
import { rule } from "./rule.ts";

interface Locked {
  /** Those that the control commands and others may throw too. */
  threads: Thread[];
  control: ThreadControl;
  others: string[];
}

export const latchingLocksOthers = rule<Locked>({
  id: "latching-locks-others",
  stage: "equip",
  column: "control",
  severity: "look",
  title: "A control that stays put locks the others out",
  about:
    "A toggle that latches keeps asking for as long as it stands there: the throttle, a second toggle or the dispatcher cannot throw the turnout against it. Where several may throw a turnout, each control has to spring back.",
  *look(look) {
    const found: Locked[] = [];
    for (const one of yield* look.inThreads("locks others", lockedIn)) {
      const known = found.find((each) => isSameControl(each.control, one.control));
      if (!known) found.push(one);
      else {
        known.threads.push(...one.threads);
        known.others = [...new Set([...known.others, ...one.others])];
      }
    }
    return found;
  },
  subject: ({ control }) => control.device.id,
  where: ({ control }) => control.device.label,
  terminals: ({ control }) => [control.device.label],
  turnouts: ({ threads }) => threads,
  why: ({ threads, control, others }) =>
    `${control.device.label} stays where it is put, so ${list(others)} cannot throw ${list(threads.map(({ label }) => label))} against it.`,
  remedies: ({ control }, { record }) => [
    {
      label: `Make ${control.device.label} a centre-off momentary toggle`,
      group: changeType(record, control.device.id, "toggle-centre-off"),
    },
  ],
});

/** The first control of a thread that stays where it is put, when something else is to throw the turnout as well. */
function lockedIn(thread: Thread): Locked[] {
  const driver = thread.motors[0]?.driver;
  const controls = controlsOf(thread).filter((control) => heardAt(thread, control));
  const address = driver?.type.hears === "track" ? [`the address of ${driver.device.label}-${driver.way}`] : [];
  const control = controls.find(({ type }) => type.maintained);
  const others = [...controls.filter((each) => each !== control).map(({ device }) => device.label), ...address];
  return control && others.length > 0 ? [{ threads: [thread], control, others }] : [];
}
