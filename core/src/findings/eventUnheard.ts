import { removeEvent, setLink } from "../events/edits.ts";
import { actionsAsThrown, type EventPlan, eventPlan, type PlannedEvent } from "../events/plan.ts";
import type { Thread } from "../schematic/thread.ts";
import { list } from "../units/format.ts";
import { type Look, type Remedy, rule } from "./rule.ts";

interface Unheard {
  event: PlannedEvent;
  threads: Thread[];
}

export const eventUnheard = rule<Unheard>({
  id: "event-unheard",
  stage: "numbers",
  column: null,
  severity: "look",
  title: "An event that nobody acts upon",
  about:
    "A node sends the event whenever its input is worked, and no output was ever told to do anything upon it. Either an output is to act upon it, or the event can be given up.",
  look: ({ record, threads }) => {
    const plan = eventPlan(record, threads);
    const heard = heardIn(plan);
    return plan.events
      .filter(({ id, inputs, asks }) => inputs.length > 0 && !asks && !heard.has(id))
      .map((event) => ({ event, threads: threadsOf(event, threads) }));
  },
  subject: ({ event }) => event.id,
  where: ({ event }) => event.label,
  terminals: ({ event }) => event.inputs.map(({ label }) => label),
  turnouts: ({ threads }) => threads,
  why: ({ event }) =>
    `${event.label} is sent from ${list(event.inputs.map(({ label, reads }) => (reads ? `${label} (${reads})` : label)))}, and no output acts upon it.`,
  remedies: ({ event }, { record, threads }) => [
    ...actionsFor({ record, threads }, event),
    ...(event.standing === "kept" ? [{ label: `Give up ${event.label}`, group: removeEvent(record, event.id) }] : []),
  ],
});

function heardIn({ links }: EventPlan): Set<string> {
  return new Set(links.flatMap(({ eventId, action }) => (action === null ? [] : [eventId])));
}

/** Threads that are thrown by what produces an event. */
export function threadsOf({ inputs }: PlannedEvent, threads: readonly Thread[]): Thread[] {
  const ids = new Set(inputs.flatMap(({ turnoutIds }) => turnoutIds));
  return threads.filter(({ turnout }) => ids.has(turnout.id));
}

/** What the outputs of the turnouts that are read there would do upon it. */
function actionsFor({ record, threads }: Pick<Look, "record" | "threads">, event: PlannedEvent): Remedy[] {
  const { outputs } = eventPlan(record, threads);
  return actionsAsThrown(record, threads, event).flatMap(({ deviceId, way, action }): Remedy[] => {
    const output = outputs.find((each) => each.deviceId === deviceId && each.way === way);
    const group = output ? setLink(record, threads, event.id, output, action) : null;
    return group ? [{ label: group.words, group }] : [];
  });
}
