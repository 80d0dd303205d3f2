import {
  type Device,
  type DeviceType,
  feederOf,
  feedFrom,
  possibleCommands,
  possibleSupplies,
  type RailwayRecord,
  typeOf,
} from "@alderman/core";
import { ChoiceField } from "../../kit/ChoiceField.tsx";
import { useEdit } from "../../session/useEdit.ts";

/** What feeds a board and what commands it, each chosen among what the railway has. */
export function Feeds({ record, device, type }: { record: RailwayRecord; device: Device; type: DeviceType }) {
  const act = useEdit();
  const fields = [
    { role: "supply", label: "Fed by", from: possibleSupplies(record, type) },
    {
      role: "commands",
      label: type.model === "detector" ? "Feeds blocks from" : "Commands from",
      from: possibleCommands(record, type),
    },
  ] as const;
  return fields.map(({ role, label, from }) => {
    const now = feederOf(record, device.id, role);
    if (from.length === 0 && now === null) return null;
    return (
      <ChoiceField
        key={role}
        label={label}
        value={now}
        options={[
          { value: null, text: "nothing yet" },
          ...from.map((each) => ({ value: each.id, text: `${each.label}, ${typeOf(record, each).name}` })),
        ]}
        onChange={(fromId) => act(() => feedFrom(record, device, role, fromId))}
      />
    );
  });
}
