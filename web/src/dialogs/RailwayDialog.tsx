import { CATALOGUE, GAUGES, type RailwayRecord } from "@alderman/core";
import { Download } from "lucide-react";
import { useParams } from "react-router";
import { buttonClass } from "../kit/Button.tsx";
import { Choice } from "../kit/Choice.tsx";
import { Dialog } from "../kit/Dialog.tsx";
import { Field, FormGrid } from "../kit/Field.tsx";
import { NumberField } from "../kit/NumberField.tsx";
import { TextField } from "../kit/TextField.tsx";
import { useRecord } from "../session/hooks.ts";
import { useTryEdit } from "../session/useEdit.ts";

const GAUGE_OPTIONS = GAUGES.map((value) => ({ value, text: value }));

/** What belongs to the railway as a whole: name, wire sizes, lengths, how the command station counts. */
export function RailwayDialog({ close }: { close: () => void }) {
  const record = useRecord();
  const { railwayId } = useParams();
  const tryEdit = useTryEdit();
  if (!record) return null;
  const { railway } = record;
  const set = (words: string, change: Partial<RailwayRecord["railway"]>) =>
    tryEdit({ words: words.slice(0, 200), edits: [{ op: "railway", value: { ...railway, ...change } }] });
  const metres = (
    words: (length: number) => string,
    change: (length: number) => Partial<RailwayRecord["railway"]>,
  ) => ({
    save: (length: number | null) => (length === null ? "Type metres." : set(words(length), change(length))),
  });
  return (
    <Dialog title={railway.name} about="Settings of the railway. Each is saved when it is changed." close={close}>
      <FormGrid>
        <Field label="Name">
          {(ids) => (
            <TextField ids={ids} value={railway.name} save={(name) => set(`The railway is called ${name}`, { name })} />
          )}
        </Field>
        <Field label="Single wires">
          {({ id }) => (
            <Choice
              id={id}
              className="w-full"
              value={railway.wireGauge}
              options={GAUGE_OPTIONS}
              onChange={(wireGauge) => set(`Single wires are ${wireGauge}`, { wireGauge })}
            />
          )}
        </Field>
        <Field label="Cores of cables">
          {({ id }) => (
            <Choice
              id={id}
              className="w-full"
              value={railway.cableGauge}
              options={GAUGE_OPTIONS}
              onChange={(cableGauge) => set(`Cores of cables are ${cableGauge}`, { cableGauge })}
            />
          )}
        </Field>
        <Field label="Cable, panel to layout, m">
          {(ids) => (
            <NumberField
              ids={ids}
              value={railway.cableMetres}
              {...metres(
                (length) => `The cable is ${length} m`,
                (cableMetres) => ({ cableMetres }),
              )}
            />
          )}
        </Field>
        <Field label="Usual wire to a motor, m">
          {(ids) => (
            <NumberField
              ids={ids}
              value={railway.runMetres}
              {...metres(
                (length) => `A wire to a motor is ${length} m`,
                (runMetres) => ({ runMetres }),
              )}
            />
          )}
        </Field>
        <Field label="Ways of a strip">
          {({ id }) => (
            <Choice
              id={id}
              className="w-full"
              value={String(railway.stripWays)}
              options={sizes("ways", railway.stripWays)}
              onChange={(ways) => set(`Strips have ${ways} ways`, { stripWays: Number(ways) })}
            />
          )}
        </Field>
        <Field label="Cores of a cable">
          {({ id }) => (
            <Choice
              id={id}
              className="w-full"
              value={String(railway.cableCores)}
              options={sizes("cores", railway.cableCores)}
              onChange={(cores) => set(`Cables have ${cores} cores`, { cableCores: Number(cores) })}
            />
          )}
        </Field>
        <Field label="Command station counts">
          {({ id }) => (
            <Choice
              id={id}
              className="w-full"
              value={railway.addressShift === 4 ? "4" : "0"}
              options={[
                { value: "0", text: "as the standard does" },
                { value: "4", text: "from raw 0: four off" },
              ]}
              onChange={(shift) => set("How addresses are counted", { addressShift: shift === "4" ? 4 : 0 })}
            />
          )}
        </Field>
      </FormGrid>
      <p className="mt-2 text-small text-ink-2">
        To find out how it counts: throw addresses 1 and 5, and see which of them moves the first output of a board with
        factory settings.
      </p>
      <div className="mt-3">
        <Field label="Note" stacked>
          {(ids) => (
            <TextField
              ids={ids}
              lines={4}
              value={railway.note}
              save={(note) => set("Changed the railway's note", { note })}
            />
          )}
        </Field>
      </div>
      <a className={buttonClass("plain", "normal", "mt-3")} href={`/api/railways/${railwayId}/file`} download>
        <Download size={14} aria-hidden="true" /> Export the railway as a file
      </a>
    </Dialog>
  );
}

/** The sizes of strips or cables in the catalogue, and the one that is set. */
function sizes(figure: "ways" | "cores", now: number) {
  const known = CATALOGUE.flatMap(({ figures }) => figures[figure]?.value ?? []);
  return [...new Set([...known, now])]
    .sort((a, b) => a - b)
    .map((size) => ({ value: String(size), text: String(size) }));
}
