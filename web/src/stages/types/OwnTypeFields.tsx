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
import { Plus, Trash2 } from "lucide-react";
import { Button } from "../../kit/Button.tsx";
import { Choice } from "../../kit/Choice.tsx";
import { DataTable } from "../../kit/DataTable.tsx";
import { IconButton } from "../../kit/IconButton.tsx";
import { NumberField } from "../../kit/NumberField.tsx";
import { TextField } from "../../kit/TextField.tsx";
import { Tip } from "../../kit/Tooltip.tsx";
import { useRecord } from "../../session/hooks.ts";
import { useEdit, useTryEdit } from "../../session/useEdit.ts";
import { Settings } from "./Settings.tsx";
import { unitWords } from "./unitWords.ts";

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
  /** Takes the edit, to be made at once or to be shown first. @returns why it cannot be made */
  stage: (group: EditGroup) => string | null;
}) {
  const record = useRecord();
  if (!record) return null;
  return (
    <span className="inline-flex items-start gap-1.5">
      <NumberField
        goesOn
        className="w-24! text-right font-mono"
        label={figure.about}
        value={figure.value}
        empty="catalogue"
        save={(value) => stage(setFigure(record, typeId, name, value))}
      />
      <span className="w-8 pt-1.5 text-left">{unitWords(figure, record.railway.currency)}</span>
    </span>
  );
}

const STANDING_OPTIONS = [
  { value: null, text: "yours" },
  ...STANDINGS.map((value) => ({ value: value as Fact["standing"] | null, text: value })),
];

/** How far an own figure can be relied on. */
export function StandingField({ type, name, figure }: { type: OwnType; name: string; figure: Figure }) {
  const record = useRecord();
  const act = useEdit();
  if (!record) return null;
  const fact = record.facts.find((each) => each.typeId === type.id && each.figure === name);
  const set = (standing: Fact["standing"] | null) => {
    const draft = new Draft(record);
    const text = `${figure.about}: ${figure.value} ${figure.unit}`.slice(0, 80);
    if (standing === null) {
      if (fact) draft.remove("fact", fact.id);
    } else {
      draft.put("fact", {
        id: fact?.id ?? freshId(record, "fact", `${type.id}-${name}`),
        ...{ text, standing, typeId: type.id, figure: name, deviceId: null },
        ...{ source: fact?.source ?? "", at: new Date().toISOString() },
      });
    }
    act(draft.group(`${text}, ${standing ?? "standing not said"}`));
  };
  return (
    <Choice
      size="small"
      label={`Standing of: ${figure.about}`}
      value={fact?.standing ?? null}
      options={STANDING_OPTIONS}
      onChange={set}
    />
  );
}

const SETTING_FIELDS = [
  { field: "name", title: "Name" },
  { field: "about", title: "What it does" },
  { field: "range", title: "Range" },
  { field: "factory", title: "Factory setting" },
  { field: "number", title: "Kept in" },
] as const;

/** What an own type says beyond figures: settings, what is printed beside the terminals, what is in the box. */
export function OwnTypeFields({ own, type }: { own: OwnType; type: DeviceType }) {
  const tryEdit = useTryEdit();
  return (
    <>
      <OwnSettings own={own} />
      {type.terminals.length > 0 && <PrintedNames own={own} type={type} />}
      {type.colours && <Colours own={own} colours={type.colours} />}
      <h3 className="mt-4 mb-1">In the box</h3>
      <TextField
        label="In the box"
        value={own.box}
        placeholder="As 1 motor, 2 screws, no lead"
        save={(box) => tryEdit(changed(own, `In the box of ${own.name}`, { box }))}
      />
    </>
  );
}

const SIDES = ["normal", "reverse"] as const;

/** The two colours of a lamp, in any words. */
function Colours({ own, colours }: { own: OwnType; colours: readonly [string, string] }) {
  const tryEdit = useTryEdit();
  const write = (index: number, text: string) => {
    const next: [string, string] = index === 0 ? [text, colours[1]] : [colours[0], text];
    return tryEdit(changed(own, `Colours of ${own.name}`, { colours: text === "" ? null : next }));
  };
  return (
    <>
      <h3 className="mt-4 mb-1">Colours</h3>
      <div className="grid grid-cols-2 gap-x-4">
        {SIDES.map((side, index) => (
          <div key={side} className="flex items-start gap-2">
            <span className="w-20 flex-none pt-1.5">At {side}</span>
            <div className="min-w-0 flex-1">
              <TextField
                label={`Colour at ${side}`}
                value={colours[index] ?? ""}
                save={(text) => write(index, text.trim().toLowerCase())}
              />
            </div>
          </div>
        ))}
      </div>
    </>
  );
}

function changed(own: OwnType, words: string, change: Partial<OwnType>): EditGroup {
  return { words: words.slice(0, 200), edits: [{ op: "put", kind: "type", value: { ...own, ...change } }] };
}

/** The settings of the generic type, to be taken over, and those that the owner has noted. */
function OwnSettings({ own }: { own: OwnType }) {
  const tryEdit = useTryEdit();
  const act = useEdit();
  const withSettings = (settings: OwnType["settings"]) => changed(own, `Settings of ${own.name}`, { settings });
  const generic = (genericType(own.basedOn)?.settings ?? []).filter(
    ({ name }) => !own.settings.some((each) => each.name === name),
  );
  const rows = own.settings.map((setting, index) => ({ setting, index }));
  const fresh = { name: `setting ${own.settings.length + 1}`, about: "", factory: "", range: "", number: "" };
  const write = (at: number, change: Partial<OwnType["settings"][number]>) =>
    tryEdit(withSettings(own.settings.map((each, index) => (index === at ? { ...each, ...change } : each))));
  return (
    <>
      <Settings
        title="Settings in the device"
        settings={generic}
        action={(setting) => (
          <Button size="small" onClick={() => act(withSettings([...own.settings, notedOf(setting)]))}>
            Change
          </Button>
        )}
      />
      <h3 className="mt-4 mb-1">Settings that you have noted</h3>
      <DataTable
        flowing
        label="Settings that you have noted"
        items={rows}
        // a setting that is called otherwise is still the same row
        idOf={({ index }) => String(index)}
        columns={[
          ...SETTING_FIELDS.map(({ field, title }) => ({
            ...{ id: field, title, wraps: true },
            cell: ({ setting, index }: (typeof rows)[number]) => (
              <TextField
                goesOn
                label={`${field} of setting ${index + 1}`}
                value={setting[field]}
                save={(text) => write(index, { [field]: text })}
              />
            ),
          })),
          {
            ...{ id: "remove", title: "Remove", untitled: true, width: 34 },
            cell: ({ setting, index }) => (
              <IconButton
                icon={Trash2}
                label={`Remove setting ${setting.name}`}
                onClick={() => act(withSettings(own.settings.filter((_, at) => at !== index)))}
              />
            ),
          },
        ]}
      />
      <Button className="mt-2" onClick={() => act(withSettings([...own.settings, fresh]))}>
        <Plus size={14} aria-hidden="true" /> Add a setting
      </Button>
    </>
  );
}

/** What the owner can say of a setting of the catalogue. */
function notedOf({
  name,
  about,
  factory,
  range,
  number = "",
}: NonNullable<DeviceType["settings"]>[number]): OwnType["settings"][number] {
  return { name, about, factory, range, number };
}

/** Each terminal with what is printed beside it on the owner's own. */
function PrintedNames({ own, type }: { own: OwnType; type: DeviceType }) {
  const tryEdit = useTryEdit();
  const write = (name: string, text: string) => {
    const { [name]: _, ...rest } = own.printed;
    const printed = text === "" ? rest : { ...rest, [name]: text };
    return tryEdit(changed(own, `Terminals of ${own.name}`, { printed }));
  };
  return (
    <>
      <h3 className="mt-4">Terminals, and what is printed beside them on yours</h3>
      <div className="mt-1 grid grid-cols-[repeat(auto-fill,minmax(190px,1fr))] gap-x-4 gap-y-1">
        {type.terminals.map(({ name, about }) => (
          <div key={name} className="flex items-start gap-2">
            <Tip text={about}>
              <b className="mono w-10 flex-none pt-1.5">{name}</b>
            </Tip>
            <div className="min-w-0 flex-1">
              <TextField
                label={`Printed beside ${name}`}
                value={own.printed[name] ?? ""}
                placeholder={name}
                save={(text) => write(name, text)}
              />
            </div>
          </div>
        ))}
      </div>
    </>
  );
}
