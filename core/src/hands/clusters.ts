import type { DeviceType } from "../catalogue/deviceType.ts";
import { traitsOf } from "../catalogue/traits.ts";
import type { Element } from "../circuit/elements.ts";
import { Groups } from "../circuit/groups.ts";
import { NumberGroups } from "../circuit/numberGroups.ts";
import { valueText } from "../circuit/valueText.ts";
import type { DeviceState, FedBy } from "../readings/kit.ts";
import { partsOf, stateThatMatters } from "../readings/models.ts";
import { type Member, stateKey } from "../readings/piece.ts";
import { type Lever, leversOf } from "./levers.ts";

/** A piece of circuit at rest, and what its devices are made of in any other state. */
export interface Ground {
  members: readonly Member[];
  /** How each of them stands at rest. */
  states: readonly DeviceState[];
  wires: readonly Element[];
  /** Elements of the member at a place that lie in the piece. */
  elementsOf: (place: number, state: DeviceState) => readonly Element[];
  fedBy: (deviceId: string) => FedBy;
}

/** A lever with the place of its device in the piece. */
export interface LeverAt extends Lever {
  /** Tells it from all others of the piece. */
  key: string;
  place: number;
  /** Values that its settings give the elements that it moves, by their names. */
  moves: ReadonlyMap<string, readonly string[]>;
}

/** What hangs together between rails: how one lever of it stands matters to its others. */
export interface Cluster {
  levers: LeverAt[];
  /** Elements by the place of their device: its own, and those of what feeds it with whatever feeds that. */
  elements: Map<number, Set<string>>;
}

/**
 * Cuts a piece at its rails, which supplies, discharge units and boards hold by themselves: what lies in one cluster
 * makes no difference to another but by what it draws. Wires count as nothing here.
 */
export function clustersOf(ground: Ground): { clusters: Cluster[]; nodeOf: (terminal: string) => number } {
  const { members, states, wires } = ground;
  const elements = members.map((_, place) => ground.elementsOf(place, states[place] as DeviceState));
  const all = elements.flat();
  const indexOf = new Map(all.map(({ id }, index) => [id, index]));
  const wired = new Groups();
  for (const { nodes } of [...wires, ...all]) for (const node of nodes) wired.numberOf(node);
  for (const { nodes } of wires) wired.join(nodes[0], nodes[1]);
  const numbers = wired.numbered();
  const nodeOf = (terminal: string) => numbers.get(terminal) ?? -1;
  const rails = railsOf(ground, all, nodeOf);
  const groups = new NumberGroups(all.length + numbers.size);
  for (const [index, { nodes }] of all.entries()) {
    for (const node of nodes) {
      const number = nodeOf(node);
      if (!rails.has(number)) groups.join(index, all.length + number);
    }
  }
  // the two coils of a motor throw it together
  for (const { device, type } of members) {
    if (traitsOf(type).movedBy !== "pulse") continue;
    const [normal, reverse] = [indexOf.get(`${device.id}.N`), indexOf.get(`${device.id}.R`)];
    if (normal !== undefined && reverse !== undefined) groups.join(normal, reverse);
  }
  const made = new Map<number, Cluster>();
  const joined = new Set(wires.flatMap(({ nodes }) => nodes));
  for (const [place, member] of members.entries()) {
    const state = states[place] as DeviceState;
    const isJoined = (terminal: string) => joined.has(`${member.device.id}:${terminal}`);
    for (const [index, lever] of leversOf(member, state.outputs.keys(), isJoined).entries()) {
      const moved = movedBy(member, state, lever).filter(({ id }) => indexOf.has(id));
      const moves = new Map(moved.map(({ id, to }) => [id, to]));
      for (const group of new Set(moved.map(({ id }) => groups.root(indexOf.get(id) as number)))) {
        const cluster: Cluster = made.get(group) ?? { levers: [], elements: new Map() };
        made.set(group, cluster);
        cluster.levers.push({ ...lever, key: `${place} ${index}`, place, moves });
      }
    }
  }
  const idle: [number, Element][] = [];
  let index = 0;
  for (const [place, own] of elements.entries()) {
    for (const element of own) {
      const cluster = made.get(groups.root(index++));
      if (cluster) addTo(cluster.elements, place, element.id);
      else idle.push([place, element]);
    }
  }
  const feeds = feedsOf(ground, idle, nodeOf, rails);
  const nodesOf = (id: string) => all[indexOf.get(id) ?? -1]?.nodes ?? [];
  for (const cluster of made.values()) withFeeds(cluster, nodesOf, feeds, nodeOf);
  return { clusters: [...made.values()], nodeOf };
}

function addTo(elements: Map<number, Set<string>>, place: number, id: string): void {
  const own = elements.get(place) ?? new Set();
  elements.set(place, own);
  own.add(id);
}

/** What a lever moves of a device of a type, by the parts' names: the same for all devices that stand alike. */
const known = new WeakMap<DeviceType, Map<string, Moved[]>>();

/** A part of a device that is otherwise in one setting of a lever than in another, with its value in each. */
interface Moved {
  part: string;
  to: readonly string[];
}

/** Elements of a device that a lever moves. */
function movedBy({ device, type }: Member, state: DeviceState, { settings }: Lever) {
  const ofType = known.get(type) ?? new Map<string, Moved[]>();
  known.set(type, ofType);
  const { fedBy, fedVolts, rails } = state;
  const lever = settings.map(({ name, stands }) => `${name("")} ${stands}`);
  const key = `${stateKey(state)} ${fedBy} ${fedVolts} ${[...rails.keys()]} ${lever}`;
  const moved = ofType.get(key) ?? partsMovedBy(type, state, settings);
  ofType.set(key, moved);
  return moved.map(({ part, to }) => ({ id: `${device.id}.${part}`, to }));
}

function partsMovedBy(type: DeviceType, state: DeviceState, settings: Lever["settings"]): Moved[] {
  const lists = settings.map(({ set }) => partsOf("", type, stateThatMatters(type, set(state))));
  return (lists[0] ?? []).flatMap(({ element }, index) => {
    const to = lists.map((list) => valueText(list[index]?.element));
    return to.some((value) => value !== to[0]) ? [{ part: element.id.slice(1), to }] : [];
  });
}

/** Nodes whose volts are held: terminals of supplies, units and fed boards, and whatever an ideal source ties to one. */
function railsOf(
  { members, fedBy }: Ground,
  elements: readonly Element[],
  nodeOf: (terminal: string) => number,
): Set<number> {
  const rails = new Set<number>();
  for (const { device, type } of members) {
    const { gives, powered, power } = traitsOf(type);
    const held =
      gives === "pulse" || (type.family !== "supply" && powered && fedBy(device.id) !== "none")
        ? ["+", "−"]
        : type.family === "supply" && gives !== "bus"
          ? power
          : [];
    for (const name of held) rails.add(nodeOf(`${device.id}:${name}`));
  }
  rails.delete(-1);
  const sources = elements.filter(({ kind }) => kind === "voltage");
  for (let before = -1; before !== rails.size; ) {
    before = rails.size;
    for (const { nodes } of sources) {
      const [a, b] = nodes.map(nodeOf) as [number, number];
      if (rails.has(a)) rails.add(b);
      if (rails.has(b)) rails.add(a);
    }
  }
  return rails;
}

/** What holds each rail: elements that no lever moves, of supplies, units and boards that have a hand in it. */
function feedsOf(
  { members, fedBy }: Ground,
  idle: readonly [number, Element][],
  nodeOf: (terminal: string) => number,
  rails: ReadonlySet<number>,
): Map<number, [number, Element][]> {
  const feeds = new Map<number, [number, Element][]>();
  const byPlace = new Map<number, [number, Element][]>();
  for (const each of idle) byPlace.set(each[0], [...(byPlace.get(each[0]) ?? []), each]);
  for (const [place, own] of byPlace) {
    const { device, type } = members[place] as Member;
    const terminals = new Set(type.terminals.map(({ name }) => `${device.id}:${name}`));
    const gives = type.family === "supply" || traitsOf(type).gives === "pulse" || fedBy(device.id) === "track";
    for (const name of new Set(own.flatMap(([, { nodes }]) => nodes))) {
      const node = nodeOf(name);
      // a board holds its inner rails; those at its terminals are held by what feeds it
      if (!rails.has(node) || (!gives && terminals.has(name))) continue;
      feeds.set(node, [...(feeds.get(node) ?? []), ...own]);
    }
  }
  return feeds;
}

/** Adds to a cluster what holds its rails, and what holds the rails of that. */
function withFeeds(
  cluster: Cluster,
  nodesOf: (id: string) => readonly string[],
  feeds: ReadonlyMap<number, [number, Element][]>,
  nodeOf: (terminal: string) => number,
): void {
  const seen = new Set<number>();
  const open = [...cluster.elements.values()].flatMap((ids) => [...ids]);
  for (let id = open.pop(); id !== undefined; id = open.pop()) {
    for (const name of nodesOf(id)) {
      const node = nodeOf(name);
      if (seen.has(node)) continue;
      seen.add(node);
      for (const [place, element] of feeds.get(node) ?? []) {
        if (cluster.elements.get(place)?.has(element.id)) continue;
        addTo(cluster.elements, place, element.id);
        open.push(element.id);
      }
    }
  }
}
