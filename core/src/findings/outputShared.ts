import { typeOf } from "../catalogue/catalogue.ts";
import { moveOutput } from "../equip/move.ts";
import { freeWays } from "../equip/ways.ts";
import { ByWay } from "../record/byWay.ts";
import { find } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { Fitted, Thread } from "../schematic/thread.ts";
import { list } from "../units/format.ts";
import { made } from "./remedies.ts";
import { type Remedy, rule } from "./rule.ts";

interface SharedOutput {
  board: Fitted;
  way: number;
  threads: Thread[];
}

export const outputShared = rule<SharedOutput>({
  id: "output-shared",
  stage: "equip",
  column: "driver",
  severity: "look",
  title: "Two turnouts hang on one output and are not a pair",
  about:
    "One command throws all that hangs on an output. For the two ends of a crossover that is wanted, and the list says that one moves with the other. Where it does not say so, one of the two has been put on an output that was taken: its address throws the other as well.",
  look: ({ threads }) => {
    const outputs = new ByWay<SharedOutput>();
    for (const thread of threads) {
      for (const { driver } of thread.motors) {
        if (!driver || driver.way === null) continue;
        const { device, type, way } = driver;
        const shared = outputs.at(device.id, way, () => ({ board: { device, type }, way, threads: [] }));
        if (!shared.threads.includes(thread)) shared.threads.push(thread);
      }
    }
    return outputs.values().filter((shared) => shared.threads.length > 1);
  },
  subject: ({ board, way }) => `${board.device.id}-${way}`,
  where: ({ board, way }) => `${board.device.label}-${way}`,
  terminals: ({ board, way }) => [`${board.device.label}-${way}`],
  turnouts: ({ threads }) => threads,
  why: ({ board, way, threads }) =>
    `${list(threads.map(({ label }) => label))} hang on ${board.device.label}-${way} and are thrown together; the list does not call them a pair.`,
  remedies: (shared, { record }) => [...apart(record, shared), ...together(record, shared)],
});

/** The last of them to an output of its own. */
function apart(record: RailwayRecord, { board, threads }: SharedOutput): Remedy[] {
  const last = threads.at(-1);
  const kin = record.devices.filter(({ typeId }) => typeId === board.device.typeId);
  const to = [board.device, ...kin].find(({ id }) => freeWays(record, id, board.type.outputs).length > 0);
  if (!last || !to) return [];
  const [way] = freeWays(record, to.id, typeOf(record, to).outputs);
  if (way === undefined) return [];
  const { edits } = moveOutput(record, last.turnout.id, to.id, way);
  const label = `Move ${last.label} to ${to.label}-${way}`;
  return [{ label, group: { words: label, edits } }];
}

/** The others move with the first. */
function together(record: RailwayRecord, { threads: [first, ...others] }: SharedOutput): Remedy[] {
  if (!first || others.some(({ followers }) => followers.length > 0)) return [];
  const label = `Make ${list([first, ...others].map((each) => each.label))} a pair`;
  return [
    made(record, label, (draft) => {
      for (const { turnout } of others) {
        const now = find(draft.record, "turnout", turnout.id);
        if (now) draft.put("turnout", { ...now, movesWith: first.turnout.id });
      }
    }),
  ];
}
