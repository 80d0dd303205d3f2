import { Draft } from "../equip/draft.ts";
import { ACTION_WORDS, setLink } from "../events/edits.ts";
import { type EventLink, eventPlan } from "../events/plan.ts";
import type { EditGroup } from "../record/edits.ts";
import { deviceOf } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { Device } from "../record/schemas.ts";
import type { Thread } from "../schematic/thread.ts";
import { type Remedy, rule } from "./rule.ts";

interface Otherwise {
  device: Device;
  links: (EventLink & { event: string })[];
  strays: number;
  threads: Thread[];
}

export const taughtOtherwise = rule<Otherwise>({
  id: "taught-otherwise",
  stage: "numbers",
  column: null,
  severity: "look",
  title: "A node was taught something else than is wanted",
  about:
    "The matrix says what outputs are to do upon events; what a node was taught is a fact with its date, in the numbers that went over the bus. Where the two differ the railway does what was taught. Teach it anew by its sheet, or say that what was taught is what is wanted. What was taught in the number of a node that has another one now does nothing.",
  look: ({ record, threads }) => {
    const plan = eventPlan(record, threads);
    if (record.taught.length === 0) return [];
    const labels = new Map(plan.events.map(({ id, label }) => [id, label]));
    const devices = new Set([...plan.links, ...plan.strays].map(({ deviceId }) => deviceId));
    return [...devices].flatMap((deviceId): Otherwise[] => {
      const links = plan.links.flatMap((link) =>
        link.deviceId === deviceId && link.at !== null && link.taught !== link.action
          ? [{ ...link, event: labels.get(link.eventId) ?? "" }]
          : [],
      );
      const strays = plan.strays.filter((stray) => stray.deviceId === deviceId).length;
      if (links.length + strays === 0) return [];
      const turnouts = new Set(
        plan.outputs.flatMap((o) =>
          o.deviceId === deviceId && links.some(({ way }) => way === o.way) ? [o.turnoutId] : [],
        ),
      );
      const own = threads.filter(({ turnout }) => turnouts.has(turnout.id));
      return [{ device: deviceOf(record, deviceId), links, strays, threads: own }];
    });
  },
  subject: ({ device }) => device.id,
  where: ({ device }) => device.label,
  terminals: ({ device, links }) => links.map(({ way }) => `${device.label}-${way}`),
  turnouts: ({ threads }) => threads,
  why: ({ device, links, strays }) => {
    const [first, ...more] = links;
    const says = first
      ? `${device.label}-${first.way} ${first.taught === null ? "does nothing" : ACTION_WORDS[first.taught]} upon ${first.event} as it was taught, and ${first.action === null ? "is to do nothing" : `is wanted so that it ${ACTION_WORDS[first.action]}`}${more.length > 0 ? `; ${more.length} more like it` : ""}.`
      : "";
    const lost =
      strays > 0
        ? `${device.label} was taught ${strays} ${strays === 1 ? "event" : "events"} that nothing sends any more.`
        : "";
    return [says, lost].filter(Boolean).join(" ");
  },
  remedies: ({ device, links, strays }, { record, threads }) => {
    const remedies: Remedy[] = [];
    if (strays > 0)
      remedies.push({
        label: `${device.label} was cleared: it forgot all`,
        group: forgotten(record, device),
      });
    if (links.length > 0 && strays === 0)
      remedies.push({ label: "What was taught is what is wanted", group: asTaught(record, threads, device, links) });
    return remedies;
  },
});

/** A node that was cleared holds nothing that could differ: its facts go. */
function forgotten(record: RailwayRecord, { id, label }: Device): EditGroup {
  const draft = new Draft(record);
  for (const fact of record.taught.filter(({ deviceId }) => deviceId === id)) draft.remove("taught", fact.id);
  return draft.group(`${label} forgot all that it was taught`);
}

/** The plan becomes what was taught, link by link. */
function asTaught(
  record: RailwayRecord,
  threads: readonly Thread[],
  device: Device,
  links: readonly (EventLink & { event: string })[],
): EditGroup | null {
  const draft = new Draft(record);
  for (const { eventId, way, taught } of links) {
    const output = { deviceId: device.id, way, label: `${device.label}-${way}` };
    draft.take(setLink(draft.record, threads, eventId, output, taught));
  }
  return draft.edits.length === 0 ? null : draft.group(`${device.label}: what was taught is what is wanted`);
}
