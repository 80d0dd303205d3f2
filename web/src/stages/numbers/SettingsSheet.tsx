import {
  count,
  faultOf,
  likeLines,
  type RailwayRecord,
  readSetting,
  readSettingRows,
  type SettingLine,
  type SettingStanding,
  settingLines,
  settingRows,
  settingRowsFromJson,
  wantSetting,
  wantSettings,
} from "@alderman/core";
import { Download, Upload } from "lucide-react";
import Papa from "papaparse";
import { useMemo, useState } from "react";
import { Mark } from "../../drawing/Mark.tsx";
import type { Verdict } from "../../drawing/verdict.ts";
import type { DataColumn } from "../../kit/BodyRow.tsx";
import { Button } from "../../kit/Button.tsx";
import { Choice } from "../../kit/Choice.tsx";
import { DataTable } from "../../kit/DataTable.tsx";
import { FileButton } from "../../kit/FileButton.tsx";
import { Segmented } from "../../kit/Segmented.tsx";
import { Sheet } from "../../kit/Sheet.tsx";
import { TextField } from "../../kit/TextField.tsx";
import { useEdit, useTryEdit } from "../../session/useEdit.ts";
import { saveCsv, saveText } from "../../tools/saveFile.ts";
import { shortDateAndTime } from "../../tools/when.ts";

type Shown = "all" | "open" | "own";

const SHOWN: { value: Shown; text: string }[] = [
  { value: "all", text: "All" },
  { value: "open", text: "Not right yet" },
  { value: "own", text: "Not the factory's" },
];

const VERDICTS: Record<SettingStanding, Verdict> = { agrees: "good", differs: "doubtful", due: "open", bought: "open" };
const WORDS: Record<SettingStanding, string> = {
  agrees: "as wanted",
  differs: "otherwise",
  due: "to be set",
  bought: "as bought",
};

/** What is set in devices themselves: as wanted, as read back, one by one or all of a kind at once. */
export function SettingsSheet({
  record,
  chosen,
  choose,
}: {
  record: RailwayRecord;
  /** The setting whose device's order of setting is shown. */
  chosen: string | null;
  choose: (line: SettingLine) => void;
}) {
  const act = useEdit();
  const [shown, setShown] = useState<Shown>("all");
  const [told, setTold] = useState<readonly string[]>([]);
  const lines = useMemo(() => settingLines(record), [record]);
  const rows = lines.filter(
    ({ standing, isOwn }) =>
      shown === "all" || (shown === "own" ? isOwn : standing === "due" || standing === "differs"),
  );
  const columns = useMemo(() => columnsWith(record, lines), [record, lines]);
  const take = async (file: File) => {
    const text = await file.text();
    act(() => {
      const { group, refused } = readSettingRows(record, rowsIn(text));
      setTold(refused.map(({ row, why }) => `Row ${row}: ${why}`));
      return group;
    });
  };
  return (
    <Sheet title="Settings" about={aboutOf(lines)}>
      <DataTable
        label="Settings"
        keptAs="settings"
        bar={
          <>
            <Segmented size="small" label="Which settings" value={shown} segments={SHOWN} onChange={setShown} />
            <Button size="small" onClick={() => saveCsv("settings.csv", settingRows(lines))}>
              <Download size={13} aria-hidden="true" /> CSV
            </Button>
            <Button
              size="small"
              onClick={() =>
                saveText("settings.json", "application/json", `${JSON.stringify(plain(lines), null, 1)}\n`)
              }
            >
              <Download size={13} aria-hidden="true" /> JSON
            </Button>
            <FileButton size="small" accept=".csv,.json,text/csv,application/json" onFile={(file) => void take(file)}>
              <Upload size={13} aria-hidden="true" /> Take over a file
            </FileButton>
          </>
        }
        items={rows}
        columns={columns}
        idOf={({ id }) => id}
        chosen={chosen}
        onChoose={choose}
        empty={
          <p className="p-3 text-ink-2">{lines.length === 0 ? "No device here is set in itself." : "None of them."}</p>
        }
      />
      {told.length > 0 && (
        <div role="alert" className="flex-none border-t border-rule bg-red-wash px-3 py-2 text-small">
          <b>{count(told.length, "row")} could not be taken over.</b>
          <ul className="max-h-28 overflow-y-auto">
            {told.map((each) => (
              <li key={each}>{each}</li>
            ))}
          </ul>
          <Button size="small" className="mt-1" onClick={() => setTold([])}>
            I have seen it
          </Button>
        </div>
      )}
    </Sheet>
  );
}

/** Rows of a file of settings: CSV, or JSON as it is written here. */
function rowsIn(text: string): string[][] {
  if (!text.trimStart().startsWith("[")) return Papa.parse<string[]>(text, { skipEmptyLines: true }).data;
  return settingRowsFromJson(text);
}

function aboutOf(lines: readonly SettingLine[]): string {
  const at = (standing: SettingStanding) => lines.filter((line) => line.standing === standing).length;
  return `${at("due")} to be set, ${at("differs")} read back otherwise, ${at("agrees")} as wanted`;
}

/** Lines as they are written into a JSON file. */
function plain(lines: readonly SettingLine[]) {
  return lines.map(({ device, way, setting, wanted, read, readAt, standing }) => ({
    ...{ device: device.label, output: way, setting: setting.name, range: setting.range, factory: setting.factory },
    ...{ wanted, read, readAt, standing },
  }));
}

function columnsWith(record: RailwayRecord, lines: readonly SettingLine[]): DataColumn<SettingLine>[] {
  return [
    { id: "of", title: "Of", width: 72, mono: true, value: ({ of }) => of },
    {
      ...{ id: "name", title: "Setting", value: ({ setting }) => setting.name },
      cell: ({ setting: { name, about, range, factory } }) => (
        <span title={`${about}; ${range}, from the factory ${factory}`}>{name}</span>
      ),
    },
    { id: "number", title: "Kept in", hidden: true, value: ({ setting }) => setting.number ?? "" },
    { id: "range", title: "Range", hidden: true, value: ({ setting }) => setting.range },
    { id: "factory", title: "Factory", hidden: true, value: ({ setting }) => setting.factory },
    {
      ...{ id: "wanted", title: "Wanted", width: 160, value: ({ wanted }) => wanted },
      cell: (line) => <Wanted record={record} line={line} />,
    },
    {
      ...{ id: "read", title: "Read back", width: 110, value: ({ read }) => read },
      cell: (line) => <ReadBack record={record} line={line} />,
    },
    {
      ...{ id: "at", title: "When", spare: true, hidden: true, value: ({ readAt }) => readAt },
      cell: ({ readAt }) => readAt && shortDateAndTime(readAt),
    },
    {
      ...{ id: "standing", title: "Standing", width: 110, value: ({ standing }) => WORDS[standing] },
      cell: ({ standing }) => (
        <>
          <Mark verdict={VERDICTS[standing]} size={14} /> {WORDS[standing]}
        </>
      ),
    },
    {
      ...{ id: "all", title: "For all of the kind", untitled: true, width: 68 },
      cell: (line) => <ForAll record={record} line={line} lines={lines} />,
    },
  ];
}

/** What is wanted: one of the values that there are, or as it is typed. */
function Wanted({ record, line }: { record: RailwayRecord; line: SettingLine }) {
  const tryEdit = useTryEdit();
  const { setting, of, wanted } = line;
  const save = (text: string) => {
    const value = text.trim();
    if (value === "" || value === setting.factory) return tryEdit(() => wantSetting(record, line, null));
    return faultOf(line, value) ?? tryEdit(() => wantSetting(record, line, value));
  };
  const label = `${setting.name} of ${of}, wanted`;
  if (setting.values) {
    const options = setting.values.map((value) => ({ value, text: value }));
    return (
      <Choice
        size="small"
        className="w-full"
        label={label}
        value={wanted}
        options={options}
        onChange={(value) => save(value)}
      />
    );
  }
  return <TextField label={label} className="min-h-6!" goesOn value={wanted} save={save} />;
}

/** What the device gave back, typed as it was read. */
function ReadBack({ record, line }: { record: RailwayRecord; line: SettingLine }) {
  const tryEdit = useTryEdit();
  return (
    <TextField
      label={`${line.setting.name} of ${line.of}, read back`}
      className="min-h-6!"
      goesOn
      placeholder="not yet"
      value={line.read ?? ""}
      save={(text) =>
        text.trim() === ""
          ? null
          : tryEdit(() => readSetting(record, line, text.trim().slice(0, 40), new Date().toISOString()))
      }
    />
  );
}

/** The same for all devices of the kind. */
function ForAll({ record, line, lines }: { record: RailwayRecord; line: SettingLine; lines: readonly SettingLine[] }) {
  const act = useEdit();
  const like = likeLines(lines, line);
  if (like.length < 2 || like.every(({ wanted }) => wanted === line.wanted)) return null;
  return (
    <Button
      size="small"
      aria-label={`${line.setting.name} ${line.wanted} for all ${like.length} of the kind`}
      onClick={(event) => {
        event.stopPropagation();
        act(() => wantSettings(record, like, line.isOwn ? line.wanted : null));
      }}
    >
      all {like.length}
    </Button>
  );
}
