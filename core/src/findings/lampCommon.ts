import { changeType } from "../equip/devices.ts";
import { lampIn } from "../readings/threadReading.ts";
import { terminalName } from "../schematic/nets.ts";
import type { Thread, ThreadLamp } from "../schematic/thread.ts";
import { amps } from "../units/format.ts";
import { lampsOf, POSITIONS, rule } from "./rule.ts";

interface WrongCommon {
  thread: Thread;
  lamp: ThreadLamp;
  flows: number;
}

export const lampCommon = rule<WrongCommon>({
  id: "lamp-common",
  stage: "equip",
  column: "lamp",
  severity: "stop",
  title: "A lamp's common does not suit the outputs that light it",
  about:
    "Outputs that pull down to 0 V light a lamp whose common lead goes to plus; one whose common goes to 0 V has no plus at all on them and stays dark. The lamp's common, the output's kind and the resistor's place are looked at together, in the solved circuit.",
  look: ({ threads, reading }) =>
    lampsOf(threads).flatMap(({ thread, lamp }): WrongCommon[] => {
      if (lamp.from.type.drives !== "sink" || lamp.type.commonPlus) return [];
      const flows = Math.max(
        ...POSITIONS.flatMap((position) => {
          const reads = lampIn(reading(thread, position, "rest"), lamp);
          return [reads?.normal ?? 0, reads?.reverse ?? 0];
        }),
      );
      return [{ thread, lamp, flows }];
    }),
  subject: ({ lamp }) => lamp.device.id,
  where: ({ lamp }) => lamp.device.label,
  terminals: ({ lamp }) => [terminalName(lamp.device.label, lamp.type.leads?.[2] ?? "0")],
  turnouts: ({ thread }) => [thread],
  why: ({ lamp, flows }) =>
    `${lamp.device.label} has its common to 0 V, and ${lamp.from.device.label} pulls down to 0 V as well: ${amps(flows)} flow.`,
  remedies: ({ lamp }, { record }) => [
    {
      label: `Make ${lamp.device.label} a lamp with its common to plus`,
      group: changeType(record, lamp.device.id, "lamp-two-colour-plus"),
    },
  ],
});
