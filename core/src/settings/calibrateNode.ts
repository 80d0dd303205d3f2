import { findType, typeOf } from "../catalogue/catalogue.ts";
import { Draft } from "../equip/draft.ts";
import type { EditGroup } from "../record/edits.ts";
import { deviceOf, find, freshId } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { recordError } from "../record/problems.ts";
import { PLAIN_TYPE } from "../record/schemas.ts";
import { calibrate } from "../units/nodeSwitches.ts";
import { busNodes } from "./nodes.ts";
import { readSetting } from "./settings.ts";

/**
 * One number that was read, with how the switches stood, says what they stand for: the node gets a type of the owner's own that
 * says so, and its number is noted as read. Other nodes of that own type follow.
 * @param on for each switch whether it is on, bit 0 first
 * @param at when it was read, ISO 8601
 * @throws {RecordError} when no meaning of the switches says the number
 */
export function calibrateNode(
  record: RailwayRecord,
  deviceId: string,
  on: readonly boolean[],
  observed: number,
  at: string,
): EditGroup {
  const device = deviceOf(record, deviceId);
  const type = typeOf(record, device);
  const switches = calibrate(on, observed, type.numberSwitches?.onMeans ?? []);
  if (!switches || !Number.isInteger(observed) || observed < 1)
    throw recordError(`No meaning of these switches says ${observed}; look whether they stood so when power came on.`);
  const draft = new Draft(record);
  const own = find(record, "type", device.typeId);
  if (own) draft.put("type", { ...own, switches });
  else {
    const id = freshId(record, "type", `own-${type.id}`);
    draft.put("type", {
      ...PLAIN_TYPE,
      id,
      basedOn: type.id,
      name: `${type.name}, own switches`,
      figures: {},
      switches,
    });
    draft.put("device", { ...device, typeId: id });
  }
  const line = busNodes(draft.record).find((node) => node.line.device.id === deviceId)?.line;
  if (line) draft.take(readSetting(draft.record, line, String(observed), at));
  const name = findType(draft.record, deviceOf(draft.record, deviceId).typeId)?.name ?? type.name;
  return draft.group(`${device.label}: switches as ${observed} tells (${name})`);
}
