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
  look: ({ threads }) => {
    const found: Locked[] = [];
    for (const thread of threads) {
      const driver = thread.motors[0]?.driver;
      const controls = controlsOf(thread).filter((control) => heardAt(thread, control));
      const address = driver?.type.hears === "track" ? [`the address of ${driver.device.label}-${driver.way}`] : [];
      const control = controls.find(({ type }) => type.maintained);
      const rest = controls.filter((each) => each !== control).map(({ device }) => device.label);
      const others = [...rest, ...address];
      if (!control || others.length === 0) continue;
      const known = found.find((each) => isSameControl(each.control, control));
      if (!known) found.push({ threads: [thread], control, others });
      else {
        known.threads.push(thread);
        known.others = [...new Set([...known.others, ...others])];
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
