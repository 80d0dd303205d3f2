import { takeControlAway } from "../equip/controls.ts";
import { Draft } from "../equip/draft.ts";
import type { Found } from "../hands/sweep.ts";
import { standing } from "../hands/words.ts";
import { deviceOf } from "../record/find.ts";
import type { Device } from "../record/schemas.ts";
import { controlsOf, type Thread } from "../schematic/thread.ts";
import { amps } from "../units/format.ts";
import { sentence } from "./remedies.ts";
import { type Remedy, rule } from "./rule.ts";
import { threadsWith } from "./threadsOf.ts";

interface Short {
  found: Found;
  supply: Device;
  /** What has to stand as it does. */
  devices: Device[];
  threads: Thread[];
  when: string;
}

export const shortByHands = rule<Short>({
  id: "short-by-hands",
  stage: "equip",
  column: "control",
  severity: "stop",
  title: "What can be set shorts a supply",
  about:
    "Hands throw controls one by one, whatever the others stand at, and two people throw two at once. Two reversing toggles on one motor, thrown opposite ways, join plus to minus. The rule sets everything that hands, trains, boards and restarts can set, in every combination that matters, and looks at what each supply then gives. Controls that reverse the current themselves cannot share a motor: let them ask a board with inputs.",
  look: ({ record, threads, hands }) =>
    hands.filter(isShortByHands).map((found) => {
      const ids = new Set(found.when.map(({ deviceId }) => deviceId));
      return {
        found,
        supply: deviceOf(record, found.id),
        devices: [...ids].map((id) => deviceOf(record, id)),
        threads: threadsWith(threads, ids),
        when: standing(record, found.when),
      };
    }),
  subject: ({ found }) => found.id,
  where: ({ supply }) => supply.label,
  terminals: ({ devices }) => devices.map(({ label }) => label),
  turnouts: ({ threads }) => threads,
  why: ({ supply, found, when }) =>
    `${sentence(when)}, ${supply.label} is shorted and shuts down from ${amps(found.limit)}: all that hangs on it is dead.`,
  remedies: ({ devices, threads }, { record }) =>
    threads.flatMap((thread) =>
      controlsOf(thread)
        .slice(1)
        .filter(({ device }) => devices.some(({ id }) => id === device.id))
        .map((control): Remedy => {
          const draft = new Draft(record);
          takeControlAway(draft, thread.turnout.id, control.assignment.id);
          const label = `Take ${control.device.label} away`;
          return { label, group: draft.group(label) };
        }),
    ),
});

/** Whether it takes certain settings to short a supply, so that one of them set otherwise is the cure. */
export function isShortByHands({ kind, when, all }: Found): boolean {
  return kind === "short" && when.length > 0 && !all;
}
