import { Draft, type Fact, freshId, type RailwayRecord, restsOn, STANDINGS, threadsOf } from "@alderman/core";
import { type FormEvent, useMemo, useState } from "react";
import { NoteForm, NoteSelect, NoteText } from "../parts/NoteForm.tsx";
import { Sheet } from "../parts/Sheet.tsx";
import { date } from "../parts/when.ts";
import { useEdit } from "../session/useEdit.ts";

const now = () => new Date().toISOString();

/** Facts with their standing. */
export function Facts({ record }: { record: RailwayRecord }) {
  const act = useEdit();
  const threads = useMemo(() => threadsOf(record), [record]);
  const put = (fact: Fact, words: string) => {
    const draft = new Draft(record);
    draft.put("fact", fact);
    act(draft.group(words));
  };
  const remove = (fact: Fact) => {
    const draft = new Draft(record);
    draft.remove("fact", fact.id);
    act(draft.group(`No longer a fact: ${fact.text}`));
  };
  return (
    <Sheet title="Facts" about="heard, read in the leaflet, or measured here">
      <div className="scroll">
        {record.facts.length === 0 && (
          <p className="quiet p-3">
            Note what you were told or have read, and how far it can be relied on. A plan that rests on hearsay says so.
          </p>
        )}
        <ul>
          {record.facts.map((fact) => {
            const rest = restsOn(record, threads, fact);
            return (
              <li key={fact.id} className="flex items-start gap-2 border-b border-rule px-3 py-1.5">
                <div className="min-w-0 flex-1">
                  {fact.text}
                  <div className="quiet text-[12px]">
                    {[
                      fact.source,
                      rest.length > 0
                        ? `${rest
                            .slice(0, 5)
                            .map(({ label }) => label)
                            .join(", ")}${rest.length > 5 ? " ..." : ""} ${rest.length === 1 ? "rests" : "rest"} on it`
                        : "",
                      date(fact.at),
                    ]
                      .filter(Boolean)
                      .join("; ")}
                  </div>
                </div>
                <select
                  className="field !w-auto !min-h-6"
                  aria-label={`Standing of: ${fact.text}`}
                  value={fact.standing}
                  onChange={(event) => {
                    const standing = event.target.value as Fact["standing"];
                    put({ ...fact, standing, at: now() }, `${fact.text}: ${standing}`);
                  }}
                >
                  {STANDINGS.map((each) => (
                    <option key={each}>{each}</option>
                  ))}
                </select>
                <button
                  type="button"
                  className="btn !min-h-6"
                  aria-label={`Remove: ${fact.text}`}
                  onClick={() => remove(fact)}
                >
                  Remove
                </button>
              </li>
            );
          })}
        </ul>
      </div>
      <NewFact record={record} put={put} />
    </Sheet>
  );
}

function NewFact({ record, put }: { record: RailwayRecord; put: (fact: Fact, words: string) => void }) {
  const [text, setText] = useState("");
  const [source, setSource] = useState("");
  const [standing, setStanding] = useState<Fact["standing"]>("heard");
  const [deviceId, setDeviceId] = useState("");
  const add = (event: FormEvent) => {
    event.preventDefault();
    const fact: Fact = {
      ...{ id: freshId(record, "fact", text), text: text.trim(), standing, source: source.trim(), at: now() },
      ...{ typeId: null, figure: null, deviceId: deviceId || null },
    };
    put(fact, `Noted as ${standing}: ${fact.text}`);
    setText("");
    setSource("");
  };
  return (
    <NoteForm label="Note a fact" ready={text.trim() !== ""} add={add}>
      <NoteSelect label="Standing" value={standing} options={STANDINGS.map(named)} set={setStanding} />
      <NoteText label="Fact" value={text} wide set={setText} />
      <NoteText label="From where" value={source} set={setSource} />
      <NoteSelect
        label="About"
        value={deviceId}
        none="the railway"
        options={record.devices.map(({ id, label }) => ({ value: id, text: label }))}
        set={setDeviceId}
      />
    </NoteForm>
  );
}

const named = <T extends string>(value: T) => ({ value, text: value });
