import { typeOf } from "../catalogue/catalogue.ts";
import { sourceLabel } from "../equip/plainInputs.ts";
import { LABEL_LENGTH } from "../record/fields.ts";
import { deviceOf, feederOf, find } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { BusEvent, EventAction, Taught } from "../record/numbers.ts";
import type { Position } from "../record/schemas.ts";
import { wayName } from "../schematic/nets.ts";
import { plainInputsOf } from "../schematic/recipes/plainInputs.ts";
import { controlsOf, type Thread, type ThreadControl } from "../schematic/thread.ts";
import { senseAt } from "../sense/ledger.ts";
import { busNodes } from "../settings/nodes.ts";
import { type ControlInput, inputsOf, plainAction, turned } from "./messages.ts";

/** An input of a node that produces an event, with what it reads. */
export interface EventInput {
  deviceId: string;
  way: number;
  /** As "IN1-3". */
  label: string;
  /** What is at it, as "B3" or "T5, made at R"; "" for nothing that commands a turnout. */
  reads: string;
  /** Leaders of the turnouts that are thrown by it, and the controls that throw them. */
  turnoutIds: string[];
  controlIds: string[];
}

/** An output of a node that acts upon events, with what hangs on it. */
export interface EventOutput {
  deviceId: string;
  way: number;
  label: string;
  /** As "Q1" or "LP4 at N". */
  drives: string;
  /** A lamp hangs on it, and no motor. */
  isLamp: boolean;
  /** The turnout whose motor or lamp it is; null for an output that only events are said of. */
  turnoutId: string | null;
  /** Position of that turnout at which it is on. */
  onAt: Position;
  /** The first output of what hangs on it, by which the sense ledger knows it. */
  first: number;
}

/** An event with all that produces it; proposed ones follow from what is read and driven, until the owner says something of one. */
export interface PlannedEvent {
  id: string;
  label: string;
  /** The node whose number it carries; null for a short one. */
  nodeId: string | null;
  number: number;
  asks: boolean;
  standing: "proposed" | "kept";
  inputs: EventInput[];
}

/** What an output is to do upon an event, and what it was taught. */
export interface EventLink {
  eventId: string;
  deviceId: string;
  way: number;
  /** As it is wanted, with what the sense ledger turns; null where it was taught and nothing is wanted. */
  action: EventAction | null;
  /** The same without what the sense ledger turns, as the record says it. */
  plain: EventAction | null;
  /** As it was taught; null where it was unlearned or never taught. */
  taught: EventAction | null;
  /** When it was last taught or unlearned; null when never. */
  at: string | null;
}

/** Who says what on the control bus, and who acts upon it. */
export interface EventPlan {
  events: PlannedEvent[];
  outputs: EventOutput[];
  links: EventLink[];
  /** What was taught in numbers that no event has: of a node that was renumbered, or an event that was given up. */
  strays: Taught[];
  /** What a device is called on the bus: its node number, null while it has none. */
  nodeNumber: ReadonlyMap<string, number | null>;
}

const plans = new WeakMap<RailwayRecord, { threads: readonly Thread[]; plan: EventPlan }>();

/** The events of a railway; worked out once for a record. */
export function eventPlan(record: RailwayRecord, threads: readonly Thread[]): EventPlan {
  const known = plans.get(record);
  if (known?.threads === threads) return known.plan;
  const plan = planOf(record, threads);
  plans.set(record, { threads, plan });
  return plan;
}

const NONE: EventPlan = { events: [], outputs: [], links: [], strays: [], nodeNumber: new Map() };

function planOf(record: RailwayRecord, threads: readonly Thread[]): EventPlan {
  const onBus = new Set(record.devices.filter((device) => typeOf(record, device).hears === "bus").map(({ id }) => id));
  if (onBus.size === 0) return NONE;
  const outputs = outputsIn(record, threads, onBus);
  const { events, proposals } = eventsIn(record, threads, onBus, outputs);
  const nodeNumber = new Map(busNodes(record).map(({ line, number }) => [line.device.id, number]));
  const turns = record.senses.some(({ inverts, link }) => inverts && link === "event");
  const firstOf = new Map(outputs.map(({ deviceId, way, first }) => [`${deviceId} ${way}`, first]));
  const facts = new Map(record.taught.map((fact) => [factKey(fact.deviceId, fact.way, fact.node, fact.number), fact]));
  const used = new Set<Taught>();
  const eventOf = new Map(events.map((event) => [event.id, event]));
  const seen = new Set<string>();
  const linkOf = (eventId: string, deviceId: string, way: number, action: EventAction | null): EventLink => {
    if (facts.size > 0) seen.add(`${eventId} ${deviceId} ${way}`);
    const event = facts.size > 0 ? eventOf.get(eventId) : undefined;
    const numbers = event && numbersOf({ nodeNumber }, event);
    const fact = numbers && facts.get(factKey(deviceId, way, numbers.node, numbers.number));
    if (fact) used.add(fact);
    const isOther = turns && isTurned(record, deviceId, firstOf.get(`${deviceId} ${way}`) ?? way);
    // thousands are made at once: no more objects than are kept
    return {
      eventId,
      deviceId,
      way,
      action: action && isOther ? turned(action) : action,
      plain: action,
      taught: fact?.action ?? null,
      at: fact?.at ?? null,
    };
  };
  const links: EventLink[] = [];
  for (const all of [proposals, record.consumers])
    for (const { eventId, deviceId, way, action } of all) links.push(linkOf(eventId, deviceId, way, action));
  for (const fact of record.taught) {
    const eventId = eventOfNumbers({ events, nodeNumber }, fact)?.id;
    if (used.has(fact) || fact.action === null || eventId === undefined) continue;
    if (!seen.has(`${eventId} ${fact.deviceId} ${fact.way}`))
      links.push(linkOf(eventId, fact.deviceId, fact.way, null));
  }
  const strays = record.taught.filter((fact) => !used.has(fact) && fact.action !== null);
  return { events, outputs: withOthers(record, outputs, links), links, strays, nodeNumber };
}

/** The numbers in which an event goes over the bus; null while its node has none. */
export function numbersOf(
  { nodeNumber }: Pick<EventPlan, "nodeNumber">,
  { nodeId, number }: Pick<PlannedEvent, "nodeId" | "number">,
): { node: number; number: number } | null {
  if (nodeId === null) return { node: 0, number };
  const node = nodeNumber.get(nodeId) ?? null;
  return node === null ? null : { node, number };
}

/** The event that goes over the bus in numbers; undefined when none does. */
export function eventOfNumbers(
  { events, nodeNumber }: Pick<EventPlan, "events" | "nodeNumber">,
  { node, number }: { node: number; number: number },
): PlannedEvent | undefined {
  return events.find((event) => event.number === number && numbersOf({ nodeNumber }, event)?.node === node);
}

/** The lowest number from one on that no short event has. */
export function freeShortNumber({ events }: Pick<EventPlan, "events">, from = 1): number {
  const taken = new Set(events.flatMap(({ nodeId, number }) => (nodeId === null ? [number] : [])));
  let number = from;
  while (taken.has(number)) number++;
  return number;
}

/** Whether the sense ledger turns what outputs were taught. @param first output of what hangs there */
export function isTurned(record: RailwayRecord, deviceId: string, first: number): boolean {
  return senseAt(record, { link: "event", deviceId, way: first })?.inverts ?? false;
}

function factKey(deviceId: string, way: number, node: number, number: number): string {
  return `${deviceId} ${way} ${node} ${number}`;
}

/** What hangs on the outputs of nodes: motors, lamps, arms. */
function outputsIn(record: RailwayRecord, threads: readonly Thread[], onBus: ReadonlySet<string>): EventOutput[] {
  const outputs = new Map<string, EventOutput>();
  const add = (
    thread: Thread,
    deviceId: string,
    given: Pick<EventOutput, "way" | "drives" | "onAt" | "first" | "isLamp">,
  ) => {
    const { way, drives, isLamp } = given;
    const known = outputs.get(`${deviceId} ${way}`);
    if (known) {
      if (!known.drives.split(", ").includes(drives)) known.drives += `, ${drives}`;
      known.isLamp &&= isLamp;
      return;
    }
    const label = wayName(deviceOf(record, deviceId).label, way);
    outputs.set(`${deviceId} ${way}`, { deviceId, label, turnoutId: thread.turnout.id, ...given });
  };
  for (const thread of threads) {
    for (const { driver, device } of thread.motors) {
      const way = driver?.way ?? null;
      if (driver && way !== null && onBus.has(driver.device.id))
        add(thread, driver.device.id, { way, drives: device.label, onAt: "R", first: way, isLamp: false });
    }
    for (const { from, device, assignment } of thread.lamps) {
      const { way: first } = assignment;
      if (first === null || !onBus.has(from.device.id)) continue;
      const lamp = { first, isLamp: true };
      if (from.type.drives === "sink") {
        add(thread, from.device.id, { ...lamp, way: first, drives: `${device.label} at N`, onAt: "N" });
        add(thread, from.device.id, { ...lamp, way: first + 1, drives: `${device.label} at R`, onAt: "R" });
      } else add(thread, from.device.id, { ...lamp, way: first, drives: device.label, onAt: "R" });
    }
  }
  return [...outputs.values()].sort((a, b) => a.label.localeCompare(b.label, "en", { numeric: true }));
}

/** Outputs of which only events are said are outputs as well. */
function withOthers(record: RailwayRecord, outputs: EventOutput[], links: readonly EventLink[]): EventOutput[] {
  const known = new Set(outputs.map(({ deviceId, way }) => `${deviceId} ${way}`));
  const others = new Map<string, EventOutput>();
  for (const { deviceId, way } of links) {
    const name = `${deviceId} ${way}`;
    if (known.has(name) || others.has(name)) continue;
    const device = find(record, "device", deviceId);
    if (!device) continue;
    const label = wayName(device.label, way);
    others.set(name, { deviceId, way, label, drives: "", isLamp: false, turnoutId: null, onAt: "R", first: way });
  }
  return [...outputs, ...others.values()];
}

/** An input with the control that is read there. */
interface Read {
  thread: Thread;
  control: ThreadControl;
  input: ControlInput;
}

function eventsIn(
  record: RailwayRecord,
  threads: readonly Thread[],
  onBus: ReadonlySet<string>,
  outputs: readonly EventOutput[],
) {
  const reads = new Map<string, Read[]>();
  const plain = plainInputsOf(record);
  for (const thread of threads)
    for (const control of controlsOf(thread)) {
      if (!control.reader || !onBus.has(control.reader.device.id)) continue;
      for (const input of inputsOf(control)) {
        const name = `${control.reader.device.id} ${input.way}`;
        reads.set(name, [...(reads.get(name) ?? []), { thread, control, input }]);
      }
    }
  const inputAt = (deviceId: string, way: number): EventInput => {
    const read = reads.get(`${deviceId} ${way}`) ?? [];
    const other = plain.find((each) => each.deviceId === deviceId && each.way === way);
    const label = wayName(deviceOf(record, deviceId).label, way);
    return {
      deviceId,
      way,
      label,
      reads: other ? sourceLabel(record, other.controlId, other.controlWay ?? 1) : readsWords(read),
      turnoutIds: [...new Set(read.map((r) => r.thread.turnout.id))],
      controlIds: [...new Set(read.map((r) => r.control.device.id))],
    };
  };
  const producersOf = new Map<string, EventInput[]>();
  const produced = new Set<string>();
  for (const { eventId, deviceId, way } of record.producers) {
    produced.add(`${deviceId} ${way}`);
    producersOf.set(eventId, [...(producersOf.get(eventId) ?? []), inputAt(deviceId, way)]);
  }
  const events = record.events.map(
    (event): PlannedEvent => ({ ...event, standing: "kept", inputs: producersOf.get(event.id) ?? [] }),
  );
  const labels = new Set(events.map(({ label }) => label.toLowerCase()));
  const proposals: { eventId: string; deviceId: string; way: number; action: EventAction }[] = [];
  const keyOf = new Map(events.map((event) => [`${event.nodeId} ${event.number}`, event]));
  for (const [name, all] of reads) {
    const [deviceId = "", number = ""] = name.split(" ");
    const way = Number(number);
    if (produced.has(name) || keyOf.has(`${deviceId} ${way}`)) continue;
    const wanted = proposedLinks(record, deviceId, all, outputs);
    // the other side of what stays put sends its event too, and nobody has to act upon it
    if (wanted.length === 0 && all.every(({ control, input }) => isSaidElsewhere(control, input))) continue;
    const [{ control, input }] = all as [Read];
    const sides = inputsOf(control).length > 1 && input.makes !== "press" && all.length === 1;
    const label = freshLabel(labels, sides ? `${control.device.label} ${input.makes}` : control.device.label);
    const id = `${deviceId}-${way}`;
    events.push({ ...planned(id, label, deviceId, way), standing: "proposed", inputs: [inputAt(deviceId, way)] });
    for (const link of wanted) proposals.push({ eventId: id, ...link });
  }
  const place = ({ inputs: [input], label }: PlannedEvent) => input?.label ?? label;
  events.sort((a, b) => place(a).localeCompare(place(b), "en", { numeric: true }));
  return { events, proposals };
}

function planned(id: string, label: string, nodeId: string, number: number): BusEvent {
  return { id, label, nodeId, number, asks: false };
}

function isSaidElsewhere(control: ThreadControl, input: ControlInput): boolean {
  return plainAction(control, input, "R") === null;
}

/** Outputs that follow a control as the turnouts have it: their motors, and the lamps that tell of them. */
function proposedLinks(
  record: RailwayRecord,
  nodeId: string,
  reads: readonly Read[],
  outputs: readonly EventOutput[],
): { deviceId: string; way: number; action: EventAction }[] {
  const bus = feederOf(record, nodeId, "commands");
  const links = new Map<string, { deviceId: string; way: number; action: EventAction }>();
  for (const { thread, control, input } of reads)
    for (const { deviceId, way, turnoutId, onAt } of outputs) {
      if (turnoutId !== thread.turnout.id || feederOf(record, deviceId, "commands") !== bus) continue;
      const action = plainAction(control, input, onAt);
      if (action && !links.has(`${deviceId} ${way}`)) links.set(`${deviceId} ${way}`, { deviceId, way, action });
    }
  return [...links.values()];
}

/** What outputs would do upon an event as the controls at its inputs throw their turnouts, whatever is said of it. */
export function actionsAsThrown(
  record: RailwayRecord,
  threads: readonly Thread[],
  { inputs }: Pick<PlannedEvent, "inputs">,
): { deviceId: string; way: number; action: EventAction }[] {
  const { outputs } = eventPlan(record, threads);
  return inputs.flatMap(({ deviceId, way }) => {
    const reads = threads.flatMap((thread) =>
      controlsOf(thread).flatMap((control) =>
        control.reader?.device.id === deviceId
          ? inputsOf(control).flatMap((input) => (input.way === way ? [{ thread, control, input }] : []))
          : [],
      ),
    );
    return proposedLinks(record, deviceId, reads, outputs);
  });
}

function readsWords(reads: readonly Read[]): string {
  const words = reads.map(({ control, input }) => {
    const name =
      control.assignment.way === null ? control.device.label : wayName(control.device.label, control.assignment.way);
    return inputsOf(control).length > 1 && input.makes !== "press" ? `${name}, made at ${input.makes}` : name;
  });
  return [...new Set(words)].join(", ");
}

/** A label that no event has, taken from now on. */
function freshLabel(taken: Set<string>, wanted: string): string {
  for (let number = 1; ; number++) {
    const more = number === 1 ? "" : ` (${number})`;
    const label = `${wanted.slice(0, LABEL_LENGTH - more.length).trim()}${more}`;
    if (taken.has(label.toLowerCase())) continue;
    taken.add(label.toLowerCase());
    return label;
  }
}
