import {
  CABLE_COLOUR_WORDS,
  CABLE_COLOURS,
  type Cable,
  type CableColours,
  coreColour,
  coresOf,
  GAUGES,
  type Gauge,
  laidCable,
  moveCore,
  PURPOSES,
  setCable,
  type Wire,
} from "@alderman/core";
import { useMemo } from "react";
import { Swatch } from "../../../drawing/Swatch.tsx";
import type { DataColumn } from "../../../kit/BodyRow.tsx";
import { Checkbox } from "../../../kit/Checkbox.tsx";
import { Choice } from "../../../kit/Choice.tsx";
import { ChoiceField } from "../../../kit/ChoiceField.tsx";
import { DataTable } from "../../../kit/DataTable.tsx";
import { Dialog } from "../../../kit/Dialog.tsx";
import { Field, FormGrid } from "../../../kit/Field.tsx";
import { NumberField } from "../../../kit/NumberField.tsx";
import { TextField } from "../../../kit/TextField.tsx";
import { useEdit, useTryEdit } from "../../../session/useEdit.ts";
import { KeptAs } from "./KeptAs.tsx";
import { TakeAway } from "./TakeAway.tsx";
import type { ThingProps } from "./thing.ts";
import { wireColumn } from "./wireColumn.tsx";
import { ZoneField } from "./ZoneField.tsx";

/** A core, and the wire that it is. */
interface Row {
  core: number;
  colour: ReturnType<typeof coreColour>;
  wire: Wire | null;
}

/** A cable: its name, size and colours, where each core goes, and exchanging cores. */
export function CableDialog({ thing: cable, record, loom, open, close }: ThingProps<Cable>) {
  const tryEdit = useTryEdit();
  const act = useEdit();
  const { id, label, cores, gauge, metres, colours, tail, zoneId, kept, laidAt, note } = cable;
  const { railway } = record;
  const set = (fields: Parameters<typeof setCable>[3]) => tryEdit(() => setCable(record, loom, id, fields));
  const rows = useMemo((): Row[] => {
    const own = coresOf(loom, cable.id);
    const { colours } = laidCable(railway, loom, cable);
    return Array.from({ length: cable.cores }, (_, index) => {
      const wire = own.get(index + 1) ?? null;
      return { core: index + 1, colour: wire?.colour ?? coreColour(colours, index + 1), wire };
    });
  }, [loom, cable, railway]);
  const places = useMemo(
    () =>
      loom.cables.flatMap((each) =>
        each.tail !== cable.tail
          ? []
          : Array.from({ length: each.cores }, (_, index) => ({
              value: `${each.id} ${index + 1}`,
              text: `${each.label}.${index + 1}`,
            })),
      ),
    [loom.cables, cable.tail],
  );
  const used = rows.filter(({ wire }) => wire !== null).length;
  const columns: DataColumn<Row>[] = [
    {
      ...{ id: "core", title: "Core", width: 84 },
      cell: ({ core, wire }) =>
        wire ? (
          <Choice
            size="small"
            label={`${wire.label} is core`}
            value={`${id} ${core}`}
            options={places}
            onChange={(to) => {
              const [cableId = "", number = ""] = to.split(" ");
              act(() => moveCore(record, loom, wire.id, cableId, Number(number)));
            }}
          />
        ) : (
          <span className="mono">{core}</span>
        ),
    },
    { id: "colour", title: "Colour", width: 70, cell: ({ colour }) => <Swatch colour={colour} /> },
    wireColumn(open),
    { id: "from", title: "From", mono: true, cell: ({ wire }) => wire?.from.name },
    { id: "to", title: "To", mono: true, cell: ({ wire }) => wire?.to.name },
    { id: "what", title: "What it is", wraps: true, cell: ({ wire }) => wire && PURPOSES[wire.purpose].about },
  ];
  return (
    <Dialog
      title={`${tail ? "Tail" : "Cable"} ${label}`}
      about={`${used} of ${cores} cores used. What is changed here is kept until it is let go.`}
      close={close}
    >
      <FormGrid narrow>
        <Field label="Name">
          {(ids) => <TextField ids={ids} value={label} save={(text) => set({ label: text })} />}
        </Field>
        <Field label="Cores">
          {(ids) => (
            <NumberField
              ids={ids}
              value={cores}
              save={(now) => (now === null || !Number.isInteger(now) ? "Type a whole number." : set({ cores: now }))}
            />
          )}
        </Field>
        <ChoiceField
          label="Gauge"
          value={gauge}
          options={[
            { value: null as Gauge | null, text: `as all cables, ${railway.cableGauge}` },
            ...GAUGES.map((value) => ({ value, text: value })),
          ]}
          onChange={(now) => set({ gauge: now })}
        />
        <Field label="Length, m">
          {(ids) => (
            <NumberField
              ids={ids}
              value={metres}
              empty={tail ? "as its longest wire" : `as all cables, ${railway.cableMetres}`}
              save={(now) => set({ metres: now })}
            />
          )}
        </Field>
        <ChoiceField
          label="Colours"
          value={colours}
          options={[
            { value: null as CableColours | null, text: `as all cables, ${CABLE_COLOUR_WORDS[railway.cableColours]}` },
            ...CABLE_COLOURS.map((value) => ({ value, text: CABLE_COLOUR_WORDS[value] })),
          ]}
          onChange={(now) => set({ colours: now })}
        />
        {!tail && (
          <ZoneField record={record} label="To strips of zone" value={zoneId} set={(now) => set({ zoneId: now })} />
        )}
        <Field label="Note">{(ids) => <TextField ids={ids} value={note} save={(text) => set({ note: text })} />}</Field>
        <Checkbox
          className="col-span-full"
          checked={laidAt !== null}
          onChange={(done) => set({ laidAt: done ? new Date().toISOString() : null })}
        >
          It is laid
        </Checkbox>
      </FormGrid>
      <KeptAs kept={kept} set={(now) => set({ kept: now })} />
      <div className="mt-3 border-t border-rule">
        <DataTable
          flowing
          label={`Cores of ${label}`}
          items={rows}
          columns={columns}
          idOf={({ core }) => String(core)}
        />
      </div>
      <TakeAway record={record} kind="cable" thing={cable} close={close} />
    </Dialog>
  );
}
