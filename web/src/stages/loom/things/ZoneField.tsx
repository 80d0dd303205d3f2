import type { RailwayRecord } from "@alderman/core";
import { ChoiceField } from "../../../kit/ChoiceField.tsx";

/** The zone that a strip or cable is for; none where the railway has no zones. */
export function ZoneField({
  record,
  label,
  value,
  set,
}: {
  record: RailwayRecord;
  label: string;
  value: string | null;
  set: (zoneId: string | null) => void;
}) {
  if (record.zones.length === 0) return null;
  const zones = record.zones.map(({ id, label, name }) => ({ value: id as string | null, text: label, hint: name }));
  return <ChoiceField label={label} value={value} options={[{ value: null, text: "any" }, ...zones]} onChange={set} />;
}
