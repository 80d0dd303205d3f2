import { setProducer } from "../events/edits.ts";
import { type EventInput, eventPlan, type PlannedEvent } from "../events/plan.ts";
import type { Thread } from "../schematic/thread.ts";
import { list } from "../units/format.ts";
import { threadsOf } from "./eventUnheard.ts";
import { type Remedy, rule } from "./rule.ts";

interface Collision {
  event: PlannedEvent;
  /** Those of its inputs that throw other turnouts than the first one does. */
  others: EventInput[];
  threads: Thread[];
}

export const shortEventShared = rule<Collision>({
  id: "short-event-shared",
  stage: "numbers",
  column: null,
  severity: "look",
  title: "One short event for two things",
  about:
    "A short event carries no node's number: whoever sends its number sends the same event. For two buttons of one turnout, or a button that throws all of a route, that is what it is for. Sent from the controls of different turnouts it throws both whenever one is meant.",
  look: ({ record, threads }) =>
    eventPlan(record, threads).events.flatMap((event): Collision[] => {
      if (event.nodeId !== null) return [];
      const reading = event.inputs.filter(({ turnoutIds }) => turnoutIds.length > 0);
      const [first, ...more] = reading;
      const others = more.filter(({ turnoutIds }) => !turnoutIds.some((id) => first?.turnoutIds.includes(id)));
      return others.length === 0 ? [] : [{ event, others, threads: threadsOf(event, threads) }];
    }),
  subject: ({ event }) => event.id,
  where: ({ event }) => event.label,
  terminals: ({ event }) => event.inputs.map(({ label }) => label),
  turnouts: ({ threads }) => threads,
  why: ({ event }) =>
    `Short event ${event.number}, ${event.label}, is sent from ${list(event.inputs.map(({ label, reads }) => `${label} (${reads})`))}, which throw different turnouts.`,
  remedies: ({ others }, { record, threads }) =>
    others.flatMap((input): Remedy[] => {
      const group = setProducer(record, threads, input, null);
      return group ? [{ label: `${input.label} sends an event of its own`, group }] : [];
    }),
});
