import {
  boardsOnLine,
  changeType,
  type Device,
  type DeviceType,
  Draft,
  typesOfFamily,
  type Verdict,
} from "@alderman/core";
import { Mark } from "../../drawing/Mark.tsx";
import { ChoiceField } from "../../kit/ChoiceField.tsx";
import { Field } from "../../kit/Field.tsx";
import { NumberField } from "../../kit/NumberField.tsx";
import { TextField } from "../../kit/TextField.tsx";
import { useRecord } from "../../session/hooks.ts";
import { useEdit, useTryEdit } from "../../session/useEdit.ts";
import { isBoard } from "./boardEntries.ts";

/** What is written behind a type that does not go with the others. */
const GATE: Record<Verdict["fits"], string> = { fits: "", adapter: "needs more", cannot: "cannot" };

const PLACES = [
  { value: "layout", text: "under the layout" },
  { value: "panel", text: "at the panel" },
] as const;

/** Where a board stands of which nothing was typed. */
function usualPlace(byLine: number | undefined): string {
  return byLine === undefined ? "beside them" : `beside them; ${byLine} by the line`;
}

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
  const tryEdit = useTryEdit();
  if (!record) return null;
  // a board keeps its model, since its outputs are in use by number
  const types = typesOfFamily(record, type.family).filter(
    (each) => each.model === type.model || type.family !== "driver",
  );
  const group = (words: string, change: Partial<Device>) => {
    const draft = new Draft(record);
    draft.put("device", { ...device, ...change });
    return draft.group(words);
  };
  const verdict = gateOf?.(type);
  return (
    <>
      <Field label="Label">
        {(ids) => (
          <TextField
            ids={ids}
            value={device.label}
            save={(label) => tryEdit(group(`${device.label} is called ${label}`, { label }))}
          />
        )}
      </Field>
      <ChoiceField
        label="Type"
        value={type.id}
        options={types.map((each) => ({
          value: each.id,
          text: each.name,
          hint: GATE[gateOf?.(each).fits ?? "fits"],
        }))}
        onChange={(typeId) => act(() => changeType(record, device.id, typeId))}
      >
        {verdict && verdict.fits !== "fits" && (
          <p className="mt-0.5 text-small">
            <Mark verdict={verdict.fits === "cannot" ? "wrong" : "doubtful"} size={13} />{" "}
            {verdict.fits === "cannot" ? "Cannot" : "Needs more"}: {verdict.why}.
          </p>
        )}
      </ChoiceField>
      <ChoiceField
        label="Stands"
        value={device.place}
        options={PLACES}
        onChange={(place) =>
          act(group(`${device.label} stands ${place === "panel" ? "at the panel" : "under the layout"}`, { place }))
        }
      />
      {device.place === "layout" && isBoard(type) && (
        <Field label="From supplies, m">
          {(ids) => (
            <NumberField
              ids={ids}
              value={device.runMetres}
              empty={usualPlace(boardsOnLine(record).get(device.id))}
              save={(runMetres) => {
                const where = runMetres === null ? "with the others" : `${runMetres} m along`;
                return tryEdit(group(`${device.label} stands ${where}`, { runMetres }));
              }}
            />
          )}
        </Field>
      )}
    </>
  );
}
