import type { RailwayRecord } from "../record/kinds.ts";
import type { EventAction } from "../record/numbers.ts";
import type { Position } from "../record/schemas.ts";
import { controlsOf, type Thread, type ThreadControl } from "../schematic/thread.ts";
import { afterMessage, messagesOf } from "./messages.ts";
import { type EventLink, type EventPlan, eventPlan } from "./plan.ts";

/** What an output of a node does when a control asks for a position: goes on, goes off, or stays as it was (null). */
export interface Told {
  /** Leader of the control's thread. */
  leader: string;
  /** The control, by its assignment. */
  controlId: string;
  N: boolean | null;
  R: boolean | null;
}

/** What every output of a node that hears events is told, by device and way; one that nobody tells anything has an empty list. */
export type ToldOutputs = ReadonlyMap<string, ReadonlyMap<number, readonly Told[]>>;

/**
 * What outputs of nodes do when controls are thrown: an output that was taught does what it was taught, another one what is
 * wanted. Of several events that reach an output the last one wins. Outputs of turnouts that no control on the bus throws are not
 * listed: what tells them is not known.
 */
export function toldOutputs(record: RailwayRecord, threads: readonly Thread[]): ToldOutputs {
  const plan = eventPlan(record, threads);
  const known = toldBy.get(plan) ?? toldIn(plan, threads);
  toldBy.set(plan, known);
  return known;
}

const toldBy = new WeakMap<EventPlan, ToldOutputs>();

function toldIn(plan: EventPlan, threads: readonly Thread[]): ToldOutputs {
  const told = new Map<string, Map<number, Told[]>>();
  if (plan.outputs.length === 0) return told;
  const at = (deviceId: string, way: number) => {
    const ways = told.get(deviceId) ?? new Map<number, Told[]>();
    told.set(deviceId, ways);
    const list = ways.get(way) ?? [];
    ways.set(way, list);
    return list;
  };
  const heard = controlsOnBus(threads);
  const led = new Set(heard.map(({ thread }) => thread.turnout.id));
  for (const { deviceId, way, turnoutId } of plan.outputs)
    if (turnoutId !== null && led.has(turnoutId)) at(deviceId, way);
  const actions = actionsByInput(plan);
  for (const { thread, control, node } of heard) {
    for (const [output, byWay] of actions.get(node) ?? []) {
      const outcome = (position: Position) => outcomeOf(control, byWay, position);
      const [N, R] = [outcome("N"), outcome("R")];
      if (N === null && R === null) continue;
      const [deviceId = "", way = ""] = output.split(" ");
      at(deviceId, Number(way)).push({ leader: thread.turnout.id, controlId: control.assignment.id, N, R });
    }
  }
  return told;
}

/** Controls that a node on the bus reads, in the owner's order. */
function controlsOnBus(threads: readonly Thread[]): { thread: Thread; control: ThreadControl; node: string }[] {
  return threads.flatMap((thread) =>
    controlsOf(thread).flatMap((control) =>
      control.reader?.type.hears === "bus" ? [{ thread, control, node: control.reader.device.id }] : [],
    ),
  );
}

/** What outputs do upon the events of inputs: by node, then by output, then by input. */
function actionsByInput({ events, links }: EventPlan): Map<string, Map<string, Map<number, EventAction>>> {
  const inputs = new Map(events.map((event) => [event.id, event.inputs]));
  const taught = new Set(links.flatMap(({ at, deviceId, way }) => (at === null ? [] : [`${deviceId} ${way}`])));
  const actions = new Map<string, Map<string, Map<number, EventAction>>>();
  for (const link of links) {
    const action = actionIn(link, taught);
    if (!action) continue;
    for (const input of inputs.get(link.eventId) ?? []) {
      const outputs = actions.get(input.deviceId) ?? new Map<string, Map<number, EventAction>>();
      actions.set(input.deviceId, outputs);
      const name = `${link.deviceId} ${link.way}`;
      outputs.set(name, (outputs.get(name) ?? new Map<number, EventAction>()).set(input.way, action));
    }
  }
  return actions;
}

/** @param taught outputs of which it is known what they were taught */
function actionIn(link: EventLink, taught: ReadonlySet<string>): EventAction | null {
  return taught.has(`${link.deviceId} ${link.way}`) ? link.taught : link.action;
}

function outcomeOf(
  control: ThreadControl,
  actions: ReadonlyMap<number, EventAction>,
  position: Position,
): boolean | null {
  let state: boolean | null = null;
  for (const { way, form } of messagesOf(control, position)) {
    const action = actions.get(way);
    if (action) state = afterMessage(action, form) ?? state;
  }
  return state;
}
