import { typeOf } from "../catalogue/catalogue.ts";
import { Draft } from "../equip/draft.ts";
import { assignmentsOfRole, deviceOf } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { AssignmentOf } from "../record/schemas.ts";
import { terminalName } from "../schematic/nets.ts";
import type { Thread } from "../schematic/thread.ts";
import { list } from "../units/format.ts";
import { rule } from "./rule.ts";
import { threadsWith } from "./threadsOf.ts";

type Block = AssignmentOf<"block">;

interface Opposite {
  block: Block;
  label: string;
  others: Block[];
  threads: Thread[];
}

export const detectorRails = rule<Opposite>({
  id: "detector-rails",
  stage: "equip",
  column: null,
  severity: "look",
  title: "Detectors sit in opposite rails",
  about:
    "A detector senses the current in one rail's feed, and only that rail is cut between blocks; the other runs through. Where one block is detected in the other rail, each rail still meets itself, so nothing is shorted; but the rail that is not cut there feeds the block past its detector, which then sees nothing. Cut both rails there, or detect all blocks in the same rail. What shorts is another thing: the two sides of the bus exchanged at one block's feed, which a meter across the gap shows before a train does. The rule compares the blocks that one bus feeds; those behind a reverser change sides, and are not compared with others.",
  look: ({ record, threads }) =>
    [...byBus(record)].flatMap(([, blocks]) => {
      const onJ = blocks.filter(({ rail }) => rail === "J");
      const onK = blocks.filter(({ rail }) => rail === "K");
      const [few, many] = onJ.length < onK.length ? [onJ, onK] : [onK, onJ];
      return few.map((block): Opposite => {
        const label = terminalName(deviceOf(record, block.deviceId).label, `${block.way}i`);
        return { block, label, others: many, threads: threadsWith(threads, new Set([block.deviceId])) };
      });
    }),
  subject: ({ block }) => block.id,
  where: ({ block }) => block.block,
  terminals: ({ label }) => [label],
  turnouts: ({ threads }) => threads,
  why: ({ block, label, others }) =>
    `Block ${block.block} is detected through ${label} in rail ${block.rail}; ${list(others.slice(0, 3).map((each) => each.block))} in rail ${block.rail === "J" ? "K" : "J"}. Where they meet, ${label} sees nothing unless both rails are cut.`,
  remedies: ({ block, label }, { record }) => {
    const draft = new Draft(record);
    const rail = block.rail === "J" ? "K" : "J";
    draft.put("assignment", { ...block, rail });
    const words = `Feed ${label} from rail ${rail}`;
    return [{ label: words, group: draft.group(words) }];
  },
});

/** The blocks of a railway by what feeds their detector. */
function byBus(record: RailwayRecord): Map<string, Block[]> {
  const buses = new Map(
    assignmentsOfRole(record, "commands").map(({ deviceId, toDeviceId }) => [toDeviceId, deviceId]),
  );
  const blocks = new Map<string, Block[]>();
  for (const block of assignmentsOfRole(record, "block")) {
    // a reverser's loop is fed in both rails
    if (typeOf(record, deviceOf(record, block.deviceId)).zones === undefined) continue;
    const bus = buses.get(block.deviceId) ?? "";
    blocks.set(bus, [...(blocks.get(bus) ?? []), block]);
  }
  return blocks;
}
