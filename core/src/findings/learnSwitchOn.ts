import { Draft } from "../equip/draft.ts";
import { learnSwitch } from "../events/taught.ts";
import type { EditGroup } from "../record/edits.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { Device } from "../record/schemas.ts";
import { rule } from "./rule.ts";

export const learnSwitchOn = rule<Device>({
  id: "learn-switch-on",
  stage: "numbers",
  column: null,
  severity: "stop",
  title: "A node's learning switch was left on",
  about:
    "While its learning switch is on, a node learns whatever goes over the bus: the next button that somebody presses, anywhere, is taught to the output that happens to be chosen. Off again as soon as an output is taught.",
  look: ({ record }) => record.devices.filter(({ id }) => learnSwitch(record, id)?.read === "on"),
  subject: ({ id }) => id,
  where: ({ label }) => label,
  terminals: ({ label }) => [label],
  turnouts: () => [],
  why: ({ label }) => `The learning switch of ${label} is on, as its teaching sheet was last ticked.`,
  remedies: ({ id, label }, { record }) => [
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
