import { figureValue, typeOf } from "../catalogue/catalogue.ts";
import { traitsOf } from "../catalogue/traits.ts";
import { addBoardTo } from "../equip/devices.ts";
import { Draft } from "../equip/draft.ts";
import { setFeeder } from "../equip/feed.ts";
import { regulatorLimit } from "../readings/boardLoads.ts";
import { AT_REST } from "../readings/threadReading.ts";
import { assignmentsOfRole, deviceOf } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { Device } from "../record/schemas.ts";
import { type Fitted, supplyOf, type Thread } from "../schematic/thread.ts";
import { amps, count } from "../units/format.ts";
import { POSITIONS, type Remedy, rule } from "./rule.ts";
import { threadsWith } from "./threadsOf.ts";

interface Beyond {
  controller: Fitted;
  boards: Device[];
  relays: number;
  flows: number;
  limit: number;
  threads: Thread[];
}

export const relaysBeyondController = rule<Beyond>({
  id: "relays-beyond-controller",
  stage: "equip",
  column: null,
  severity: "stop",
  title: "Relays take more than the controller's own 5 V gives",
  about:
    "A relay takes about 72 mA at 5 V, and a controller's regulator carries about three of them. Beyond that the jumper comes off the relay board and its coils get a supply of their own; only the inputs stay on the controller's 5 V. The rule looks at the solved current from the controller's 5 V, all turnouts normal and all reverse, and at what its regulator bears of the volts that are left over.",
  look: ({ record, threads, circuitry }) =>
    record.devices.flatMap((device): Beyond[] => {
      const type = typeOf(record, device);
      if (traitsOf(type).gives !== "pins") return [];
      const boards = assignmentsOfRole(record, "commands")
        .filter((a) => a.deviceId === device.id && !supplyOf(record, a.toDeviceId))
        .map((a) => deviceOf(record, a.toDeviceId))
        .filter((board) => typeOf(record, board).hears === "pins");
      const flows = Math.max(
        ...POSITIONS.map((position) => Math.abs(circuitry.amps(device.id, "rail", AT_REST[position]))),
      );
      const lasting = regulatorLimit(type, circuitry.fedVolts(device.id));
      const limit = lasting?.amps ?? figureValue(type, "boardAmps");
      const relays = boards.reduce((sum, board) => sum + used(record, board.id), 0);
      if (flows <= limit) return [];
      const fed = threadsWith(threads, new Set(boards.map(({ id }) => id)));
      return [{ controller: { device, type }, boards, relays, flows, limit, threads: fed }];
    }),
  subject: ({ controller }) => controller.device.id,
  where: ({ controller }) => controller.device.label,
  terminals: ({ controller }) => [`${controller.device.label}-5V`],
  turnouts: ({ threads }) => threads,
  why: ({ controller, relays, flows, limit }) =>
    `${count(relays, "relay")} picked up at once take ${amps(flows)} from the 5 V of ${controller.device.label}; it gives ${amps(limit)}.`,
  remedies: ({ boards }, { record }) => boards.slice(0, 1).map((board) => ownSupply(record, board)),
  caution: ({ controller }) => controller.type,
});

/** Relays of a board that feed a frog or light a lamp. */
function used(record: RailwayRecord, boardId: string): number {
  return new Set(
    record.assignments.flatMap((a) =>
      (a.role === "frog" || a.role === "lamp") && a.fromId === boardId ? [a.way] : [],
    ),
  ).size;
}

function ownSupply(record: RailwayRecord, board: Device): Remedy {
  const draft = new Draft(record);
  const supply = addBoardTo(draft, "dc-5");
  setFeeder(draft, board.id, "supply", supply.id);
  const words = `Take the jumper off ${board.label} and feed it from ${supply.label}, 5 V`;
  return { label: words, group: draft.group(words) };
}
