import { removeEvent } from "../events/edits.ts";
import { type EventOutput, eventPlan, type PlannedEvent } from "../events/plan.ts";
import type { Thread } from "../schematic/thread.ts";
import { list } from "../units/format.ts";
import { rule } from "./rule.ts";

interface Unproduced {
  event: PlannedEvent;
  outputs: EventOutput[];
  threads: Thread[];
}

export const eventUnproduced = rule<Unproduced>({
  id: "event-unproduced",
  stage: "numbers",
  column: null,
  severity: "look",
  title: "An event that nothing sends",
  about:
    "Outputs are to act upon the event, and no input of any node produces it: what hangs on them stays as it is. Say which input sends it, or give it up. What a computer sends is an event of its own; name it so in its label.",
  look: ({ record, threads }) => {
    const { events, links, outputs } = eventPlan(record, threads);
    return events.flatMap((event): Unproduced[] => {
      if (event.inputs.length > 0) return [];
      const own = new Set(
        links.flatMap(({ eventId, action, deviceId, way }) =>
          eventId === event.id && action !== null ? [`${deviceId} ${way}`] : [],
        ),
      );
      const acting = outputs.filter(({ deviceId, way }) => own.has(`${deviceId} ${way}`));
      const ids = new Set(acting.map(({ turnoutId }) => turnoutId));
      return acting.length === 0
        ? []
        : [{ event, outputs: acting, threads: threads.filter(({ turnout }) => ids.has(turnout.id)) }];
    });
  },
  subject: ({ event }) => event.id,
  where: ({ event }) => event.label,
  terminals: ({ outputs }) => outputs.map(({ label }) => label),
  turnouts: ({ threads }) => threads,
  why: ({ event, outputs }) =>
    `${list(outputs.map(({ label }) => label))} ${outputs.length === 1 ? "is" : "are"} to act upon ${event.label}, and no input sends it.`,
  remedies: ({ event }, { record }) => [{ label: `Give up ${event.label}`, group: removeEvent(record, event.id) }],
});
