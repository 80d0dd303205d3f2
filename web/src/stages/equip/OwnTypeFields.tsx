import {
  type DeviceType,
  Draft,
  type EditGroup,
  type Fact,
  type Figure,
  freshId,
  genericType,
  type OwnType,
  STANDINGS,
  setFigure,
} from "@alderman/core";
import { type ReactNode, useState } from "react";
import { useRecord } from "../../session/hooks.ts";
import { useEdit } from "../../session/useEdit.ts";

/** The unit of a figure as it is written beside it. */
export function unitWords({ unit }: Figure, currency: string): string {
  return unit === "money" ? currency : unit;
}

/** One figure of an own type; an emptied field goes back to the catalogue's. */
export function FigureField({
  typeId,
  name,
  figure,
  stage,
}: {
  typeId: string;
  name: string;
  figure: Figure;
  /** Takes the edit, to be made at once or to be shown first. */
  stage: (group: EditGroup) => void;
}) {
  const record = useRecord();
  const [text, setText] = useState(String(figure.value));
  if (!record) return null;
  const value = Number(text.replace(",", "."));
  const save = () => {
    if (text.trim() === "") stage(setFigure(record, typeId, name, null));
    else if (!Number.isNaN(value) && value !== figure.value) stage(setFigure(record, typeId, name, value));
  };
  return (
    <span className="inline-flex items-center gap-1.5">
      <input
        className="field mono !w-24 text-right"
        aria-label={figure.about}
        aria-invalid={Number.isNaN(value)}
        inputMode="decimal"
        value={text}
        onChange={(event) => setText(event.target.value)}
        onBlur={save}
        onKeyDown={(event) => event.key === "Enter" && event.currentTarget.blur()}
      />
      <span className="w-8 text-left">{unitWords(figure, record.railway.currency)}</span>
    </span>
  );
}

/** How far an own figure can be relied on. */
export function StandingField({ type, name, figure }: { type: OwnType; name: string; figure: Figure }) {
  const record = useRecord();
  const act = useEdit();
  if (!record) return null;
  const fact = record.facts.find((each) => each.typeId === type.id && each.figure === name);
  const set = (standing: string) => {
    const draft = new Draft(record);
    const text = `${figure.about}: ${figure.value} ${figure.unit}`.slice(0, 80);
    if (standing === "") {
      if (fact) draft.remove("fact", fact.id);
    } else {
      draft.put("fact", {
        id: fact?.id ?? freshId(record, "fact", `${type.id}-${name}`),
        ...{ text, standing: standing as Fact["standing"], typeId: type.id, figure: name, deviceId: null },
        ...{ source: fact?.source ?? "", at: new Date().toISOString() },
      });
    }
    act(draft.group(`${text}, ${standing || "standing not said"}`));
  };
  return (
    <select
      className="field !w-auto !min-h-6"
      aria-label={`Standing of: ${figure.about}`}
      value={fact?.standing ?? ""}
      onChange={(event) => set(event.target.value)}
    >
      <option value="">yours</option>
      {STANDINGS.map((each) => (
        <option key={each}>{each}</option>
      ))}
    </select>
  );
}

/** What an own type says beyond figures: settings, what is printed beside the terminals, what is in the box. */
export function OwnTypeFields({ own, type }: { own: OwnType; type: DeviceType }) {
  const act = useEdit();
  const put = (words: string, change: Partial<OwnType>) =>
    act({ words: words.slice(0, 200), edits: [{ op: "put", kind: "type", value: { ...own, ...change } }] });
  const setSetting = (index: number, change: Partial<OwnType["settings"][number]>) => {
    const settings = own.settings.map((each, at) => (at === index ? { ...each, ...change } : each));
    put(`Settings of ${own.name}`, { settings });
  };
  const generic = genericType(own.basedOn)?.settings ?? [];
  return (
    <>
      <h3 className="mt-4">Settings in the device</h3>
      {generic.length + own.settings.length > 0 && (
        <table className="list wraps mt-1" aria-label="Settings in the device">
          <thead>
            <tr>
              <th>Name</th>
              <th>What it does</th>
              <th>Range</th>
              <th>As bought</th>
              <th />
            </tr>
          </thead>
          <tbody>
            {generic
              .filter(({ name }) => !own.settings.some((each) => each.name === name))
              .map((setting) => (
                <tr key={setting.name}>
                  <td className="font-semibold">{setting.name}</td>
                  <td>{setting.about}</td>
                  <td className="quiet">{setting.range}</td>
                  <td className="quiet">{setting.factory}</td>
                  <td className="text-right">
                    <button
                      type="button"
                      className="btn !min-h-6"
                      onClick={() => put(`Settings of ${own.name}`, { settings: [...own.settings, { ...setting }] })}
                    >
                      Change
                    </button>
                  </td>
                </tr>
              ))}
            {own.settings.map((setting, index) => (
              // a setting that is called otherwise is still the same row
              // biome-ignore lint/suspicious/noArrayIndexKey: rows have no other name that stays
              <tr key={index}>
                {(["name", "about", "range", "factory"] as const).map((field) => (
                  <td key={field}>
                    <TextField
                      label={`${field} of setting ${index + 1}`}
                      value={setting[field]}
                      most={field === "name" ? 24 : 80}
                      required={field === "name"}
                      save={(value) => setSetting(index, { [field]: value })}
                    />
                  </td>
                ))}
                <td className="text-right">
                  <button
                    type="button"
                    className="btn !min-h-6"
                    aria-label={`Remove setting ${setting.name}`}
                    onClick={() =>
                      put(`Settings of ${own.name}`, { settings: own.settings.filter((_, at) => at !== index) })
                    }
                  >
                    Remove
                  </button>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <button
        type="button"
        className="btn mt-2"
        onClick={() =>
          put(`Settings of ${own.name}`, {
            settings: [
              ...own.settings,
              { name: `setting ${own.settings.length + 1}`, about: "", factory: "", range: "" },
            ],
          })
        }
      >
        Add a setting
      </button>
      {type.terminals.length > 0 && (
        <>
          <h3 className="mt-4">Terminals, and what is printed beside them on yours</h3>
          <div className="mt-1 grid grid-cols-[repeat(auto-fill,minmax(190px,1fr))] gap-x-4 gap-y-1">
            {type.terminals.map(({ name, about }) => (
              <Labelled key={name} label={name} title={about}>
                <TextField
                  label={`Printed beside ${name}`}
                  value={own.printed[name] ?? ""}
                  placeholder={name}
                  most={12}
                  save={(value) => {
                    const { [name]: _, ...rest } = own.printed;
                    put(`Terminals of ${own.name}`, { printed: value === "" ? rest : { ...rest, [name]: value } });
                  }}
                />
              </Labelled>
            ))}
          </div>
        </>
      )}
      <h3 className="mt-4">In the box</h3>
      <TextField
        label="In the box"
        value={own.box}
        placeholder="As 1 motor, 2 screws, no lead"
        most={500}
        save={(box) => put(`In the box of ${own.name}`, { box })}
      />
    </>
  );
}

function Labelled({ label, title, children }: { label: string; title: string; children: ReactNode }) {
  return (
    <span className="flex items-center gap-2" title={title}>
      <b className="mono w-10 flex-none">{label}</b>
      {children}
    </span>
  );
}

/** A text that is saved when it is left. */
function TextField({
  label,
  value,
  most,
  placeholder,
  required = false,
  save,
}: {
  label: string;
  value: string;
  most: number;
  placeholder?: string;
  required?: boolean;
  save: (value: string) => void;
}) {
  return (
    <input
      key={value}
      className="field"
      aria-label={label}
      defaultValue={value}
      maxLength={most}
      {...(placeholder ? { placeholder } : {})}
      onBlur={(event) => {
        const text = event.target.value.trim();
        if (text !== value && (text !== "" || !required)) save(text);
      }}
      onKeyDown={(event) => event.key === "Enter" && event.currentTarget.blur()}
    />
  );
}
