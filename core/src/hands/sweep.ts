import { traitsOf } from "../catalogue/traits.ts";
import { Circuit } from "../circuit/circuit.ts";
import { CircuitError, type Element } from "../circuit/elements.ts";
import type { OperatingPoint } from "../circuit/solution.ts";
import type { DeviceState } from "../readings/kit.ts";
import { type Member, typeNumber } from "../readings/pieces.ts";
import { type Cluster, clustersOf, type Ground, valueText } from "./clusters.ts";
import { type Choice, choicesOf, FINGERS, heldIn } from "./combinations.ts";
import type { Setting } from "./levers.ts";
import { type Trouble, troublesIn } from "./troubles.ts";

/** Something that goes wrong, and how things have to stand for it. */
export interface Found extends Trouble {
  /** Settings that it takes, each with the device that stands so; none when it goes wrong whatever is set. */
  when: { deviceId: string; setting: Setting }[];
  /** It goes wrong only with everything set to draw the most. */
  all: boolean;
}

/** The piece as it is swept, and how to solve it. */
export interface Swept extends Ground {
  /** What each wire bears, amps, by its name in the circuit. */
  bears: ReadonlyMap<string, number>;
  /** What the thinnest of them bears, amps. */
  leastBorne: number;
  /** An alternating supply or the track bus is in it, so that both half cycles are looked at. */
  alternates: boolean;
  solve: (states: readonly DeviceState[]) => OperatingPoint;
  /** Factor from a current's peak to its effective value, by a node it flows at. */
  effective: (node: string) => number;
  /** The supply that feeds a device, if any does. */
  feederOf: (deviceId: string) => string | undefined;
}

/** What all that hands, trains, boards and restarts can set comes to in one piece. */
export interface Sweep {
  found: Found[];
  /** How the devices stand when everything that can draws at once, and what makes them. */
  worst: {
    when: { deviceId: string; setting: Setting }[];
    /** A motor held against its stop is among them. */
    blocked: boolean;
    /** What each supply of the piece then gives, amps, at the peak of an alternating one. */
    given: ReadonlyMap<string, number>;
  };
}

/** What is known of one kind of cluster, whatever its devices are called: choices by number. */
interface Screened {
  choices: readonly Choice[];
  /** Those in which something may go wrong, the nearest to rest of each kind. */
  doubtful: readonly number[];
  /** Those that draw the most with nothing held, and with one thing held; what the second draws more. */
  most: number;
  mostHeld: number | null;
  gain: number;
}

/** Kinds of cluster that were looked at: a railway has a few dozen, however many turnouts. */
const screened = new Map<string, Screened>();
/** Kinds that are remembered; a session of many railways stays small. */
const MOST_KINDS = 4000;

/**
 * Looks at everything that can be set in a piece: clusters by themselves first, between ideal rails and wires of no
 * resistance, once for each kind of cluster; what is doubtful there is solved in the piece itself.
 */
export function sweep(piece: Swept): Sweep {
  const { clusters, nodeOf } = clustersOf(piece);
  const found = new Map<string, Found>();
  const note = (troubles: readonly Trouble[], when: () => Found["when"], all = false) => {
    for (const trouble of troubles) {
      const key = `${trouble.kind} ${trouble.id} ${trouble.part}`;
      if (!found.has(key)) found.set(key, { ...trouble, when: when(), all });
    }
  };
  const kinds = clusters.map((cluster) => screen(piece, cluster, nodeOf));
  for (const [index, cluster] of clusters.entries()) {
    const { choices, doubtful } = kinds[index] as Screened;
    for (const number of doubtful) {
      const choice = choices[number] as Choice;
      const troubles = troublesAt(piece, statesWith(piece, [[cluster, choice]]));
      for (const trouble of troubles) note([trouble], () => neededFor(piece, cluster, choice, trouble));
    }
  }
  note(troublesAt(piece, piece.states), () => []);
  const { states, when } = worstOf(piece, clusters, kinds);
  note(troublesAt(piece, states), () => when, true);
  note(backFeeds(piece), () => []);
  const worst = { when, blocked: states.some(({ blocked }) => blocked), given: givenIn(piece, states) };
  return { found: [...found.values()], worst };
}

/** States of all devices of a piece with some clusters' levers set. */
function statesWith(piece: Swept, set: readonly (readonly [Cluster, Choice])[]): DeviceState[] {
  const states = [...piece.states];
  for (const [{ levers }, choice] of set) {
    for (const [index, { place, settings }] of levers.entries()) {
      const setting = settings[choice[index] ?? 0];
      if (setting) states[place] = setting.set(states[place] as DeviceState);
    }
  }
  return states;
}

/** The states in the other half cycle. */
function otherHalf(states: readonly DeviceState[]): DeviceState[] {
  return states.map((state) => ({ ...state, half: state.half === 1 ? -1 : 1 }));
}

/** What goes wrong in a state, in either half cycle. */
export function troublesAt(piece: Swept, states: readonly DeviceState[]): Trouble[] {
  const { members, bears, alternates, effective } = piece;
  const halves = alternates ? [states, otherHalf(states)] : [states];
  const worst = new Map<string, Trouble>();
  for (const half of halves) {
    for (const trouble of troublesIn({ members, states: half, point: piece.solve(half), bears, effective })) {
      const key = `${trouble.kind} ${trouble.id} ${trouble.part}`;
      if ((worst.get(key)?.amps ?? 0) < trouble.amps) worst.set(key, trouble);
    }
  }
  return [...worst.values()];
}

/** The levers of a cluster that have to stand as they do for something to go wrong: another setting of one of them cures it. */
function neededFor(piece: Swept, cluster: Cluster, choice: Choice, trouble: Trouble): Found["when"] {
  const persists = (other: Choice) =>
    troublesAt(piece, statesWith(piece, [[cluster, other]])).some((each) => isSame(each, trouble));
  return cluster.levers.flatMap(({ deviceId, settings }, lever) => {
    const setting = settings[choice[lever] ?? 0];
    const others = settings.flatMap((_, other) => (other === choice[lever] ? [] : [other]));
    const matters = others.some((other) => !persists(choice.map((each, index) => (index === lever ? other : each))));
    return matters && setting ? [{ deviceId, setting }] : [];
  });
}

function isSame(a: Trouble, b: Trouble): boolean {
  return a.kind === b.kind && a.id === b.id && a.part === b.part;
}

/** Supplies that something else keeps half alive when they are switched off by themselves, with all that they feed. */
function backFeeds(piece: Swept): Trouble[] {
  const supplies = piece.members.filter(({ type }) => type.family === "supply" && traitsOf(type).gives !== "bus");
  if (supplies.length < 2) return [];
  return supplies.flatMap(({ device, type }): Trouble[] => {
    const states = piece.members.map((member, place) => {
      const isOff = member.device.id === device.id || piece.feederOf(member.device.id) === device.id;
      return { ...(piece.states[place] as DeviceState), off: isOff };
    });
    const [plus, minus] = traitsOf(type).power.map((name) => `${device.id}:${name}`) as [string, string];
    const left = Math.abs(piece.solve(states).between(plus, minus) ?? 0);
    return left > DEAD_VOLTS ? [{ kind: "back-feed", id: device.id, part: null, amps: left, limit: DEAD_VOLTS }] : [];
  });
}

/** What is left across a supply that is off, up to which it counts as dead, volts (common practice). */
const DEAD_VOLTS = 1;

/** What each supply gives in a state, amps, in the half cycle in which it gives more. */
function givenIn(piece: Swept, states: readonly DeviceState[]): Map<string, number> {
  const given = new Map<string, number>();
  for (const half of piece.alternates ? [states, otherHalf(states)] : [states]) {
    const point = piece.solve(half);
    for (const { device, type } of piece.members) {
      if (type.family !== "supply") continue;
      const amps = Math.abs(point.amps(`${device.id}.inside`) ?? 0);
      given.set(device.id, Math.max(given.get(device.id) ?? 0, amps));
    }
  }
  return given;
}

/** Everything that lasts set to draw the most, and as many things held as there are fingers. */
function worstOf(
  piece: Swept,
  clusters: readonly Cluster[],
  kinds: readonly Screened[],
): { states: DeviceState[]; when: Found["when"] } {
  const states = [...piece.states];
  const when: Found["when"] = [];
  const set = new Set<string>();
  let fingers = FINGERS;
  // a lever of two poles lies in two clusters: what it is to draw most goes by the one that gains most
  const order = clusters.map((_, index) => index).sort((a, b) => (kinds[b]?.gain ?? 0) - (kinds[a]?.gain ?? 0));
  for (const index of order) {
    const { choices, most, mostHeld, gain } = kinds[index] as Screened;
    const { levers } = clusters[index] as Cluster;
    const held = mostHeld === null ? [] : (choices[mostHeld] ?? []);
    const isHeld = gain > 0 && heldIn(levers, held) <= fingers && !levers.some(({ key }) => set.has(key));
    if (isHeld) fingers -= heldIn(levers, held);
    for (const [lever, { key, place, deviceId, settings }] of levers.entries()) {
      const number = (isHeld ? held : choices[most])?.[lever] ?? 0;
      const setting = settings[number];
      if (!setting || set.has(key)) continue;
      set.add(key);
      states[place] = setting.set(states[place] as DeviceState);
      if (number > 0) when.push({ deviceId, setting });
    }
  }
  return { states, when };
}

/** A cluster by itself: its devices with their elements in it, in any setting of its levers. */
interface Apart {
  places: number[];
  members: Member[];
  statesFor: (choice: Choice) => DeviceState[];
  elementsFor: (states: readonly DeviceState[]) => Element[];
}

function apart(piece: Swept, { levers, elements }: Cluster, nodeOf: (terminal: string) => number): Apart {
  const places = [...elements.keys()].sort((a, b) => a - b);
  const at = new Map(places.map((place, index) => [place, index]));
  const members = places.map((place) => piece.members[place] as Member);
  const wired = (element: Element): Element => {
    const [a, b] = element.nodes.map((node) => `n${nodeOf(node)}`) as [string, string];
    const moved = { ...element, nodes: [a, b] as const };
    if (moved.kind !== "switch" || !moved.control) return moved as Element;
    const [plus, minus] = moved.control.nodes.map((node) => `n${nodeOf(node)}`) as [string, string];
    return { ...moved, control: { ...moved.control, nodes: [plus, minus] } };
  };
  return {
    places,
    members,
    statesFor: (choice) => {
      const states = places.map((place) => piece.states[place] as DeviceState);
      for (const [index, { place, settings }] of levers.entries()) {
        const own = at.get(place);
        const setting = settings[choice[index] ?? 0];
        if (own !== undefined && setting) states[own] = setting.set(states[own] as DeviceState);
      }
      return states;
    },
    elementsFor: (states) =>
      places.flatMap((place, index) => {
        const own = elements.get(place);
        return piece
          .elementsOf(place, states[index] as DeviceState)
          .filter(({ id }) => own?.has(id))
          .map(wired);
      }),
  };
}

function screen(piece: Swept, cluster: Cluster, nodeOf: (terminal: string) => number): Screened {
  const own = apart(piece, cluster, nodeOf);
  const key = kindOf(piece, cluster, own, nodeOf);
  const known = screened.get(key);
  if (known) return known;
  const made = look(piece, cluster, own);
  if (screened.size >= MOST_KINDS) screened.clear();
  screened.set(key, made);
  return made;
}

/** All that the verdict on a cluster depends on, the names of its devices and nodes replaced by numbers. */
function kindOf(
  piece: Swept,
  cluster: Cluster,
  { places, members }: Apart,
  nodeOf: (terminal: string) => number,
): string {
  const nodes = new Map<number, number>();
  const number = (terminal: string) => {
    const node = nodeOf(terminal);
    const known = nodes.get(node) ?? nodes.size;
    nodes.set(node, known);
    return known;
  };
  const order = new Map<string, number>();
  const parts = places.map((place) => {
    const own = cluster.elements.get(place);
    return piece
      .elementsOf(place, piece.states[place] as DeviceState)
      .filter(({ id }) => own?.has(id))
      .map((element) => {
        order.set(element.id, order.size);
        const controlled = element.kind === "switch" ? (element.control?.nodes ?? []) : [];
        return [valueText(element), ...[...element.nodes, ...controlled].map(number)].join(" ");
      });
  });
  const levers = cluster.levers.map(({ place, settings, moves }) => {
    const moved = [...moves].flatMap(([id, to]) => (order.has(id) ? [`${order.get(id)} ${to}`] : []));
    return `${places.indexOf(place)} ${settings.map(({ held }) => held)} ${moved}`;
  });
  const types = members.map(({ device, type }) => `${typeNumber(type)} ${piece.effective(`${device.id}:C`)}`);
  return [parts.join(";"), levers.join(";"), types, piece.leastBorne, piece.alternates].join("|");
}

function look(piece: Swept, { levers }: Cluster, own: Apart): Screened {
  const choices = choicesOf(levers);
  const doubtful = new Map<string, { number: number; amps: number }>();
  const thinnest = piece.leastBorne;
  const draws: number[] = [];
  let circuit: Circuit | null = null;
  for (const [number, choice] of choices.entries()) {
    const states = own.statesFor(choice);
    const halves = piece.alternates ? [states, otherHalf(states)] : [states];
    for (const half of halves) {
      const elements = own.elementsFor(half);
      try {
        circuit ??= new Circuit({ ground: elements[0]?.nodes[1] ?? "0", elements });
        const point = circuit.operatingPoint(elements);
        const flows = elements.map(({ id }) => Math.abs(point.amps(id) ?? 0));
        const troubles: Pick<Trouble, "kind" | "id" | "part" | "amps">[] = troublesIn({
          ...{ members: own.members, states: half, point, bears: new Map(), effective: piece.effective },
        });
        const most = Math.max(0, ...flows);
        if (most > thinnest) troubles.push({ kind: "wire", id: "", part: null, amps: most });
        for (const { kind, id, part, amps } of troubles) {
          const key = `${kind} ${id} ${part}`;
          // the nearest to rest, unless another one is far worse
          const known = doubtful.get(key);
          if (!known || amps > known.amps * FAR_WORSE) doubtful.set(known ? `${key} worst` : key, { number, amps });
        }
        draws[number] = Math.max(draws[number] ?? 0, drawn(elements, point));
      } catch (error) {
        if (!(error instanceof CircuitError)) throw error;
        doubtful.set(`error ${number}`, { number, amps: 0 });
      }
    }
  }
  const best = (held: boolean) => {
    const own = choices.flatMap((choice, number) => (heldIn(levers, choice) > 0 === held ? [number] : []));
    return own.reduce<number | null>(
      (most, number) => (most === null || (draws[number] ?? 0) > (draws[most] ?? 0) + LEAST_GAIN ? number : most),
      null,
    );
  };
  const most = best(false) ?? 0;
  const mostHeld = best(true);
  const gain = mostHeld === null ? 0 : (draws[mostHeld] ?? 0) - (draws[most] ?? 0);
  const numbers = [...new Set([...doubtful.values()].map(({ number }) => number))];
  return { choices, doubtful: numbers, most, mostHeld, gain: gain > LEAST_GAIN ? gain : 0 };
}

/** A state that is worse than the nearest one by more than this is solved as well. */
const FAR_WORSE = 1.5;
/** Differences of less than this are none, amps. */
const LEAST_GAIN = 1e-6;

/** What all sources give together, amps. */
function drawn(elements: readonly Element[], point: OperatingPoint): number {
  return elements.reduce(
    (sum, { kind, id }) => (id.endsWith(".emf") && kind === "voltage" ? sum + Math.abs(point.amps(id) ?? 0) : sum),
    0,
  );
}
