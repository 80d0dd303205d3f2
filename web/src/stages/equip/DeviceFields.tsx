import { changeType, type Device, type DeviceType, Draft, typesOfFamily } from "@alderman/core";
import { useEdit } from "../../parts/FindingCard.tsx";
import { useAppSelector } from "../../store/store.ts";

/** Label, type and place of one device, as rows of a two-column form; each is saved when it is changed. */
export function DeviceFields({ device, type }: { device: Device; type: DeviceType }) {
  const record = useAppSelector((state) => state.railway.record);
  const act = useEdit();
  if (!record) return null;
  // a board keeps its model, since its outputs are in use by number
  const types = typesOfFamily(record, type.family).filter(
    (each) => each.model === type.model || type.family !== "driver",
  );
  const set = (words: string, change: Partial<Device>) => {
    const draft = new Draft(record);
    draft.put("device", { ...device, ...change });
    act(draft.group(words));
  };
  const id = (field: string) => `${field}-${device.id}`;
  return (
    <>
      <label htmlFor={id("label")}>Label</label>
      <input
        id={id("label")}
        key={device.label}
        className="field"
        defaultValue={device.label}
        maxLength={24}
        onBlur={(event) => {
          const label = event.target.value.trim();
          if (label && label !== device.label) set(`${device.label} is called ${label}`, { label });
        }}
      />
      <label htmlFor={id("type")}>Type</label>
      <select
        id={id("type")}
        className="field"
        value={type.id}
        onChange={(event) => act(changeType(record, device.id, event.target.value))}
      >
        {types.map((each) => (
          <option key={each.id} value={each.id}>
            {each.name}
          </option>
        ))}
      </select>
      <label htmlFor={id("place")}>Stands</label>
      <select
        id={id("place")}
        className="field"
        value={device.place}
        onChange={(event) => {
          const place = event.target.value as Device["place"];
          set(`${device.label} stands ${place === "panel" ? "at the panel" : "under the layout"}`, { place });
        }}
      >
        <option value="layout">under the layout</option>
        <option value="panel">at the panel</option>
      </select>
    </>
  );
}
