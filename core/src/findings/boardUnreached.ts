import { typeOf } from "../catalogue/catalogue.ts";
import { usualSupply } from "../catalogue/traits.ts";
import { feed, usualCommands } from "../equip/feed.ts";
import { feederOf } from "../record/find.ts";
import { controlsOf, type Fitted, supplyOf, type Thread } from "../schematic/thread.ts";
import { list } from "../units/format.ts";
import { made } from "./remedies.ts";
import { lampsOf, rule } from "./rule.ts";
import { threadsWith } from "./threadsOf.ts";

interface Unreached {
  board: Fitted;
  lacks: ("its supply" | "its bus wires")[];
  threads: Thread[];
}

export const boardUnreached = rule<Unreached>({
  id: "board-unreached",
  stage: "equip",
  column: null,
  severity: "stop",
  title: "A board that reads or lights is not joined to its supply or bus",
  about:
    "A node that reads controls, or lights lamps, does so only with its supply on, and tells and hears nothing without the wires of its bus. The rule looks at boards in use besides those that drive motors, which the turnout's own finding looks after.",
  look: ({ record, threads }) => {
    const driving = new Set(threads.flatMap(({ motors }) => motors.map(({ driver }) => driver?.device.id)));
    const reading = new Set(threads.flatMap((thread) => controlsOf(thread).map(({ reader }) => reader?.device.id)));
    const lighting = new Set(
      lampsOf(threads).flatMap(({ lamp: { from } }) => (from.type.outputs > 0 ? [from.device.id] : [])),
    );
    return record.devices.flatMap((device): Unreached[] => {
      const reads = reading.has(device.id);
      if (driving.has(device.id) || (!reads && !lighting.has(device.id))) return [];
      const type = typeOf(record, device);
      if (type.hears === "pins") return [];
      const lacks: Unreached["lacks"] = [];
      // a board that reads without a supply has a finding at the control
      if (usualSupply(type) && !supplyOf(record, device.id) && !reads) lacks.push("its supply");
      if (usualCommands(type) && type.hears === "bus" && feederOf(record, device.id, "commands") === null)
        lacks.push("its bus wires");
      if (lacks.length === 0) return [];
      return [{ board: { device, type }, lacks, threads: threadsWith(threads, new Set([device.id])) }];
    });
  },
  subject: ({ board }) => board.device.id,
  where: ({ board }) => board.device.label,
  terminals: ({ board }) => [board.device.label],
  turnouts: ({ threads }) => threads,
  why: ({ board, lacks, threads }) =>
    `${board.device.label} has not got ${list(lacks)}: what it does for ${list(threads.map(({ label }) => label))} does not work.`,
  remedies: ({ board, lacks }, { record }) => [
    made(record, `Join ${board.device.label} to ${list(lacks)}`, (draft) => feed(draft, board.device, board.type)),
  ],
});
