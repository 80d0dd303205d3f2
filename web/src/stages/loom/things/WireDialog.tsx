import {
  endAt,
  GAUGES,
  type Gauge,
  JOINT_WORDS,
  jointAt,
  keepWires,
  ohms,
  PURPOSES,
  type RailwayRecord,
  screwKey,
  setWire,
  WIRE_COLOUR_CODES,
  WIRE_COLOURS,
  type Wire,
  type WireColour,
} from "@alderman/core";
import { Swatch } from "../../../drawing/Swatch.tsx";
import { ChoiceField } from "../../../kit/ChoiceField.tsx";
import { Dialog } from "../../../kit/Dialog.tsx";
import { Field, FormGrid } from "../../../kit/Field.tsx";
import { NumberField } from "../../../kit/NumberField.tsx";
import { TextField } from "../../../kit/TextField.tsx";
import { useEdit, useTryEdit } from "../../../session/useEdit.ts";
import { shortDateAndTime } from "../../../tools/when.ts";
import { STEPS } from "../steps.ts";
import { KeptAs } from "./KeptAs.tsx";
import type { ThingProps } from "./thing.ts";

/** A wire: what it joins and how, its colour, gauge and length, where it really ends, and what was done of it when. */
export function WireDialog({ thing: wire, record, loom, open, close }: ThingProps<Wire>) {
  const tryEdit = useTryEdit();
  const act = useEdit();
  const { id, label, from, to, colour, gauge, metres, cutMetres, core, fact, purpose } = wire;
  const set = (fields: Parameters<typeof setWire>[3]) => tryEdit(() => setWire(record, loom, id, fields));
  const done = STEPS.flatMap(({ step, about }) => {
    const at = fact?.[step];
    return at ? [`${about(wire)} ${shortDateAndTime(at)}`] : [];
  });
  return (
    <Dialog
      title={`${label}, ${from.name} to ${to.name}`}
      about={`${PURPOSES[purpose].about}; ${Math.round(cutMetres * 1000)} mm to cut, ${ohms(wire.ohms)}. What is changed here is kept until it is let go.`}
      close={close}
    >
      <FormGrid narrow>
        {core ? (
          <>
            <span>Core</span>
            <span className="flex items-center gap-2">
              <button
                type="button"
                className="font-mono underline"
                onClick={() => open({ kind: "cable", id: core.cableId })}
              >
                {core.cable}.{core.number}
              </button>
              <Swatch colour={colour} named /> {gauge}, {metres} m, as the cable
            </span>
          </>
        ) : (
          <>
            <ChoiceField
              label="Colour"
              value={colour}
              options={WIRE_COLOUR_CODES.map((value: WireColour) => ({
                value,
                text: value,
                hint: WIRE_COLOURS[value],
              }))}
              onChange={(now) => set({ colour: now })}
            />
            <ChoiceField
              label="Gauge"
              value={gauge}
              options={GAUGES.map((value: Gauge) => ({ value, text: value }))}
              onChange={(now) => set({ gauge: now })}
            />
            <Field label="Length as laid, m">
              {(ids) => (
                <NumberField
                  ids={ids}
                  value={metres}
                  save={(now) => (now === null ? "Type metres, 0.05 to 200." : set({ metres: now }))}
                />
              )}
            </Field>
          </>
        )}
        {(["from", "to"] as const).map((end) => (
          <End key={end} wire={wire} end={end} record={record} loom={loom} act={act} open={open} />
        ))}
        <Field label="Note">
          {(ids) => <TextField ids={ids} value={fact?.note ?? ""} save={(text) => set({ note: text })} />}
        </Field>
        <span>Done</span>
        <span>{done.length > 0 ? done.join("; ") : "nothing yet"}</span>
      </FormGrid>
      <KeptAs kept={fact?.kept ?? false} set={(kept) => act(() => keepWires(record, loom, [id], kept))} />
    </Dialog>
  );
}

/** How an end is joined; at a strip, where it really is. */
function End({
  wire,
  end,
  record,
  loom,
  act,
  open,
}: {
  wire: Wire;
  end: "from" | "to";
  record: RailwayRecord;
  loom: ThingProps<Wire>["loom"];
  act: ReturnType<typeof useEdit>;
  open: ThingProps<Wire>["open"];
}) {
  const at = wire[end];
  const how = JOINT_WORDS[jointAt(record, at)];
  const strips = loom.strips.filter(({ place, kind }) => place === at.place && kind === "screws");
  const own = loom.strips.find(({ id }) => at.key.startsWith(`${id}/`));
  if (at.of || own?.kind !== "screws")
    return (
      <>
        <span className="mono">{at.name}</span>
        <span>{how}</span>
      </>
    );
  return (
    <ChoiceField
      label={
        <button type="button" className="font-mono underline" onClick={() => open({ kind: "strip", id: own.id })}>
          {at.name}
        </button>
      }
      value={at.key}
      options={strips.flatMap((strip) =>
        Array.from({ length: strip.ways }, (_, index) => ({
          value: screwKey(strip.id, index + 1),
          text:
            screwKey(strip.id, index + 1) === at.key ? "there, as planned" : `really at ${strip.label}-${index + 1}`,
        })),
      )}
      onChange={(key) => {
        const [stripId = "", way = ""] = key.split("/");
        act(() => endAt(record, loom, wire.id, end, { stripId, way: Number(way) }));
      }}
    >
      <span className="text-small text-ink-2">{how}</span>
    </ChoiceField>
  );
}
