import { typeOf } from "../catalogue/catalogue.ts";
import type { Teaching } from "../catalogue/deviceType.ts";
import { deviceOf } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { EventAction } from "../record/numbers.ts";
import type { Thread } from "../schematic/thread.ts";
import { list } from "../units/format.ts";
import { switchesFor } from "./node.ts";
import { type EventLink, type EventOutput, type EventPlan, eventPlan, type PlannedEvent } from "./plan.ts";
import { learnSwitch, type StepKind } from "./taught.ts";

/** A switch as it must stand, and whether it is moved for this step. */
export interface SwitchSetting {
  name: string;
  on: boolean;
  moved: boolean;
}

/** A step of teaching a node, with how its switches stand. */
export interface TeachingStep {
  id: string;
  kind: StepKind;
  words: string;
  switches: SwitchSetting[];
  eventId: string | null;
  way: number | null;
  /** When it was done; null until then. */
  doneAt: string | null;
}

/** How a node is taught what is wanted of it. */
export interface TeachingSheet {
  deviceId: string;
  label: string;
  steps: TeachingStep[];
  /** Links that are taught as they are wanted, and all that are wanted. */
  done: number;
  of: number;
  /** Why it cannot be taught yet; null when it can. */
  hindered: string | null;
}

/** Nodes that hold events for their outputs, in the order of devices, each with what is to be done at it. */
export function teachingSheets(record: RailwayRecord, threads: readonly Thread[]): TeachingSheet[] {
  const plan = eventPlan(record, threads);
  const concerned = new Set([...plan.links, ...plan.strays].map(({ deviceId }) => deviceId));
  return record.devices.flatMap((device) => {
    const { teaching } = typeOf(record, device);
    return teaching && concerned.has(device.id) ? [sheetOf(record, plan, device.id, teaching)] : [];
  });
}

function sheetOf(record: RailwayRecord, plan: EventPlan, deviceId: string, teaching: Teaching): TeachingSheet {
  const device = deviceOf(record, deviceId);
  const links = plan.links.filter((link) => link.deviceId === deviceId);
  const wanted = links.filter(({ action }) => action !== null);
  const done = wanted.filter(({ action, taught }) => action === taught).length;
  const isLearning = learnSwitch(record, deviceId)?.read === "on";
  const strays = plan.strays.filter((stray) => stray.deviceId === deviceId);
  const steps = new Steps(plan, deviceId, teaching);
  const wrong = [
    ...new Set(links.flatMap(({ eventId, action, taught }) => (taught !== null && taught !== action ? [eventId] : []))),
  ];
  if (strays.length > 0) steps.clear(strays.length);
  else for (const eventId of wrong) steps.unlearn(eventId);
  // what goes with an event that is unlearned is taught anew
  const isOpen = (link: EventLink) => link.action !== link.taught || strays.length > 0 || wrong.includes(link.eventId);
  for (const group of byFewestChanges(wanted, steps)) steps.teach(group, isOpen);
  const isOpenAtAll = steps.open > 0 || isLearning;
  steps.end(isOpenAtAll ? null : lastOf(wanted));
  return {
    ...{ deviceId, label: device.label, steps: steps.steps, done, of: wanted.length },
    hindered: hindrance(record, plan, wanted),
  };
}

function lastOf(links: readonly EventLink[]): string | null {
  return (
    links
      .flatMap(({ at }) => at ?? [])
      .sort()
      .at(-1) ?? null
  );
}

/** What must be known before a node can be taught. */
function hindrance(
  record: RailwayRecord,
  { events, nodeNumber }: EventPlan,
  links: readonly EventLink[],
): string | null {
  const needed = new Set(links.map(({ eventId }) => eventId));
  const without = new Set<string>();
  for (const { id, nodeId, inputs, label } of events) {
    if (!needed.has(id)) continue;
    if (nodeId !== null && (nodeNumber.get(nodeId) ?? null) === null)
      without.add(`${deviceOf(record, nodeId).label} has no node number yet`);
    if (inputs.length === 0) without.add(`nothing produces ${label}`);
  }
  return without.size === 0 ? null : `${list([...without])}.`;
}

/** Links of one output that are taught in one way: the switches stand alike for them. */
type Group = { way: number; action: EventAction; links: EventLink[] };

/** Groups so that few switches are moved from one to the next: each time the one that is nearest, the lowest output first. */
function byFewestChanges(links: readonly EventLink[], steps: Steps): Group[] {
  const groups = new Map<string, Group>();
  for (const link of links) {
    const { way, action } = link;
    if (action === null) continue;
    const group = groups.get(`${way} ${action}`) ?? { way, action, links: [] };
    group.links.push(link);
    groups.set(`${way} ${action}`, group);
  }
  const left = [...groups.values()].sort((a, b) => a.way - b.way || (a.action < b.action ? -1 : 1));
  const ordered: Group[] = [];
  for (let now: readonly boolean[] = steps.positionsOf(1, "acts"); left.length > 0; ) {
    let nearest = 0;
    let least = Number.POSITIVE_INFINITY;
    for (const [index, { way, action }] of left.entries()) {
      const moves = steps.positionsOf(way, action).filter((on, bit) => on !== now[bit]).length;
      if (moves < least) [nearest, least] = [index, moves];
    }
    const [next] = left.splice(nearest, 1) as [Group];
    ordered.push(next);
    now = steps.positionsOf(next.way, next.action);
  }
  return ordered;
}

/** The steps of a sheet in the making, with how the switches stand. */
class Steps {
  readonly steps: TeachingStep[] = [];
  open = 0;
  private now: boolean[];
  private readonly names: string[];
  private readonly events: ReadonlyMap<string, PlannedEvent>;
  private readonly outputs: ReadonlyMap<number, EventOutput>;

  constructor(
    plan: EventPlan,
    private readonly deviceId: string,
    private readonly teaching: Teaching,
  ) {
    const { select, inverted, onOnly, learn, unlearn } = teaching;
    this.names = [...select, inverted, onOnly, learn, unlearn];
    this.now = this.names.map(() => false);
    this.events = new Map(plan.events.map((event) => [event.id, event]));
    this.outputs = new Map(
      plan.outputs.flatMap((output) => (output.deviceId === deviceId ? [[output.way, output] as const] : [])),
    );
  }

  /** How the switches for an output and an action stand, those that choose it first, then polarity and "on" only. */
  positionsOf(way: number, action: EventAction): boolean[] {
    const { inverted, onOnly } = switchesFor(action);
    return [...this.teaching.select.map((_, bit) => ((way - 1) >> bit) % 2 === 1), inverted, onOnly];
  }

  clear(count: number): void {
    const { unlearn } = this.teaching;
    this.add("clear", {
      words: `It was taught ${count === 1 ? "an event" : `${count} events`} that nothing sends any more. ${unlearn} on, power off and on, ${unlearn} off: it forgets all, and is taught anew.`,
      on: { [unlearn]: true },
    });
    this.now = this.now.map(() => false);
  }

  unlearn(eventId: string): void {
    const { learn, unlearn } = this.teaching;
    this.add("unlearn", {
      words: `${learn} and ${unlearn} on, then ${this.make(eventId)}, which goes with all of its actions. Then both off.`,
      on: { [learn]: true, [unlearn]: true },
      eventId,
    });
    this.now = this.now.map((on, index) => on && ![learn, unlearn].includes(this.names[index] ?? ""));
  }

  teach({ way, action, links }: Group, isOpen: (link: EventLink) => boolean): void {
    const { select, inverted, onOnly, learn } = this.teaching;
    const positions = this.positionsOf(way, action);
    const drives = this.outputs.get(way)?.drives;
    const on = Object.fromEntries(
      [...select, inverted, onOnly].map((name, index) => [name, positions[index] ?? false]),
    );
    const doneAt = links.some(isOpen) ? null : lastOf(links);
    this.add("choose", {
      words: `Choose output ${way}${drives ? ` (${drives})` : ""}${HOW[action]}, then ${learn} on.`,
      on: { ...on, [learn]: true },
      ...{ way, doneAt },
    });
    for (const link of links)
      this.add("teach", {
        words: `${capital(this.make(link.eventId))}.`,
        ...{ on: {}, way, eventId: link.eventId, action, doneAt: isOpen(link) ? null : link.at },
      });
  }

  end(doneAt: string | null): void {
    const { learn } = this.teaching;
    const on = Object.fromEntries(this.names.map((name) => [name, false]));
    this.add("end", { words: `${learn} off again, and all others; or it learns whatever happens next.`, on, doneAt });
  }

  /** How an event is made to happen. */
  private make(eventId: string): string {
    const event = this.events.get(eventId);
    const [input, ...more] = event?.inputs ?? [];
    if (!event || !input) return `make ${event?.label ?? "it"} happen`;
    const others = more.length > 0 ? ` (or ${list(more.map(({ label }) => label))})` : "";
    const what = input.reads
      ? `${input.reads.replace(", made", " so that it is made")}, at ${input.label}`
      : input.label;
    return `work ${what}${others}: it sends ${event.label}`;
  }

  private add(
    kind: TeachingStep["kind"],
    {
      words,
      on,
      eventId = null,
      way = null,
      action,
      doneAt = null,
    }: {
      words: string;
      on: Record<string, boolean>;
      eventId?: string | null;
      way?: number | null;
      action?: EventAction;
      doneAt?: string | null;
    },
  ): void {
    if (doneAt === null && kind !== "end") this.open++;
    const before = this.now;
    this.now = this.names.map((name, index) => on[name] ?? before[index] ?? false);
    const switches = this.names.map(
      (name, index): SwitchSetting => ({
        ...{ name, on: this.now[index] ?? false },
        moved: this.now[index] !== before[index],
      }),
    );
    const id = [kind, this.deviceId, way ?? "", eventId ?? "", action ?? ""].join(" ");
    this.steps.push({ id, kind, words, switches, eventId, way, doneAt });
  }
}

const HOW: Record<EventAction, string> = {
  acts: "",
  inverted: ", acting inverted",
  on: ', going on upon "on" only',
  off: ', going off upon "on" only',
};

function capital(text: string): string {
  return text.slice(0, 1).toUpperCase() + text.slice(1);
}
