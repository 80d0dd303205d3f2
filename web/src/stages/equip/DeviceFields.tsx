import { changeType, type Device, type DeviceType, Draft, typesOfFamily, type Verdict } from "@alderman/core";
import { Mark } from "../../parts/Mark.tsx";
import { useRecord } from "../../session/hooks.ts";
import { useEdit } from "../../session/useEdit.ts";

/** What is written behind a type that does not go with the others. */
const GATE: Record<Verdict["fits"], string> = { fits: "", adapter: " (needs more)", cannot: " (cannot)" };

/** Label, type and place of one device, as rows of a two-column form; each is saved when it is changed. */
export function DeviceFields({
  device,
  type,
  gateOf,
}: {
  device: Device;
  type: DeviceType;
  /** What the gate says of a type beside what else the turnout has. */
  gateOf?: (type: DeviceType) => Verdict;
}) {
  const record = useRecord();
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
  const verdict = gateOf?.(type);
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
            {GATE[gateOf?.(each).fits ?? "fits"]}
          </option>
        ))}
      </select>
      {verdict && verdict.fits !== "fits" && (
        <p className="col-start-2 text-[12px]">
          <Mark verdict={verdict.fits === "cannot" ? "wrong" : "doubtful"} size={13} />{" "}
          {verdict.fits === "cannot" ? "Cannot" : "Needs more"}: {verdict.why}.
        </p>
      )}
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
