import type { EventAction } from "../record/numbers.ts";
import { afterMessage } from "./messages.ts";

/** An event as it goes over the bus: the number of its node, 0 for a short one, its own number, and its form. */
export interface EventFrame {
  node: number;
  number: number;
  form: "on" | "off";
}

/** What an output of a node does upon an event. */
export interface NodeEntry {
  node: number;
  number: number;
  way: number;
  action: EventAction;
}

/** How the switches of a node stand by which it is taught. */
export interface TeachSwitches {
  /** The output that is chosen. */
  way: number;
  learn: boolean;
  unlearn: boolean;
  inverted: boolean;
  onOnly: boolean;
}

/** What a node with outputs knows and does. */
export interface NodeState {
  outputs: readonly boolean[];
  entries: readonly NodeEntry[];
  switches: TeachSwitches;
}

/** A node as it is bought: nothing taught, all its outputs off. @param outputs how many it has */
export function newNode(outputs: number): NodeState {
  const switches = { way: 1, learn: false, unlearn: false, inverted: false, onOnly: false };
  return { outputs: Array.from({ length: outputs }, () => false), entries: [], switches };
}

/** What an output is taught with the switches as they stand. */
export function actionBy({ inverted, onOnly }: Pick<TeachSwitches, "inverted" | "onOnly">): EventAction {
  if (onOnly) return inverted ? "off" : "on";
  return inverted ? "inverted" : "acts";
}

/** Switches by which an action is taught. */
export function switchesFor(action: EventAction): Pick<TeachSwitches, "inverted" | "onOnly"> {
  return { inverted: action === "inverted" || action === "off", onOnly: action === "on" || action === "off" };
}

/**
 * A node after an event: while it learns, the output that is chosen is taught it, or with the unlearning switch the event goes
 * with all of its actions; else each output that was taught it acts. The last event wins: outputs remember no others.
 */
export function afterEvent(state: NodeState, { node, number, form }: EventFrame): NodeState {
  const { switches, entries } = state;
  const isOf = (entry: NodeEntry) => entry.node === node && entry.number === number;
  if (switches.learn) {
    if (switches.unlearn) return { ...state, entries: entries.filter((entry) => !isOf(entry)) };
    const others = entries.filter((entry) => !isOf(entry) || entry.way !== switches.way);
    return { ...state, entries: [...others, { node, number, way: switches.way, action: actionBy(switches) }] };
  }
  const outputs = [...state.outputs];
  for (const entry of entries)
    if (isOf(entry)) outputs[entry.way - 1] = afterMessage(entry.action, form) ?? outputs[entry.way - 1] ?? false;
  return { ...state, outputs };
}

/** A node after its power went and came back: with the unlearning switch on it knows nothing any more. @param stays outputs come back as they were */
export function afterPowerCycle(state: NodeState, stays: boolean): NodeState {
  return {
    ...state,
    outputs: stays ? state.outputs : state.outputs.map(() => false),
    entries: state.switches.unlearn ? [] : state.entries,
  };
}
