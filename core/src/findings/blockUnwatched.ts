import { typeOf } from "../catalogue/catalogue.ts";
import { blocksOnLine } from "../line/blocks.ts";
import { isMarked } from "../line/marks.ts";
import { assignmentsOfRole, deviceOf } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { wayName } from "../schematic/nets.ts";
import { list } from "../units/format.ts";
import { rule } from "./rule.ts";

interface Unwatched {
  kind: "unwatched" | "nowhere";
  names: string[];
}

export const blockUnwatched = rule<Unwatched>({
  id: "block-unwatched",
  stage: "line",
  column: null,
  severity: "note",
  title: "Blocks on the line and detectors do not know each other",
  about:
    "A detector watches a block by its name. A block that no detector names is never seen occupied, and a detector's block that is not on the line cannot be checked: its signals, its joints and the turnouts that it throws. The rule looks where both are there.",
  look: ({ record }) => {
    if (!isMarked(record, "block")) return [];
    const { blocks, named } = blocksOnLine(record);
    const zones = zonesOf(record);
    const own = blocks.filter(({ name }) => name !== null);
    if (zones.length === 0 || own.length === 0) return [];
    const unwatched = own.flatMap((block) => (block.zones.length === 0 ? (block.name ?? []) : []));
    const nowhere = zones.flatMap(({ block, label }) => (named(block) ? [] : [`${block} (${label})`]));
    return [
      ...(unwatched.length > 0 ? [{ kind: "unwatched" as const, names: unwatched }] : []),
      ...(nowhere.length > 0 ? [{ kind: "nowhere" as const, names: nowhere }] : []),
    ];
  },
  subject: ({ kind }) => kind,
  where: ({ names: [first = "", ...more] }) => (more.length > 0 ? `${first} and ${more.length} more` : first),
  turnouts: () => [],
  why: ({ kind, names }) =>
    kind === "unwatched"
      ? `No detector watches ${list(names, "or")}: a train there is not seen.`
      : `${list(names)} ${names.length === 1 ? "is a block" : "are blocks"} of a detector that the line does not have.`,
  remedies: () => [],
});

/** Zones of detectors that watch a block; what feeds a loop behind a reverser is none. */
function zonesOf(record: RailwayRecord): { block: string; label: string }[] {
  return assignmentsOfRole(record, "block").flatMap(({ deviceId, way, block }) => {
    const device = deviceOf(record, deviceId);
    return typeOf(record, device).zones === undefined ? [] : [{ block, label: wayName(device.label, way) }];
  });
}
