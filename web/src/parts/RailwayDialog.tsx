import { CATALOGUE, GAUGES, type Gauge, type RailwayRecord } from "@alderman/core";
import { useState } from "react";
import { useParams } from "react-router";
import { useRecord } from "../session/hooks.ts";
import { useEdit } from "../session/useEdit.ts";
import { SheetDialog } from "./Dialogs.tsx";

/** What belongs to the railway as a whole: name, wire sizes, lengths, how the command station counts. */
export function RailwayDialog({ close }: { close: () => void }) {
  const record = useRecord();
  const { railwayId } = useParams();
  const act = useEdit();
  if (!record) return null;
  const { railway } = record;
  const set = (words: string, change: Partial<RailwayRecord["railway"]>) =>
    act({ words, edits: [{ op: "railway", value: { ...railway, ...change } }] });
  return (
    <SheetDialog title={railway.name} about="Settings of the railway. Each is saved when it is changed." close={close}>
      <div className="grid grid-cols-[170px_1fr] items-center gap-x-4 gap-y-2">
        <TextField
          label="Name"
          value={railway.name}
          save={(name) => name && set(`The railway is called ${name}`, { name })}
        />
        <GaugeField
          label="Single wires"
          value={railway.wireGauge}
          save={(wireGauge) => set(`Single wires are ${wireGauge}`, { wireGauge })}
        />
        <GaugeField
          label="Cores of cables"
          value={railway.cableGauge}
          save={(cableGauge) => set(`Cores of cables are ${cableGauge}`, { cableGauge })}
        />
        <MetresField
          label="Cable, panel to layout"
          value={railway.cableMetres}
          save={(cableMetres) => set(`The cable is ${cableMetres} m`, { cableMetres })}
        />
        <MetresField
          label="Wire to a motor, unless said"
          value={railway.runMetres}
          save={(runMetres) => set(`A wire to a motor is ${runMetres} m`, { runMetres })}
        />
        <SizeField
          label="Ways of a strip"
          figure="ways"
          value={railway.stripWays}
          save={(stripWays) => set(`Strips have ${stripWays} ways`, { stripWays })}
        />
        <SizeField
          label="Cores of a cable"
          figure="cores"
          value={railway.cableCores}
          save={(cableCores) => set(`Cables have ${cableCores} cores`, { cableCores })}
        />
        <label htmlFor="address-shift">Command station counts</label>
        <select
          id="address-shift"
          className="field"
          value={railway.addressShift}
          onChange={(event) => set("How addresses are counted", { addressShift: event.target.value === "4" ? 4 : 0 })}
        >
          <option value="0">as the standard does</option>
          <option value="4">from raw 0: four off</option>
        </select>
      </div>
      <p className="quiet mt-2 text-[12px]">
        To find out how it counts: throw addresses 1 and 5, and see which of them moves the first output of a board as
        bought.
      </p>
      <label className="mt-3 block" htmlFor="railway-note">
        Note
      </label>
      <textarea
        id="railway-note"
        key={railway.note}
        className="field mt-1 py-1"
        rows={4}
        maxLength={2000}
        defaultValue={railway.note}
        onBlur={(event) =>
          event.target.value !== railway.note && set("Changed the railway's note", { note: event.target.value })
        }
      />
      <a className="btn mt-3" href={`/api/railways/${railwayId}/file`} download>
        Export the railway as a file
      </a>
    </SheetDialog>
  );
}

function TextField({ label, value, save }: { label: string; value: string; save: (value: string) => void }) {
  const id = `railway-${label.toLowerCase().replaceAll(/[^a-z]+/g, "-")}`;
  return (
    <>
      <label htmlFor={id}>{label}</label>
      <input
        id={id}
        key={value}
        className="field"
        defaultValue={value}
        maxLength={80}
        onBlur={(event) => event.target.value.trim() !== value && save(event.target.value.trim())}
      />
    </>
  );
}

function GaugeField({ label, value, save }: { label: string; value: Gauge; save: (gauge: Gauge) => void }) {
  const id = `railway-${label.toLowerCase().replaceAll(" ", "-")}`;
  return (
    <>
      <label htmlFor={id}>{label}</label>
      <select id={id} className="field" value={value} onChange={(event) => save(event.target.value as Gauge)}>
        {GAUGES.map((gauge) => (
          <option key={gauge}>{gauge}</option>
        ))}
      </select>
    </>
  );
}

/** A size of strip or cable, of those in the catalogue. */
function SizeField({
  label,
  figure,
  value,
  save,
}: {
  label: string;
  figure: "ways" | "cores";
  value: number;
  save: (size: number) => void;
}) {
  const id = `railway-${label.toLowerCase().replaceAll(" ", "-")}`;
  const known = CATALOGUE.flatMap(({ figures }) => figures[figure]?.value ?? []);
  const sizes = [...new Set([...known, value])].sort((a, b) => a - b);
  return (
    <>
      <label htmlFor={id}>{label}</label>
      <select id={id} className="field" value={value} onChange={(event) => save(Number(event.target.value))}>
        {sizes.map((size) => (
          <option key={size}>{size}</option>
        ))}
      </select>
    </>
  );
}

function MetresField({ label, value, save }: { label: string; value: number; save: (metres: number) => void }) {
  const [text, setText] = useState(String(value));
  const id = `railway-${label.toLowerCase().replaceAll(/[^a-z]+/g, "-")}`;
  const metres = Number(text.replace(",", "."));
  const sound = metres >= 0.05 && metres <= 200;
  return (
    <>
      <label htmlFor={id}>{label}</label>
      <div>
        <input
          id={id}
          className="field"
          inputMode="decimal"
          value={text}
          aria-invalid={!sound}
          onChange={(event) => setText(event.target.value)}
          onBlur={() => sound && metres !== value && save(metres)}
        />
        {!sound && <span className="text-[12px] text-red">Type metres, 0.05 to 200.</span>}
      </div>
    </>
  );
}
