import {
  ACTION_WORDS,
  EVENT_ACTIONS,
  type EventAction,
  type EventInput,
  type EventLink,
  type EventOutput,
  type EventPlan,
  freeShortNumber,
  list,
  type PlannedEvent,
  type RailwayRecord,
  removeEvent,
  setEvent,
  setProducer,
  type Thread,
  typeOf,
} from "@alderman/core";
import { Button } from "../../../kit/Button.tsx";
import { Checkbox } from "../../../kit/Checkbox.tsx";
import { Choice } from "../../../kit/Choice.tsx";
import { Field } from "../../../kit/Field.tsx";
import { NumberField } from "../../../kit/NumberField.tsx";
import { Segmented } from "../../../kit/Segmented.tsx";
import { Sheet, SheetBody } from "../../../kit/Sheet.tsx";
import { TextField } from "../../../kit/TextField.tsx";
import { useEdit, useTryEdit } from "../../../session/useEdit.ts";
import { shortDateAndTime } from "../../../tools/when.ts";

/** What an output does, by what is written on its button. */
const SHORT: Record<EventAction, string> = {
  acts: "acts",
  inverted: "inverted",
  on: "on only",
  off: "off only",
};

type Chosen = EventAction | "nothing";

/** The event and the output that one is at: what the one does upon the other, and all that can be said of the event. */
export function EventCard({
  record,
  threads,
  plan,
  event,
  output,
  link,
  act,
}: {
  record: RailwayRecord;
  threads: readonly Thread[];
  plan: EventPlan;
  event: PlannedEvent;
  output: EventOutput | undefined;
  link: EventLink | undefined;
  act: (action: EventAction | null) => void;
}) {
  const edit = useEdit();
  const tryEdit = useTryEdit();
  const set = (fields: Parameters<typeof setEvent>[3]) => tryEdit(() => setEvent(record, threads, event.id, fields));
  const own = event.inputs[0]?.deviceId ?? null;
  const isShort = event.nodeId === null;
  return (
    <Sheet
      title={event.label}
      about={
        event.standing === "kept" ? "kept as it is said here" : "proposed: what is at the input and what it throws"
      }
      actions={
        event.standing === "kept" && (
          <Button size="small" onClick={() => edit(() => removeEvent(record, event.id))}>
            Give it up
          </Button>
        )
      }
    >
      <SheetBody label={`Event ${event.label}`}>
        <div className="grid gap-2.5 p-3">
          {output && (
            <div className="flex flex-wrap items-center gap-x-3 gap-y-1">
              <span>
                <b className="mono">{output.label}</b>
                {output.drives && <span className="text-ink-2"> ({output.drives})</span>} upon it:
              </span>
              <Segmented<Chosen>
                label={`${output.label} upon ${event.label}`}
                size="small"
                value={link?.action ?? "nothing"}
                segments={[
                  { value: "nothing", text: "nothing" },
                  ...EVENT_ACTIONS.map((action) => ({ value: action, text: SHORT[action] })),
                ]}
                onChange={(action) => act(action === "nothing" ? null : action)}
              />
              <span className="text-small text-ink-2">{taughtWords(link)}</span>
            </div>
          )}
          <p className="text-small text-ink-2">
            {event.inputs.length === 0
              ? "No input sends it."
              : `Sent from ${list(event.inputs.map(({ label, reads }) => (reads ? `${label} (${reads})` : label)))}.`}
          </p>
          <div className="flex flex-wrap items-end gap-3 border-t border-rule pt-2">
            <Field stacked label="Name">
              {(ids) => <TextField ids={ids} className="w-44!" value={event.label} save={(label) => set({ label })} />}
            </Field>
            <Field stacked label="Kind">
              {({ id }) => (
                <Choice
                  id={id}
                  value={event.nodeId}
                  options={[
                    { value: null, text: "short" },
                    ...nodesOf(record, plan, event, own).map(({ id: node, text }) => ({
                      value: node as string | null,
                      text: `long, of ${text}`,
                    })),
                  ]}
                  onChange={(nodeId) =>
                    set({ nodeId, ...(nodeId === null ? { number: freeShortNumber(plan, event.number) } : {}) })
                  }
                />
              )}
            </Field>
            <Field stacked label="Number">
              {(ids) => (
                <NumberField
                  ids={ids}
                  className="w-20! font-mono"
                  value={event.number}
                  save={(number) => (number === null ? "Type a number, 1 to 65535." : set({ number }))}
                />
              )}
            </Field>
            {isShort && (
              <Field stacked label="Sent also from">
                {({ id }) => (
                  <Choice
                    id={id}
                    value={null as string | null}
                    options={[
                      { value: null, text: "choose an input" },
                      ...freeInputs(record, plan, event).map(({ key, text }) => ({
                        value: key as string | null,
                        text,
                      })),
                    ]}
                    onChange={(key) => {
                      const [deviceId = "", way = ""] = (key ?? "").split(" ");
                      const label = `${record.devices.find((d) => d.id === deviceId)?.label ?? deviceId}-${way}`;
                      if (key)
                        edit(() => setProducer(record, threads, { deviceId, way: Number(way), label }, event.id));
                    }}
                  />
                )}
              </Field>
            )}
          </div>
          <Checkbox checked={event.asks} onChange={(asks) => set({ asks })}>
            It asks the nodes how things stand, at the start of a day
          </Checkbox>
        </div>
      </SheetBody>
    </Sheet>
  );
}

function taughtWords(link: EventLink | undefined): string {
  if (!link || link.at === null) return "Nothing was taught of it yet, as far as is known.";
  const when = shortDateAndTime(link.at);
  if (link.taught === null) return `Unlearned ${when}.`;
  return `Taught ${when}: it ${ACTION_WORDS[link.taught]}.`;
}

/** Nodes whose number an event can carry: the one that it carries, and the one that sends it; any, as long as nothing sends it. */
function nodesOf(record: RailwayRecord, plan: EventPlan, { nodeId }: PlannedEvent, own: string | null) {
  const near = [nodeId, own].filter((id) => id !== null);
  const ids = near.length > 0 ? new Set(near) : new Set(plan.nodeNumber.keys());
  return [...ids].map((id) => ({ id, text: record.devices.find((device) => device.id === id)?.label ?? id }));
}

/** Inputs of the nodes that do not send an event yet: those that others are read at first, then free ones. */
function freeInputs(record: RailwayRecord, { events }: EventPlan, event: PlannedEvent) {
  const named = new Map<string, EventInput & { isHere: boolean }>(
    events.flatMap(({ id, inputs }) =>
      inputs.map((input) => [`${input.deviceId} ${input.way}`, { ...input, isHere: id === event.id }] as const),
    ),
  );
  return record.devices.flatMap((device) => {
    const type = typeOf(record, device);
    if (type.hears !== "bus" || !type.inputs) return [];
    return Array.from({ length: type.inputs }, (_, index) => index + 1).flatMap((way) => {
      const key = `${device.id} ${way}`;
      const input = named.get(key);
      if (input?.isHere) return [];
      return [{ key, text: `${device.label}-${way}${input?.reads ? ` (${input.reads})` : ""}` }];
    });
  });
}
