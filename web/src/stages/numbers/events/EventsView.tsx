import {
  addEvent,
  type EventAction,
  type EventOutput,
  keepEvents,
  type PlannedEvent,
  type RailwayRecord,
  setLink,
} from "@alderman/core";
import { useMemo, useState } from "react";
import { useEvents } from "../../../derivation/useEvents.ts";
import { Button } from "../../../kit/Button.tsx";
import { Input } from "../../../kit/Input.tsx";
import { Sheets } from "../../../kit/Sheets.tsx";
import { useEdit } from "../../../session/useEdit.ts";
import { EventCard } from "./EventCard.tsx";
import { EventMatrix } from "./EventMatrix.tsx";
import { cellKey, linksByCell, narrowed, type Place } from "./matrix.ts";
import { TeachSheet } from "./TeachSheet.tsx";

/** The matrix of events and outputs, with the card of the cell that one is in. */
export function EventsView({ record, here, go }: { record: RailwayRecord; here: Place; go: (place: Place) => void }) {
  const edit = useEdit();
  const { threads, plan: whole } = useEvents(record);
  const [word, setWord] = useState("");
  const plan = useMemo(() => narrowed(whole, word), [whole, word]);
  const links = useMemo(() => linksByCell(plan), [plan]);
  // a place is one of the whole matrix; of what is found it is the same cell, or the first
  const at: Place = {
    row: Math.max(0, plan.events.indexOf(whole.events[here.row] as PlannedEvent)),
    column: Math.max(0, plan.outputs.indexOf(whole.outputs[here.column] as EventOutput)),
  };
  const goTo = ({ row, column }: Place) =>
    go({
      row: whole.events.indexOf(plan.events[row] as PlannedEvent),
      column: whole.outputs.indexOf(plan.outputs[column] as EventOutput),
    });
  const [event, output] = [plan.events[at.row], plan.outputs[at.column]];
  const act = ({ row, column }: Place, action: EventAction | null) => {
    const [of, to] = [plan.events[row], plan.outputs[column]];
    if (of && to) edit(() => setLink(record, threads, of.id, to, action));
  };
  const isProposed = plan.events.some(({ standing }) => standing === "proposed");
  return (
    <Sheets rows="minmax(0,1fr) 238px">
      <EventMatrix
        record={record}
        plan={plan}
        here={at}
        go={goTo}
        act={act}
        actions={
          <>
            <Input
              aria-label="Find an event or output"
              placeholder="Find"
              className="w-36!"
              value={word}
              onChange={({ target }) => setWord(target.value)}
            />
            {isProposed && (
              <Button size="small" onClick={() => edit(() => keepEvents(record, threads))}>
                Keep all
              </Button>
            )}
            <Button size="small" onClick={() => edit(() => addEvent(record, threads, freshName(whole.events)))}>
              Add event
            </Button>
          </>
        }
      />
      {event ? (
        <EventCard
          key={event.id}
          record={record}
          threads={threads}
          plan={plan}
          event={event}
          output={output}
          link={output && links.get(cellKey(event.id, output))}
          act={(action) => act(at, action)}
        />
      ) : (
        <p className="p-3 text-ink-2">
          {word === ""
            ? "No input of a node commands a turnout yet. Events follow from what is read by nodes and driven by nodes; others are added here."
            : `No event and no output has "${word}" in its name.`}
        </p>
      )}
    </Sheets>
  );
}

/** The teaching of the node of the cell that one is in. */
export function Teaching({ record, here }: { record: RailwayRecord; here: Place }) {
  const { threads, plan } = useEvents(record);
  const [chosen, choose] = useState<{ deviceId: string; at: Place } | null>(null);
  const ofCell = plan.outputs[here.column]?.deviceId ?? null;
  return (
    <TeachSheet
      record={record}
      threads={threads}
      // what was chosen here counts until one goes elsewhere in the matrix
      chosen={chosen?.at === here ? chosen.deviceId : ofCell}
      choose={(deviceId) => choose({ deviceId, at: here })}
    />
  );
}

/** "New event", or with the first number that no other has. */
function freshName(events: readonly { label: string }[]): string {
  const taken = new Set(events.map(({ label }) => label.toLowerCase()));
  for (let number = 1; ; number++) {
    const label = number === 1 ? "New event" : `New event ${number}`;
    if (!taken.has(label.toLowerCase())) return label;
  }
}
