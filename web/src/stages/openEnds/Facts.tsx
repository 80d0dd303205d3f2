import { Draft, Fact, freshId, type RailwayRecord, restsOn, STANDINGS, threadsOf } from "@alderman/core";
import { Trash2 } from "lucide-react";
import { useMemo } from "react";
import * as z from "zod/mini";
import { Choice } from "../../kit/Choice.tsx";
import { DataTable } from "../../kit/DataTable.tsx";
import { IconButton } from "../../kit/IconButton.tsx";
import { Sheet } from "../../kit/Sheet.tsx";
import { useEdit } from "../../session/useEdit.ts";
import { trimmed } from "../../tools/trimmed.ts";
import { date } from "../../tools/when.ts";
import { NoteForm } from "./NoteForm.tsx";

const now = () => new Date().toISOString();
const STANDING_OPTIONS = STANDINGS.map((value) => ({ value, text: value }));

/** Facts with their standing. */
export function Facts({ record }: { record: RailwayRecord }) {
  const act = useEdit();
  const threads = useMemo(() => threadsOf(record), [record]);
  const put = (fact: Fact, words: string) => {
    const draft = new Draft(record);
    draft.put("fact", fact);
    return act(draft.group(words));
  };
  const remove = (fact: Fact) => {
    const draft = new Draft(record);
    draft.remove("fact", fact.id);
    act(draft.group(`No longer a fact: ${fact.text}`));
  };
  return (
    <Sheet title="Facts" about="heard, read in the leaflet, or measured here">
      <NewFact record={record} put={put} />
      <DataTable<Fact>
        label="Facts"
        items={record.facts}
        idOf={({ id }) => id}
        empty={
          <p className="p-3 text-ink-2">
            Note what you were told or have read, and how far it can be relied on. A plan that rests on hearsay says so.
          </p>
        }
        columns={[
          {
            ...{ id: "fact", title: "Fact", wraps: true, value: ({ text }) => text },
            cell: (fact) => (
              <>
                {fact.text}
                <div className="text-small text-ink-2">
                  {[fact.source, restsWords(restsOn(record, threads, fact)), date(fact.at)].filter(Boolean).join("; ")}
                </div>
              </>
            ),
          },
          {
            ...{ id: "standing", title: "Standing", width: 110, value: ({ standing }) => standing },
            cell: (fact) => (
              <Choice
                size="small"
                label={`Standing of: ${fact.text}`}
                value={fact.standing}
                options={STANDING_OPTIONS}
                onChange={(standing) => put({ ...fact, standing, at: now() }, `${fact.text}: ${standing}`)}
              />
            ),
          },
          {
            ...{ id: "remove", title: "Remove", untitled: true, width: 34 },
            cell: (fact) => <IconButton icon={Trash2} label={`Remove: ${fact.text}`} onClick={() => remove(fact)} />,
          },
        ]}
      />
    </Sheet>
  );
}

/** Who rests on a fact, in words. */
function restsWords(rest: readonly { label: string }[]): string {
  if (rest.length === 0) return "";
  const labels = rest.slice(0, 5).map(({ label }) => label);
  return `${labels.join(", ")}${rest.length > 5 ? " ..." : ""} ${rest.length === 1 ? "rests" : "rest"} on it`;
}

const NewFactFields = z.object({
  standing: Fact.shape.standing,
  text: trimmed(Fact.shape.text),
  source: trimmed(Fact.shape.source),
  deviceId: Fact.shape.deviceId,
});

function NewFact({ record, put }: { record: RailwayRecord; put: (fact: Fact, words: string) => boolean }) {
  const devices = record.devices.map(({ id, label }) => ({ value: id, text: label }));
  return (
    <NoteForm
      label="Note a fact"
      schema={NewFactFields}
      fresh={{ standing: "heard", text: "", source: "", deviceId: null }}
      fields={[
        { name: "standing", label: "Standing", options: STANDING_OPTIONS },
        { name: "text", label: "Fact", wide: true },
        { name: "source", label: "From where" },
        { name: "deviceId", label: "About", options: devices, none: "the railway" },
      ]}
      add={(given) =>
        put(
          { id: freshId(record, "fact", given.text), ...given, typeId: null, figure: null, at: now() },
          `Noted as ${given.standing}: ${given.text}`,
        )
      }
    />
  );
}
