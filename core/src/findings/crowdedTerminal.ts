import { layNet, netName } from "../loom/laying.ts";
import { crowdedEnds, SCREW_WIRES, wiresByEnd } from "../loom/reach.ts";
import type { Wire } from "../loom/wire.ts";
import { TOPOLOGIES, type Topology } from "../record/schemas.ts";
import type { Net } from "../schematic/nets.ts";
import { devicesOfThread, type Thread } from "../schematic/thread.ts";
import { list } from "../units/format.ts";
import { type Look, type Remedy, rule } from "./rule.ts";

interface Crowded {
  name: string;
  key: string;
  net: Net;
  wires: readonly Wire[];
  threads: Thread[];
}

export const crowdedTerminal = rule<Crowded>({
  id: "crowded-terminal",
  stage: "loom",
  column: null,
  severity: "look",
  title: "More wires than a screw holds",
  about:
    "Two wires under one screw hold; with a third one of them works loose sooner or later (common practice). A net that goes to many places is laid from one to the next, or as a trunk with droppers, so that no terminal gets more.",
  look: ({ circuitry, threads }) => crowdedIn(circuitry, threads),
  subject: ({ key }) => key,
  where: ({ name }) => name,
  terminals: ({ name }) => [name],
  turnouts: ({ threads }) => threads,
  why: ({ name, wires }) =>
    `${wires.length} wires end at ${name}: ${list(wires.map(({ label }) => label).slice(0, MOST_NAMED))}${wires.length > MOST_NAMED ? " and more" : ""}; a screw holds ${SCREW_WIRES}.`,
  remedies: ({ net }, { record }) => {
    const [first] = net.ends;
    const name = first ? netName(record, first) : "it";
    const words: Partial<Record<Topology, string>> = { bus: "as a trunk with droppers", chain: "from one to the next" };
    return TOPOLOGIES.flatMap((topology): Remedy[] => {
      const how = words[topology];
      return how ? [{ label: `Lay ${name} ${how}`, group: layNet(record, net, topology) }] : [];
    }).reverse();
  },
});

/** Wires that are named one by one. */
const MOST_NAMED = 4;

function crowdedIn({ loom, schematic }: Look["circuitry"], threads: Look["threads"]): Crowded[] {
  const wiresAt = wiresByEnd(loom);
  const splices = new Set(loom.strips.flatMap(({ id, kind }) => (kind !== "screws" ? [`${id}/1`] : [])));
  const crowded = [...crowdedEnds(loom)].flatMap((key) => {
    const [first] = wiresAt.get(key) ?? [];
    return first && !splices.has(key) ? [{ key, first }] : [];
  });
  if (crowded.length === 0) return [];
  // by their first wires, whatever edits came before
  crowded.sort(
    (a, b) => a.first.number - b.first.number || Number(a.first.to.key === a.key) - Number(b.first.to.key === b.key),
  );
  const named = new Set(crowded.map(({ first }) => first.net));
  const nets = new Map(schematic.nets.flatMap((net) => (named.has(net.id) ? [[net.id, net] as const] : [])));
  return crowded.flatMap(({ key }): Crowded[] => {
    const wires = wiresAt.get(key) ?? [];
    const [wire] = wires;
    const net = nets.get(wire?.net ?? "");
    if (!wire || !net) return [];
    const end = wire.from.key === key ? wire.from : wire.to;
    const own = threads.filter((thread) => end.of && devicesOfThread(thread).includes(end.of.deviceId));
    return [{ name: end.name, key, net, wires, threads: own }];
  });
}
