import { actionBy, afterEvent, afterPowerCycle, type EventFrame, type NodeState, newNode } from "../events/node.ts";
import { eventFrame, eventIn, frameIn, GATEWAY_ALIAS, textOf } from "./frames.ts";
import type { Hardware, NodeUnit } from "./hardware.ts";

/** What can be amiss with the stand-in of an event bus. */
export const BUS_FAULTS = {
  shorted: "H and L are shorted: no frame goes",
  "loses-frames": "every third frame is lost",
  "node-missing": "the last node is off",
  babbles: "a node babbles",
} as const;
export type BusFault = keyof typeof BUS_FAULTS;

interface Node {
  unit: NodeUnit;
  state: NodeState;
  /** As it was when power came on. */
  number: number;
}

/**
 * Nodes on an event bus, as a stand-in: it takes frames as text, and what hands do at its nodes, and answers with frames and with
 * what the outputs do, in place of the owner's eyes. All messages end with a semicolon.
 *
 * :X195B4FFFN0500000100100003; PRESS IN1 3; RELEASE IN1 3; SWITCH ON1 L on; SELECT ON1 5; POWER ON1; DUMP ON1;
 */
export class EventBus {
  private readonly nodes: Map<string, Node>;

  constructor({ nodes }: Hardware) {
    this.nodes = new Map(
      nodes.map((unit) => [
        unit.label,
        { unit, number: unit.number, state: { ...newNode(unit.outputs), entries: unit.entries } },
      ]),
    );
  }

  /** @param message with its semicolon @param isOff nodes that have no power */
  answer(message: string, isOff: (label: string) => boolean = () => false): string[] {
    const frame = message.startsWith(":") ? frameIn(message) : null;
    if (message.startsWith(":")) {
      const event = frame && eventIn(frame);
      if (!frame) return [`ERR ${message.slice(0, 40)} is no frame;`];
      return event ? this.heard(event, isOff) : [];
    }
    const [word = "", label = "", ...rest] = message.replace(/;$/, "").trim().split(/\s+/);
    const node = this.nodes.get(label);
    if (!node) return [`ERR there is no node ${label || "without a name"};`];
    if (isOff(label)) return [`ERR ${label} has no power;`];
    const { unit, state } = node;
    switch (word.toUpperCase()) {
      case "PRESS":
      case "RELEASE":
        return this.worked(node, Number(rest[0]), word.toUpperCase() === "PRESS" ? "on" : "off", isOff);
      case "SELECT": {
        const way = Number(rest[0]);
        if (!(way >= 1 && way <= unit.outputs)) return [`ERR ${label} has no output ${rest[0]};`];
        node.state = { ...state, switches: { ...state.switches, way } };
        return ["OK;"];
      }
      case "SWITCH": {
        const names = { L: "learn", U: "unlearn", P: "inverted", O: "onOnly" } as const;
        const name = names[(rest[0] ?? "").toUpperCase() as keyof typeof names];
        if (!name || unit.outputs === 0) return [`ERR ${label} has no switch ${rest[0]};`];
        node.state = { ...state, switches: { ...state.switches, [name]: rest[1] === "on" } };
        return ["OK;"];
      }
      case "POWER":
        node.number = unit.number;
        node.state = afterPowerCycle(state, unit.stays);
        return [...this.changes(label, state, node.state), "OK;"];
      case "DUMP":
        return [
          `NODE ${label} ${node.number};`,
          ...state.entries.map((entry) => `KNOWS ${label} ${entry.way} ${entry.node} ${entry.number} ${entry.action};`),
          "OK;",
        ];
      default:
        return [`ERR ${word} is no command; PRESS, RELEASE, SWITCH, SELECT, POWER and DUMP are;`];
    }
  }

  /** An input is worked: its node sends its event, and all others hear it. */
  private worked(node: Node, way: number, form: "on" | "off", isOff: (label: string) => boolean): string[] {
    const { unit } = node;
    if (!(way >= 1 && way <= unit.inputs)) return [`ERR ${unit.label} has no input ${way};`];
    const short = unit.short[way];
    const event: EventFrame =
      short === undefined
        ? { node: node.number, number: unit.long[way] ?? way, form }
        : { node: 0, number: short, form };
    return [textOf(eventFrame(event, aliasOf(node))), ...this.heard(event, isOff), "OK;"];
  }

  private heard(event: EventFrame, isOff: (label: string) => boolean): string[] {
    return [...this.nodes.values()].flatMap((node) => {
      if (isOff(node.unit.label) || node.unit.outputs === 0) return [];
      const before = node.state;
      node.state = afterEvent(before, event);
      const { switches } = before;
      const learned = switches.learn
        ? [
            switches.unlearn
              ? `UNLEARNED ${node.unit.label} ${event.node} ${event.number};`
              : `LEARNED ${node.unit.label} ${switches.way} ${event.node} ${event.number} ${actionBy(switches)};`,
          ]
        : [];
      return [...learned, ...this.changes(node.unit.label, before, node.state)];
    });
  }

  private changes(label: string, before: NodeState, now: NodeState): string[] {
    return now.outputs.flatMap((on, index) =>
      on === before.outputs[index] ? [] : [`MOVED ${label} ${index + 1} ${on ? "on" : "off"};`],
    );
  }
}

function aliasOf({ number }: Node): number {
  return number === 0 ? GATEWAY_ALIAS : number & 0xfff;
}
