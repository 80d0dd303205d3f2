import {
  farEnd,
  isJunction,
  type Loom,
  moveWay,
  PURPOSES,
  placeWords,
  type Strip,
  screwKey,
  setStrip,
  type Wire,
  wiresByEnd,
} from "@alderman/core";
import { useMemo } from "react";
import { Swatch } from "../../../drawing/Swatch.tsx";
import type { DataColumn } from "../../../kit/BodyRow.tsx";
import { Checkbox } from "../../../kit/Checkbox.tsx";
import { Choice } from "../../../kit/Choice.tsx";
import { DataTable } from "../../../kit/DataTable.tsx";
import { Dialog } from "../../../kit/Dialog.tsx";
import { Field, FormGrid } from "../../../kit/Field.tsx";
import { NumberField } from "../../../kit/NumberField.tsx";
import { TextField } from "../../../kit/TextField.tsx";
import { useTryEdit } from "../../../session/useEdit.ts";
import { notify } from "../../../store/notices.ts";
import { useAppDispatch } from "../../../store/store.ts";
import { KeptAs } from "./KeptAs.tsx";
import { TakeAway } from "./TakeAway.tsx";
import type { ThingProps } from "./thing.ts";
import { wireColumn } from "./wireColumn.tsx";
import { ZoneField } from "./ZoneField.tsx";

/** A wire at a way, or a way with nothing at it. */
interface Row {
  id: string;
  way: number;
  isFirst: boolean;
  wire: Wire | null;
}

/** A strip: its name, size and kind, what is at each way, and moving what is at one way to another. */
export function StripDialog({ thing: strip, record, loom, open, close }: ThingProps<Strip>) {
  const tryEdit = useTryEdit();
  const dispatch = useAppDispatch();
  const { id, label, place, ways, pinAmps, zoneId, runMetres, front, kept, fixedAt, note } = strip;
  const set = (fields: Parameters<typeof setStrip>[3]) => tryEdit(() => setStrip(record, loom, id, fields));
  const rows = useMemo(() => rowsOf(strip, loom), [strip, loom]);
  const free = useMemo(() => placesOf(loom.strips, place), [loom.strips, place]);
  const columns = columnsOf(strip, open, free, (way, to) => {
    const [stripId = "", toWay = ""] = to.split("/");
    const problem = tryEdit(() => moveWay(record, loom, { stripId: id, way }, { stripId, way: Number(toWay) }));
    if (problem) dispatch(notify(problem));
  });
  const used = new Set(rows.flatMap(({ way, wire }) => (wire ? [way] : []))).size;
  const isJoint = isJunction(strip);
  return (
    <Dialog
      title={`${strip.kind === "splice" ? "Splice" : isJoint ? "Block" : pinAmps === null ? "Strip" : "Plug and socket"} ${label}`}
      about={`${place === "panel" ? "At the panel" : `Under the layout, ${placeWords(record, strip)}`}, ${used} of ${ways} ways used. What is changed here is kept until it is let go.`}
      close={close}
    >
      <FormGrid narrow>
        <Field label="Name">
          {(ids) => <TextField ids={ids} value={label} save={(text) => set({ label: text })} />}
        </Field>
        {!isJoint && (
          <>
            <Field label="Ways">
              {(ids) => (
                <NumberField
                  ids={ids}
                  value={ways}
                  save={(now) => (now === null || !Number.isInteger(now) ? "Type a whole number." : set({ ways: now }))}
                />
              )}
            </Field>
            <Field label="A pin bears, A">
              {(ids) => (
                <NumberField
                  ids={ids}
                  value={pinAmps}
                  empty="screws, no plug"
                  save={(amps) => set({ pinAmps: amps })}
                />
              )}
            </Field>
          </>
        )}
        {!isJoint && (
          <ZoneField record={record} label="Serves zone" value={zoneId} set={(now) => set({ zoneId: now })} />
        )}
        {!isJoint && place === "layout" && (
          <Field label="From the boards, m">
            {(ids) => (
              <NumberField
                ids={ids}
                value={runMetres}
                empty="beside the boards"
                save={(metres) => set({ runMetres: metres })}
              />
            )}
          </Field>
        )}
        <Field label="Note">{(ids) => <TextField ids={ids} value={note} save={(text) => set({ note: text })} />}</Field>
        <Checkbox
          className="col-span-full"
          checked={fixedAt !== null}
          onChange={(done) => set({ fixedAt: done ? new Date().toISOString() : null })}
        >
          It is screwed in place
        </Checkbox>
        {place === "layout" && (
          <Checkbox className="col-span-full" checked={front} onChange={(now) => set({ front: now })}>
            It is at the edge, reached from in front
          </Checkbox>
        )}
      </FormGrid>
      <KeptAs kept={kept} set={(now) => set({ kept: now })} />
      <div className="mt-3 border-t border-rule">
        <DataTable flowing label={`Ways of ${label}`} items={rows} columns={columns} idOf={(row) => row.id} />
      </div>
      <TakeAway record={record} kind="strip" thing={strip} close={close} />
    </Dialog>
  );
}

function rowsOf({ id, ways }: Strip, loom: Loom): Row[] {
  const at = wiresByEnd(loom);
  return Array.from({ length: ways }, (_, index) => index + 1).flatMap((way) => {
    const own: readonly (Wire | null)[] = at.get(screwKey(id, way)) ?? [null];
    return own.map((wire, index) => ({ id: `${way} ${wire?.id ?? ""}`, way, wire, isFirst: index === 0 }));
  });
}

/** Every way of every strip of a side. */
function placesOf(strips: readonly Strip[], place: Strip["place"]) {
  return strips.flatMap((strip) =>
    strip.place === place && strip.kind === "screws"
      ? Array.from({ length: strip.ways }, (_, index) => ({
          value: screwKey(strip.id, index + 1),
          text: `${strip.label}-${index + 1}`,
        }))
      : [],
  );
}

function columnsOf(
  strip: Strip,
  open: ThingProps<Strip>["open"],
  places: readonly { value: string; text: string }[],
  move: (way: number, to: string) => void,
): DataColumn<Row>[] {
  return [
    {
      ...{ id: "way", title: "Way", width: 84 },
      cell: ({ way, isFirst, wire }) =>
        isFirst && wire && strip.kind === "screws" ? (
          <Choice
            size="small"
            label={`What is at way ${way} goes to`}
            value={screwKey(strip.id, way)}
            options={places}
            onChange={(to) => move(way, to)}
          />
        ) : (
          isFirst && <span className="mono">{way}</span>
        ),
    },
    wireColumn(open),
    { id: "colour", title: "Colour", width: 70, cell: ({ wire }) => wire && <Swatch colour={wire.colour} /> },
    {
      ...{ id: "to", title: "Goes to", mono: true },
      cell: ({ wire, way }) =>
        wire &&
        `${farEnd(wire, screwKey(strip.id, way)).name}${wire.core ? ` by ${wire.core.cable}.${wire.core.number}` : ""}`,
    },
    { id: "what", title: "What it is", wraps: true, cell: ({ wire }) => wire && PURPOSES[wire.purpose].about },
  ];
}
