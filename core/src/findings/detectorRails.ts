import { Draft } from "../equip/draft.ts";
import { assignmentsOfRole, deviceOf } from "../record/find.ts";
import type { AssignmentOf } from "../record/schemas.ts";
import { terminalName } from "../schematic/nets.ts";
import { list } from "../units/format.ts";
import { rule } from "./rule.ts";

interface Opposite {
  block: AssignmentOf<"block">;
  label: string;
  others: AssignmentOf<"block">[];
}

export const detectorRails = rule<Opposite>({
  id: "detector-rails",
  stage: "equip",
  column: null,
  severity: "stop",
  title: "Detectors feed blocks on opposite rails",
  about:
    "A detector senses the current in one rail's feed, and the other rail runs through. All blocks of a railway are fed on the same side: where one is fed on the other, a wheel at the gap joins the two rails, which is a dead short. The rule holds each block against what most of the others have.",
  look: ({ record }) => {
    const blocks = assignmentsOfRole(record, "block");
    const onJ = blocks.filter(({ rail }) => rail === "J");
    const onK = blocks.filter(({ rail }) => rail === "K");
    const [few, many] = onJ.length < onK.length ? [onJ, onK] : [onK, onJ];
    return few.map((block) => ({
      block,
      label: terminalName(deviceOf(record, block.deviceId).label, `${block.way}i`),
      others: many,
    }));
  },
  subject: ({ block }) => block.id,
  where: ({ block }) => block.block,
  terminals: ({ label }) => [label],
  turnouts: () => [],
  why: ({ block, label, others }) =>
    `Block ${block.block} is fed through ${label} in rail ${block.rail}; ${list(others.slice(0, 3).map((each) => each.block))} in rail ${block.rail === "J" ? "K" : "J"}. A wheel across the gap between them shorts J to K.`,
  remedies: ({ block, label }, { record }) => {
    const draft = new Draft(record);
    const rail = block.rail === "J" ? "K" : "J";
    draft.put("assignment", { ...block, rail });
    const words = `Feed ${label} from rail ${rail}`;
    return [{ label: words, group: draft.group(words) }];
  },
});
