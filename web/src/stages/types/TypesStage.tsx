import {
  CATALOGUE,
  copyType,
  type DeviceType,
  type EditGroup,
  type Figure,
  findType,
  type OwnType,
  recordError,
  removeEdit,
  typesFromFile,
  writeTypesFile,
} from "@alderman/core";
import { Copy, Download, Trash2, Upload } from "lucide-react";
import { useState } from "react";
import { RemedyPreview } from "../../findings/RemedyPreview.tsx";
import { StageMain } from "../../frame/StageMain.tsx";
import type { DataColumn } from "../../kit/BodyRow.tsx";
import { Button } from "../../kit/Button.tsx";
import { DataTable } from "../../kit/DataTable.tsx";
import { AlertDialog } from "../../kit/Dialog.tsx";
import { FileButton } from "../../kit/FileButton.tsx";
import { Sheet, SheetBody } from "../../kit/Sheet.tsx";
import { Sheets } from "../../kit/Sheets.tsx";
import { TextField } from "../../kit/TextField.tsx";
import { useRecord } from "../../session/hooks.ts";
import { useEdit, useTryEdit } from "../../session/useEdit.ts";
import { saveText } from "../../tools/saveFile.ts";
import { FigureField, OwnTypeFields, StandingField } from "./OwnTypeFields.tsx";
import { Settings } from "./Settings.tsx";
import { unitWords } from "./unitWords.ts";

const TYPE_COLUMNS: DataColumn<DeviceType>[] = [
  { id: "name", title: "Type", value: ({ name }) => name, wraps: true },
  { id: "family", title: "Family", width: 90, value: ({ family }) => family },
];

/** The device types: generic ones to look at and copy, own ones to change. */
export function TypesStage() {
  const record = useRecord();
  const [chosen, setChosen] = useState(CATALOGUE[0]?.id ?? "");
  const act = useEdit();
  if (!record) return null;
  const own = record.types.map(({ id }) => findType(record, id)).filter((type) => type !== undefined);
  const type = findType(record, chosen) ?? CATALOGUE[0];
  const copy = (of: DeviceType) => {
    const { group, id } = copyType(record, of.id, `${of.name}, my own`.slice(0, 80));
    if (act(group)) setChosen(id);
  };
  const importTypes = async (file: File) => {
    const text = await file.text();
    act(() => {
      try {
        return typesFromFile(record, text);
      } catch (error) {
        throw recordError(`Nothing was imported. ${error instanceof Error ? error.message : error}`);
      }
    });
  };
  return (
    <StageMain title="Device types" about="What boards, motors, controls and lamps are made of">
      <Sheets columns="minmax(0,1fr) minmax(0,1.15fr)">
        <Sheet
          title="Types"
          about={`${CATALOGUE.length} generic, ${own.length} of your own`}
          actions={
            <>
              <FileButton
                accept=".json,application/json"
                label="Import types from a file"
                onFile={(file) => void importTypes(file)}
              >
                <Upload size={14} aria-hidden="true" /> Import
              </FileButton>
              <Button
                disabled={own.length === 0}
                onClick={() => saveText("types.json", "application/json", writeTypesFile(record))}
              >
                <Download size={14} aria-hidden="true" /> Export own
              </Button>
            </>
          }
        >
          <DataTable
            label="Device types"
            keptAs="device-types"
            items={[...own, ...CATALOGUE]}
            columns={TYPE_COLUMNS}
            idOf={({ id }) => id}
            chosen={type?.id ?? null}
            onChoose={({ id }) => setChosen(id)}
          />
        </Sheet>
        {type && <TypeSheet key={type.id} type={type} copy={copy} />}
      </Sheets>
    </StageMain>
  );
}

/** One type: what it is, its figures, what is set in it, its terminals. */
function TypeSheet({ type, copy }: { type: DeviceType; copy: (type: DeviceType) => void }) {
  const record = useRecord();
  const act = useEdit();
  const tryEdit = useTryEdit();
  if (!record) return null;
  const own = record.types.find(({ id }) => id === type.id);
  const users = record.devices.filter(({ typeId }) => typeId === type.id).map(({ label }) => label);
  return (
    <Sheet
      title={own ? "Your own type" : "Generic type"}
      about={users.length > 0 ? `used by ${users.join(", ")}` : "not used yet"}
      actions={
        <>
          <Button look={own ? "plain" : "best"} onClick={() => copy(type)}>
            <Copy size={14} aria-hidden="true" /> Copy, and change the figures
          </Button>
          {own && users.length === 0 && (
            <Button onClick={() => act({ words: `Removed the type ${own.name}`, edits: [removeEdit("type", own.id)] })}>
              <Trash2 size={14} aria-hidden="true" /> Remove
            </Button>
          )}
        </>
      }
    >
      <SheetBody still className="p-3">
        {own ? (
          <TextField
            label="Name of the type"
            value={own.name}
            save={(name) =>
              tryEdit({ words: `Called a type ${name}`, edits: [{ op: "put", kind: "type", value: { ...own, name } }] })
            }
          />
        ) : (
          <h3>{type.name}</h3>
        )}
        <p className="mt-1">{type.about}</p>
        {type.caution && <p className="mt-2 border-l-3 border-copper bg-copper-wash px-3 py-2">{type.caution}</p>}
        <Figures type={type} own={own} users={users} />
        {own ? (
          <OwnTypeFields own={own} type={type} />
        ) : (
          <>
            <Settings title="Settings in the device" settings={type.settings ?? []} />
            <Terminals type={type} />
          </>
        )}
        {type.powerOn && <p className="mt-3">When power returns it {POWER_ON[type.powerOn]}.</p>}
      </SheetBody>
    </Sheet>
  );
}

const POWER_ON: Record<NonNullable<DeviceType["powerOn"]>, string> = {
  stays: "is as it was",
  normal: "throws to normal",
  off: "is off until it is commanded",
};

/** The figures of a type; those of one that is in use are changed after a look at what follows. */
function Figures({ type, own, users }: { type: DeviceType; own: OwnType | undefined; users: readonly string[] }) {
  const record = useRecord();
  const tryEdit = useTryEdit();
  const act = useEdit();
  const [staged, setStaged] = useState<EditGroup | null>(null);
  if (!record) return null;
  const stage = (group: EditGroup) => {
    if (users.length === 0) return tryEdit(group);
    setStaged(group);
    return null;
  };
  const columns: DataColumn<[string, Figure]>[] = [
    {
      ...{ id: "figure", title: "Figure", wraps: true },
      cell: ([, { about, tolerance }]) => (
        <>
          {about}
          {tolerance > 0 && <span className="whitespace-nowrap text-ink-2"> ±{Math.round(tolerance * 100)} %</span>}
        </>
      ),
    },
    {
      ...{ id: "value", title: "Value", figures: true, width: own ? 160 : 100 },
      cell: ([name, figure]) =>
        own ? (
          <FigureField typeId={own.id} name={name} figure={figure} stage={stage} />
        ) : (
          `${figure.value} ${unitWords(figure, record.railway.currency)}`
        ),
    },
    {
      ...{ id: "origin", title: "Origin", width: 120 },
      cell: ([name, figure]) =>
        own && figure.origin === "own" ? (
          <StandingField type={own} name={name} figure={figure} />
        ) : (
          <span className="text-ink-2">{figure.origin}</span>
        ),
    },
  ];
  return (
    <div className="mt-3">
      <DataTable
        flowing
        label="Figures"
        items={Object.entries(type.figures)}
        columns={columns}
        idOf={([name]) => name}
      />
      {staged && (
        <AlertDialog
          title="Before it is changed"
          about={`${users.join(", ")} ${users.length === 1 ? "is" : "are"} of this type. The change:`}
          close={() => setStaged(null)}
          actions={
            <Button
              look="best"
              onClick={() => {
                act(staged);
                setStaged(null);
              }}
            >
              Make the change
            </Button>
          }
        >
          <RemedyPreview group={staged} />
        </AlertDialog>
      )}
    </div>
  );
}

function Terminals({ type: { terminals } }: { type: DeviceType }) {
  if (terminals.length === 0) return null;
  return (
    <>
      <h3 className="mt-4">Terminals</h3>
      <p className="mt-1">
        {terminals.map(({ name, about }) => (
          <span key={name} className="mr-3 inline-block">
            <b className="mono">{name}</b> <span className="text-ink-2">{about}</span>
          </span>
        ))}
      </p>
    </>
  );
}
