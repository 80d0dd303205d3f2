import { typeOf } from "../catalogue/catalogue.ts";
import type { EditGroup } from "../record/edits.ts";
import { assignmentsOfDevice, deviceOf } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { AssignmentOf } from "../record/schemas.ts";
import { Draft } from "./draft.ts";

/** The block that each zone of a detector watches, by the zone's number. */
export function blocksOf(record: RailwayRecord, detectorId: string): Map<number, AssignmentOf<"block">> {
  const blocks = new Map<number, AssignmentOf<"block">>();
  for (const a of assignmentsOfDevice(record, detectorId)) if (a.role === "block") blocks.set(a.way, a);
  return blocks;
}

/** Names the block that a zone watches, in one rail's feed, or the loop behind a reverser; none for an empty name. */
export function setBlock(
  record: RailwayRecord,
  detectorId: string,
  zone: number,
  { block, rail }: Pick<AssignmentOf<"block">, "block" | "rail">,
): EditGroup {
  const draft = new Draft(record);
  const known = blocksOf(record, detectorId).get(zone);
  const { label } = deviceOf(record, detectorId);
  const name = block.trim();
  if (known && name === "") draft.remove("assignment", known.id);
  else if (known) draft.put("assignment", { ...known, block: name, rail });
  else if (name !== "") draft.assign("block", { deviceId: detectorId, way: zone, block: name, rail });
  if (typeOf(record, deviceOf(record, detectorId)).zones === undefined)
    return draft.group(
      name === "" ? `${label} feeds no named loop` : `${label} feeds ${name}, its side A rail ${rail}`,
    );
  return draft.group(
    name === "" ? `${label}-${zone} watches nothing` : `${label}-${zone} watches ${name} in rail ${rail}`,
  );
}
