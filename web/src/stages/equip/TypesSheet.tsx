import {
  CATALOGUE,
  copyType,
  type DeviceType,
  type EditGroup,
  findType,
  removeEdit,
  typesFromFile,
  writeTypesFile,
} from "@alderman/core";
import { useState } from "react";
import { RemedyPreview } from "../../parts/RemedyPreview.tsx";
import { Sheet, StageMain } from "../../parts/Sheet.tsx";
import { saveText } from "../../parts/saveText.ts";
import { useRecord } from "../../session/hooks.ts";
import { useEdit } from "../../session/useEdit.ts";
import { notify } from "../../store/notices.ts";
import { useAppDispatch } from "../../store/store.ts";
import { FigureField, OwnTypeFields, StandingField, unitWords } from "./OwnTypeFields.tsx";

/** The device types: generic ones to look at and copy, own ones to change. */
export function TypesSheet() {
  const record = useRecord();
  const dispatch = useAppDispatch();
  const [chosen, setChosen] = useState(CATALOGUE[0]?.id ?? "");
  const act = useEdit();
  if (!record) return null;
  const own = record.types.map(({ id }) => findType(record, id)).filter((type) => type !== undefined);
  const type = findType(record, chosen) ?? CATALOGUE[0];
  const copy = (of: DeviceType) => {
    const { group, id } = copyType(record, of.id, `${of.name}, my own`.slice(0, 80));
    act(group);
    setChosen(id);
  };
  const takeIn = async (file: File | undefined) => {
    if (!file) return;
    try {
      act(typesFromFile(record, await file.text()));
    } catch (error) {
      dispatch(notify(`Nothing was imported. ${error instanceof Error ? error.message : String(error)}`));
    }
  };
  const row = (each: DeviceType) => (
    <tr
      key={each.id}
      aria-selected={each.id === type?.id}
      className="cursor-pointer"
      onClick={() => setChosen(each.id)}
    >
      <td>
        <button type="button" className="text-left" onClick={() => setChosen(each.id)}>
          {each.name}
        </button>
      </td>
      <td className="quiet">{each.family}</td>
    </tr>
  );
  return (
    <StageMain title="Device types" about="What boards, motors, controls and lamps are made of">
      <div className="grid min-h-0 grid-cols-[minmax(0,1fr)_minmax(0,1.1fr)] gap-2.5">
        <Sheet
          title="Types"
          about={`${CATALOGUE.length} generic, ${own.length} of your own`}
          actions={
            <>
              <label className="btn cursor-pointer focus-within:outline-3 focus-within:outline-focus">
                Take in
                <input
                  type="file"
                  accept=".json,application/json"
                  className="sr-only"
                  aria-label="Take in types from a file"
                  onChange={(event) => {
                    void takeIn(event.target.files?.[0]);
                    event.target.value = "";
                  }}
                />
              </label>
              <button
                type="button"
                className="btn"
                disabled={own.length === 0}
                onClick={() => saveText("types.json", "application/json", writeTypesFile(record))}
              >
                Export own
              </button>
            </>
          }
        >
          <div className="scroll">
            <table className="list">
              <tbody>
                {own.map(row)}
                {CATALOGUE.map(row)}
              </tbody>
            </table>
          </div>
        </Sheet>
        {type && <TypeFigures key={type.id} type={type} copy={copy} />}
      </div>
    </StageMain>
  );
}

function TypeFigures({ type, copy }: { type: DeviceType; copy: (type: DeviceType) => void }) {
  const record = useRecord();
  const act = useEdit();
  const [staged, setStaged] = useState<EditGroup | null>(null);
  if (!record) return null;
  const own = record.types.find(({ id }) => id === type.id);
  const users = record.devices.filter(({ typeId }) => typeId === type.id).map(({ label }) => label);
  return (
    <Sheet
      title={own ? "Your own type" : "Generic type"}
      about={users.length > 0 ? `used by ${users.join(", ")}` : "not used yet"}
    >
      <div className="scroll p-3">
        {own ? (
          <input
            key={own.name}
            className="field"
            aria-label="Name of the type"
            defaultValue={own.name}
            maxLength={80}
            onBlur={(event) => {
              const name = event.target.value.trim();
              if (name && name !== own.name)
                act({ words: `Called a type ${name}`, edits: [{ op: "put", kind: "type", value: { ...own, name } }] });
            }}
          />
        ) : (
          <h3>{type.name}</h3>
        )}
        <p className="mt-1">{type.about}</p>
        {type.caution && <p className="mt-2 border-l-3 border-copper bg-copper-wash px-3 py-2">{type.caution}</p>}
        <table className="list mt-3">
          <thead>
            <tr>
              <th>Figure</th>
              <th className="num head">Value</th>
              <th>Origin</th>
            </tr>
          </thead>
          <tbody>
            {Object.entries(type.figures).map(([name, figure]) => (
              <tr key={name}>
                <td className="!whitespace-normal">
                  {figure.about}
                  {figure.tolerance > 0 && <span className="quiet"> ±{Math.round(figure.tolerance * 100)} %</span>}
                </td>
                <td className="num">
                  {own ? (
                    <FigureField
                      key={figure.value}
                      typeId={own.id}
                      name={name}
                      figure={figure}
                      stage={users.length > 0 ? setStaged : act}
                    />
                  ) : (
                    `${figure.value} ${unitWords(figure, record.railway.currency)}`
                  )}
                </td>
                <td className="quiet">
                  {own && figure.origin === "own" ? (
                    <StandingField type={own} name={name} figure={figure} />
                  ) : (
                    figure.origin
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
        {staged && (
          <div className="mt-2 border border-rule p-2" role="group" aria-label="Before it is changed">
            <p>
              {users.join(", ")} {users.length === 1 ? "is" : "are"} of this type. The change:
            </p>
            <RemedyPreview group={staged} />
            <div className="mt-2 flex gap-2">
              <button
                type="button"
                className="btn go"
                onClick={() => {
                  act(staged);
                  setStaged(null);
                }}
              >
                Make the change
              </button>
              <button type="button" className="btn" onClick={() => setStaged(null)}>
                Leave it
              </button>
            </div>
          </div>
        )}
        {own && <OwnTypeFields own={own} type={type} />}
        {!own && type.settings && type.settings.length > 0 && (
          <>
            <h3 className="mt-4">Settings in the device</h3>
            <table className="list mt-1">
              <tbody>
                {type.settings.map((setting) => (
                  <tr key={setting.name}>
                    <td className="font-semibold">{setting.name}</td>
                    <td className="!whitespace-normal">{setting.about}</td>
                    <td className="quiet !whitespace-normal">
                      {setting.range}; {setting.factory} as bought
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          </>
        )}
        {type.powerOn && <p className="mt-3">When power returns it {POWER_ON[type.powerOn]}.</p>}
        {!own && type.terminals.length > 0 && <h3 className="mt-4">Terminals</h3>}
        <p className="mt-1">
          {(own ? [] : type.terminals).map(({ name, about }) => (
            <span key={name} className="mr-3 inline-block">
              <b className="mono">{name}</b> <span className="quiet">{about}</span>
            </span>
          ))}
        </p>
        <div className="mt-4 flex gap-2">
          <button type="button" className={own ? "btn" : "btn go"} onClick={() => copy(type)}>
            Copy, and change the figures
          </button>
          {own && users.length === 0 && (
            <button
              type="button"
              className="btn"
              onClick={() => act({ words: `Removed the type ${own.name}`, edits: [removeEdit("type", own.id)] })}
            >
              Remove this type
            </button>
          )}
        </div>
      </div>
    </Sheet>
  );
}

const POWER_ON: Record<NonNullable<DeviceType["powerOn"]>, string> = {
  stays: "is as it was",
  normal: "throws to normal",
  off: "is off until it is told",
};
