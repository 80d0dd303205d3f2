import { Draft } from "../equip/draft.ts";
import { learnSwitch } from "../events/taught.ts";
import type { EditGroup } from "../record/edits.ts";
import { deviceOf } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { Device } from "../record/schemas.ts";
import { devicesOfThread, type Thread } from "../schematic/thread.ts";
import { rule } from "./rule.ts";

interface Learning {
  device: Device;
  /** Threads of which it drives a motor or lights a lamp. */
  threads: Thread[];
}

export const learnSwitchOn = rule<Learning>({
  id: "learn-switch-on",
  stage: "numbers",
  column: null,
  severity: "stop",
  title: "A node's learning switch was left on",
  about:
    "While its learning switch is on, a node learns whatever goes over the bus: the next button that somebody presses, anywhere, is taught to the output that happens to be chosen. Off again as soon as an output is taught.",
  look: ({ record, threads }) => {
    const readOn = new Set(record.settings.flatMap(({ deviceId, read }) => (read === "on" ? [deviceId] : [])));
    return [...readOn].flatMap((id): Learning[] =>
      learnSwitch(record, id)?.read === "on"
        ? [
            {
              device: deviceOf(record, id),
              threads: threads.filter((thread) => devicesOfThread(thread).includes(id)),
            },
          ]
        : [],
    );
  },
  subject: ({ device }) => device.id,
  where: ({ device }) => device.label,
  terminals: ({ device }) => [device.label],
  turnouts: ({ threads }) => threads,
  why: ({ device }) => `The learning switch of ${device.label} is on, as its teaching sheet was last ticked.`,
  remedies: ({ device: { id, label } }, { record }) => [
    { label: `${label}: it is off again`, group: switchedOff(record, id, label) },
  ],
});

function switchedOff(record: RailwayRecord, deviceId: string, label: string): EditGroup | null {
  const line = learnSwitch(record, deviceId);
  const known = record.settings.find((s) => s.deviceId === deviceId && s.way === null && s.name === line?.setting.name);
  if (!known) return null;
  const draft = new Draft(record);
  if (known.wanted === null) draft.remove("setting", known.id);
  else draft.put("setting", { ...known, read: null, readAt: null });
  return draft.group(`${label}: learning switch off`);
}
