import { typeOf } from "../catalogue/catalogue.ts";
import { traitsOf } from "../catalogue/traits.ts";
import { assignmentsOfRole, deviceOf } from "../record/find.ts";
import type { Device } from "../record/schemas.ts";
import type { Thread } from "../schematic/thread.ts";
import { list } from "../units/format.ts";
import { rule } from "./rule.ts";

interface Starting {
  board: Device;
  controller: Device;
  threads: Thread[];
}

export const relayAtStart = rule<Starting>({
  id: "relay-at-start",
  stage: "equip",
  column: null,
  severity: "look",
  title: "Relays pick up when the program starts",
  about:
    "Relay boards are active low: a pin at 0 V picks its relay up. A pin that is made an output before it was written high is low for a moment, and each relay gives a pulse at start-up; frogs change under blades that do not. The program has to write all pins high first, and then make them outputs. The product cannot see the program: keep the finding with a note when it does.",
  look: ({ record, threads }) =>
    assignmentsOfRole(record, "commands").flatMap(({ deviceId, toDeviceId }): Starting[] => {
      const controller = deviceOf(record, deviceId);
      if (traitsOf(typeOf(record, controller)).gives !== "pins") return [];
      const board = deviceOf(record, toDeviceId);
      const fed = threads.filter(
        ({ frogs, lamps }) =>
          frogs.some(({ from }) => from?.device.id === board.id) ||
          lamps.some(({ from }) => from.device.id === board.id),
      );
      return fed.length > 0 ? [{ board, controller, threads: fed }] : [];
    }),
  subject: ({ board }) => board.id,
  where: ({ board }) => board.label,
  terminals: ({ board }) => [board.label],
  turnouts: ({ threads }) => threads,
  why: ({ board, controller, threads }) =>
    `${board.label} is active low: until the program in ${controller.label} has written its pins high, frogs or lamps of ${list(threads.map(({ label }) => label))} may change over.`,
  remedies: () => [],
});
