import { devicesOfThread, type Thread } from "../schematic/thread.ts";
import { type BusNode, busNodes, freeNodeNumber } from "../settings/nodes.ts";
import { wantSetting } from "../settings/settings.ts";
import { list } from "../units/format.ts";
import { rule } from "./rule.ts";

interface Shared {
  nodes: BusNode[];
  all: BusNode[];
  threads: Thread[];
}

export const nodeNumberShared = rule<Shared>({
  id: "node-number-shared",
  stage: "numbers",
  column: null,
  severity: "stop",
  title: "Two nodes have one number",
  about:
    "A node's number is in every event that it sends. Two nodes with one number send each other's events: what one was taught follows the other too. Numbers are read when power comes on, so that a switch that was moved is found out days later.",
  look: ({ record, threads }) => {
    const all = busNodes(record);
    const seen = new Set<number>();
    return all.flatMap((node): Shared[] => {
      if (node.number === null || node.sharedWith.length === 0 || seen.has(node.number)) return [];
      seen.add(node.number);
      const nodes = all.filter(({ number }) => number === node.number);
      const ids = new Set(nodes.map(({ line }) => line.device.id));
      return [{ nodes, all, threads: threads.filter((thread) => devicesOfThread(thread).some((id) => ids.has(id))) }];
    });
  },
  subject: ({ nodes }) => `node-${nodes.map(({ line }) => line.device.id).join("-")}`.slice(0, 80),
  where: ({ nodes }) => `Node ${nodes[0]?.number}`,
  turnouts: ({ threads }) => threads,
  why: ({ nodes }) => `${list(nodes.map(({ line }) => line.of))} are both to have number ${nodes[0]?.number}.`,
  remedies: ({ nodes, all }, { record }) => {
    const last = nodes.at(-1);
    const free = last ? freeNodeNumber(all, last) : null;
    if (!last || free === null) return [];
    return [{ label: `Give ${last.line.of} number ${free}`, group: wantSetting(record, last.line, String(free)) }];
  },
});
