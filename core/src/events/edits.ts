import { Draft } from "../equip/draft.ts";
import type { EditGroup } from "../record/edits.ts";
import { find, freshId } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { EventAction } from "../record/numbers.ts";
import { recordError } from "../record/problems.ts";
import type { Thread } from "../schematic/thread.ts";
import { turned } from "./messages.ts";
import {
  actionsAsThrown,
  type EventOutput,
  type EventPlan,
  eventPlan,
  freeShortNumber,
  isTurned,
  type PlannedEvent,
} from "./plan.ts";

/** What an output does upon an event, in words. */
export const ACTION_WORDS: Record<EventAction, string> = {
  acts: "acts",
  inverted: "acts inverted",
  on: 'goes on upon "on" only',
  off: 'goes off upon "on" only',
};

/**
 * What an output is to do upon an event; null for nothing. An event that is only proposed is kept from now on, with all that
 * is proposed to act upon it.
 * @returns null when that is wanted already
 */
export function setLink(
  record: RailwayRecord,
  threads: readonly Thread[],
  eventId: string,
  output: Pick<EventOutput, "deviceId" | "way" | "label">,
  action: EventAction | null,
): EditGroup | null {
  const plan = eventPlan(record, threads);
  const event = requireEvent(plan, eventId);
  const isHere = (each: { deviceId: string; way: number }) =>
    each.deviceId === output.deviceId && each.way === output.way;
  const link = plan.links.find((each) => each.eventId === eventId && isHere(each));
  if ((link?.action ?? null) === action) return null;
  const draft = new Draft(record);
  const id = keepEvent(draft, plan, event);
  const known = draft.record.consumers.find((each) => each.eventId === id && isHere(each));
  if (action === null) {
    if (known) draft.remove("consumer", known.id);
  } else {
    const { deviceId, way } = output;
    draft.put("consumer", {
      id: known?.id ?? freshId(draft.record, "consumer", `${id}-${deviceId}-${way}`),
      ...{ eventId: id, deviceId, way },
      action: isTurned(record, deviceId, firstOf(plan, output)) ? turned(action) : action,
    });
  }
  const words = action === null ? "does nothing" : ACTION_WORDS[action];
  return draft.group(`${output.label} ${words} upon ${event.label}`);
}

/** The output by which the sense ledger knows what hangs on an output. */
function firstOf({ outputs }: EventPlan, { deviceId, way }: { deviceId: string; way: number }): number {
  return outputs.find((output) => output.deviceId === deviceId && output.way === way)?.first ?? way;
}

/**
 * An output is to do upon all events what throws its turnout as its controls ask, and nothing upon others.
 * @returns null when it does already
 */
export function followControls(
  record: RailwayRecord,
  threads: readonly Thread[],
  output: Pick<EventOutput, "deviceId" | "way" | "label">,
): EditGroup | null {
  const { events } = eventPlan(record, threads);
  const draft = new Draft(record);
  for (const event of events) {
    const wanted = actionsAsThrown(record, threads, event).find(
      ({ deviceId, way }) => deviceId === output.deviceId && way === output.way,
    );
    draft.take(setLink(draft.record, threads, keptAs(draft.record, event), output, wanted?.action ?? null));
  }
  return draft.edits.length === 0 ? null : draft.group(`${output.label} acts as its controls ask`);
}

/** What a proposed event is called in the record once it is kept: by the input that sends it. */
function keptAs({ producers }: RailwayRecord, { id, inputs: [input] }: PlannedEvent): string {
  const kept = producers.find(({ deviceId, way }) => deviceId === input?.deviceId && way === input.way);
  return kept?.eventId ?? id;
}

/** What can be said of an event. */
export type EventFields = Pick<PlannedEvent, "label" | "number" | "nodeId" | "asks">;

/** Says something of an event; one that is only proposed is kept from now on. @returns null when nothing changes */
export function setEvent(
  record: RailwayRecord,
  threads: readonly Thread[],
  eventId: string,
  fields: Partial<EventFields>,
): EditGroup | null {
  const plan = eventPlan(record, threads);
  const event = requireEvent(plan, eventId);
  const now = { ...event, ...fields };
  if ((Object.keys(fields) as (keyof EventFields)[]).every((field) => event[field] === now[field])) return null;
  if (!Number.isInteger(now.number) || now.number < 1 || now.number > 65_535)
    throw recordError("The number of an event must be 1 to 65535.");
  const other = plan.events.find(
    ({ id, nodeId, number }) => id !== eventId && nodeId === now.nodeId && number === now.number,
  );
  if (other) throw recordError(`Event ${other.label} has the number ${now.number} already.`);
  const draft = new Draft(record);
  const id = keepEvent(draft, plan, event);
  const { label, nodeId, number, asks } = now;
  draft.put("event", { id, label, nodeId, number, asks });
  return draft.group(`Event ${label}: ${eventNumber(record, now)}`);
}

/** All events as they are proposed now are kept. @returns null when all are */
export function keepEvents(record: RailwayRecord, threads: readonly Thread[]): EditGroup | null {
  const plan = eventPlan(record, threads);
  const draft = new Draft(record);
  const proposed = plan.events.filter(({ standing }) => standing === "proposed");
  for (const event of proposed) keepEvent(draft, plan, event);
  return proposed.length === 0 ? null : draft.group("Kept all events as they are proposed");
}

/** A short event that nothing produces yet, by the lowest free number. @param asks nodes answer it, at the start of a day */
export function addEvent(record: RailwayRecord, threads: readonly Thread[], label: string, asks = false): EditGroup {
  const plan = eventPlan(record, threads);
  const name = label.trim();
  if (plan.events.some((each) => each.label.toLowerCase() === name.toLowerCase()))
    throw recordError(`There is an event ${name} already.`);
  const draft = new Draft(record);
  const id = freshId(record, "event", name);
  draft.put("event", { id, label: name, nodeId: null, number: freeShortNumber(plan), asks });
  return draft.group(`Added event ${name}`);
}

/** An event with all that is said of it is given up; what is read at an input is proposed anew. */
export function removeEvent(record: RailwayRecord, eventId: string): EditGroup | null {
  const event = find(record, "event", eventId);
  if (!event) return null;
  const draft = new Draft(record);
  draft.removeWhole("event", eventId);
  return draft.group(`Gave up event ${event.label}`);
}

/** An input produces an event from now on, whatever it produced before; null for its own again. */
export function setProducer(
  record: RailwayRecord,
  threads: readonly Thread[],
  input: { deviceId: string; way: number; label: string },
  eventId: string | null,
): EditGroup | null {
  const draft = new Draft(record);
  const known = record.producers.find(({ deviceId, way }) => deviceId === input.deviceId && way === input.way);
  let label = "its own event";
  if (eventId === null) {
    if (!known) return null;
    draft.remove("producer", known.id);
  } else {
    const plan = eventPlan(record, threads);
    const event = requireEvent(plan, eventId);
    label = event.label;
    const id = keepEvent(draft, plan, event);
    const { deviceId, way } = input;
    if (known?.eventId === id) return null;
    const producerId = known?.id ?? freshId(draft.record, "producer", `${deviceId}-${way}`);
    draft.put("producer", { id: producerId, eventId: id, deviceId, way });
  }
  return draft.edits.length === 0 ? null : draft.group(`${input.label} produces ${label}`);
}

/** An event by its number. @example "long, 16 and 3", "short, 12" */
export function eventNumber(record: RailwayRecord, { nodeId, number }: Pick<EventFields, "nodeId" | "number">): string {
  if (nodeId === null) return `short, ${number}`;
  return `long, ${number} of ${find(record, "device", nodeId)?.label ?? nodeId}`;
}

/** Puts an event that is proposed into the record, with what produces it and what is to act upon it. @returns its identifier there */
function keepEvent(draft: Draft, { links }: EventPlan, event: PlannedEvent): string {
  if (event.standing === "kept") return event.id;
  const { label, nodeId, number, asks, inputs } = event;
  const id = freshId(draft.record, "event", event.id);
  draft.put("event", { id, label, nodeId, number, asks });
  for (const { deviceId, way } of inputs)
    draft.put("producer", {
      id: freshId(draft.record, "producer", `${deviceId}-${way}`),
      ...{ eventId: id, deviceId, way },
    });
  for (const { eventId, deviceId, way, plain } of links)
    if (eventId === event.id && plain !== null)
      draft.put("consumer", {
        id: freshId(draft.record, "consumer", `${id}-${deviceId}-${way}`),
        ...{ eventId: id, deviceId, way, action: plain },
      });
  return id;
}

function requireEvent({ events }: EventPlan, id: string): PlannedEvent {
  const event = events.find((each) => each.id === id);
  if (!event) throw recordError("This event is not there any more.");
  return event;
}
