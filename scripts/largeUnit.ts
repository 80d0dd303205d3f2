import { copyType, Draft, type EditGroup, type RailwayRecord } from "@alderman/core";

/**
 * Fits the discharge unit CD1 with another capacitor and charging resistor than usual, as an own type.
 * @param figures farads, and ohms that it is charged through
 */
export function largeUnit(
  record: RailwayRecord,
  name: string,
  figures: { farads: number; chargeOhms: number },
): EditGroup {
  const { group, id } = copyType(record, "cdu", name);
  const draft = new Draft(record);
  draft.take(group);
  const type = draft.record.types.find((each) => each.id === id);
  const unit = draft.record.devices.find(({ label }) => label === "CD1");
  if (type) draft.put("type", { ...type, figures });
  if (unit) draft.put("device", { ...unit, typeId: id });
  return draft.group("A large unit for routes");
}
