import {
  colourOf,
  PURPOSES,
  type Purpose,
  type RailwayRecord,
  setLeadColour,
  setPurposeColour,
  terminalName,
  typeOf,
  WIRE_COLOUR_CODES,
  WIRE_COLOURS,
  type WireColour,
} from "@alderman/core";
import { type ReactNode, useMemo, useState } from "react";
import { useOverview } from "../../derivation/hooks.ts";
import { Swatch } from "../../drawing/Swatch.tsx";
import { FindingCard } from "../../findings/FindingCard.tsx";
import type { DataColumn } from "../../kit/BodyRow.tsx";
import { Button } from "../../kit/Button.tsx";
import { Choice } from "../../kit/Choice.tsx";
import { Combobox } from "../../kit/Combobox.tsx";
import { DataTable } from "../../kit/DataTable.tsx";
import { Sheet } from "../../kit/Sheet.tsx";
import { useRecord } from "../../session/hooks.ts";
import { useEdit } from "../../session/useEdit.ts";

/** What a colour says: wires for a purpose, or the lead of a device. */
interface Row {
  id: string;
  what: string;
  where: string;
  colour: WireColour;
  isCustom: boolean;
  wires: number;
  set: (colour: WireColour | null) => ReturnType<typeof setPurposeColour>;
}

const COLOURS = WIRE_COLOUR_CODES.map((value) => ({ value, text: value, hint: WIRE_COLOURS[value] }));

/** The railway's colour dictionary: what each colour says, here and there, and where one says two things. */
export function ColoursSheet({ lists }: { lists: ReactNode }) {
  const record = useRecord();
  const overview = useOverview();
  const act = useEdit();
  const rows = useMemo(() => (record && overview ? rowsOf(record, overview.loom.wires) : []), [record, overview]);
  if (!record || !overview) return null;
  const clashes = overview.findings.filter(({ ruleId }) => ruleId === "colour-two-meanings");
  const columns: DataColumn<Row>[] = [
    { id: "what", title: "What", value: ({ what }) => what },
    { id: "where", title: "Where", value: ({ where }) => where },
    {
      ...{ id: "colour", title: "Colour", width: 150, value: ({ colour }) => colour },
      cell: ({ what, colour, set }) => (
        <span className="flex items-center gap-2">
          <Choice
            size="small"
            label={`Colour: ${what}`}
            value={colour}
            options={COLOURS}
            onChange={(now) => act(() => set(now))}
          />
          <Swatch colour={colour} />
        </span>
      ),
    },
    { id: "wires", title: "Wires", figures: true, value: ({ wires }) => wires },
    {
      ...{ id: "own", title: "By custom", untitled: true, width: 110 },
      cell: ({ isCustom, what, set }) =>
        isCustom && (
          <Button size="small" aria-label={`As usual: ${what}`} onClick={() => act(() => set(null))}>
            {what.startsWith("lead") ? "Forget" : "As usual"}
          </Button>
        ),
    },
  ];
  return (
    <Sheet title="Colours" about="one colour, one meaning; what is cut stays as it is" actions={lists}>
      <div className="flex-none">
        {clashes.map((finding) => (
          <FindingCard key={finding.key} finding={finding} />
        ))}
      </div>
      <DataTable
        label="Colours"
        keptAs="colours"
        bar={<AddLead record={record} />}
        items={rows}
        columns={columns}
        idOf={({ id }) => id}
        empty={<p className="p-3 text-ink-2">No wires yet.</p>}
      />
    </Sheet>
  );
}

/** The colour of a lead that a device was bought with. */
function AddLead({ record }: { record: RailwayRecord }) {
  const act = useEdit();
  const [lead, setLead] = useState<string | null>(null);
  const options = useMemo(
    () =>
      record.devices.flatMap((device) =>
        typeOf(record, device).terminals.map(({ name }) => ({
          value: `${device.id}:${name}` as string | null,
          text: terminalName(device.label, name),
        })),
      ),
    [record],
  );
  const [deviceId = "", terminal = ""] = lead?.split(":") ?? [];
  return (
    <>
      <span className="text-small text-ink-2">The lead at</span>
      <Combobox className="w-28" label="Lead of a device" value={lead} options={options} onChange={setLead} />
      {lead !== null && (
        <Choice
          size="small"
          label="Colour of the lead"
          value={null}
          options={[{ value: null, text: "is ..." }, ...COLOURS] as { value: WireColour | null; text: string }[]}
          onChange={(colour) => {
            if (colour === null) return;
            act(() => setLeadColour(record, { deviceId, terminal }, colour));
            setLead(null);
          }}
        />
      )}
    </>
  );
}

function rowsOf(record: RailwayRecord, wires: readonly { purpose: Purpose; core: unknown }[]): Row[] {
  const counts = new Map<Purpose, number>();
  for (const { purpose, core } of wires) if (!core) counts.set(purpose, (counts.get(purpose) ?? 0) + 1);
  const customs = new Set(record.customs.flatMap(({ purpose }) => purpose ?? []));
  const purposes = (Object.keys(PURPOSES) as Purpose[]).filter(
    (purpose) => counts.has(purpose) || customs.has(purpose),
  );
  return [
    ...purposes.map(
      (purpose): Row => ({
        ...{ id: purpose, what: PURPOSES[purpose].about, where: "the whole railway", wires: counts.get(purpose) ?? 0 },
        ...{ colour: colourOf(record, purpose), isCustom: customs.has(purpose) },
        set: (colour) => setPurposeColour(record, purpose, colour),
      }),
    ),
    ...record.customs.flatMap(({ id, deviceId, terminal, colour }): Row[] => {
      if (deviceId === null || terminal === null) return [];
      const label = record.devices.find((device) => device.id === deviceId)?.label ?? "";
      return [
        {
          ...{ id, what: "lead as bought", where: terminalName(label, terminal), colour, isCustom: true, wires: 1 },
          set: (now) => setLeadColour(record, { deviceId, terminal }, now),
        },
      ];
    }),
  ];
}
