import { type EventPlan, eventPlan, type RailwayRecord, type Thread, threadsOf } from "@alderman/core";
import { useMemo } from "react";

/** Events with the threads that they are of. */
interface Events {
  threads: readonly Thread[];
  plan: EventPlan;
}

const NOTHING: Events = {
  threads: [],
  plan: { events: [], outputs: [], links: [], strays: [], nodeNumber: new Map() },
};
/** Several views want those of one record. */
const known = new WeakMap<RailwayRecord, Events>();

/**
 * The events of a record as it is now, with its threads: what the worker derived may be of the record before, and name what is not
 * there any more.
 */
export function useEvents(record: RailwayRecord | null): Events {
  return useMemo(() => (record ? eventsOf(record) : NOTHING), [record]);
}

function eventsOf(record: RailwayRecord): Events {
  const before = known.get(record);
  if (before) return before;
  const threads = threadsOf(record);
  const events = { threads, plan: eventPlan(record, threads) };
  known.set(record, events);
  return events;
}
