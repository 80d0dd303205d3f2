import { Circuit } from "../circuit/circuit.ts";
import { CircuitError, type Element, nodesWatched, renamed } from "../circuit/elements.ts";
import type { OperatingPoint } from "../circuit/solution.ts";
import { valueText } from "../circuit/valueText.ts";
import { typeNumber } from "../readings/cut.ts";
import type { DeviceState } from "../readings/kit.ts";
import type { Member } from "../readings/piece.ts";
import type { Cluster, Ground } from "./clusters.ts";
import { type Choice, choicesOf, heldIn } from "./combinations.ts";
import { heatIn, type Trouble, troublesIn } from "./troubles.ts";

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

/** What is known of one kind of cluster, whatever its devices are called: choices by number. */
export interface Screened {
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

/** The states in the other half cycle. */
export function otherHalf(states: readonly DeviceState[]): DeviceState[] {
  return states.map((state) => ({ ...state, half: state.half === 1 ? -1 : 1 }));
}

/** What is known of a cluster's kind: which choices may go wrong, and which draw the most; each kind is looked at once. */
export function screen(piece: Swept, cluster: Cluster, nodeOf: (terminal: string) => number): Screened {
  const own = apart(piece, cluster, nodeOf);
  const key = kindOf(piece, cluster, own, nodeOf);
  const known = screened.get(key);
  if (known) return known;
  const made = look(piece, cluster, own);
  if (screened.size >= MOST_KINDS) screened.clear();
  screened.set(key, made);
  return made;
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
  const wired = (element: Element) => renamed(element, (node) => `n${nodeOf(node)}`);
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
        return [valueText(element), ...[...element.nodes, ...nodesWatched(element)].map(number)].join(" ");
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
    const points: OperatingPoint[] = [];
    const note = ({ kind, id, part, amps }: Pick<Trouble, "kind" | "id" | "part" | "amps">) => {
      const key = `${kind} ${id} ${part}`;
      // the nearest to rest, unless another one is far worse
      const known = doubtful.get(key);
      if (!known || amps > known.amps * FAR_WORSE) doubtful.set(known ? `${key} worst` : key, { number, amps });
    };
    for (const half of halves) {
      const elements = own.elementsFor(half);
      try {
        circuit ??= new Circuit({ ground: elements[0]?.nodes[1] ?? "0", elements });
        const point = circuit.operatingPoint(elements);
        points.push(point);
        const troubles: Pick<Trouble, "kind" | "id" | "part" | "amps">[] = troublesIn({
          ...{ members: own.members, states: half, point, bears: new Map(), effective: piece.effective },
        });
        // each part by itself: a wire to one of them carries nothing while another one draws as much
        for (const { id } of elements) {
          const amps = Math.abs(point.amps(id) ?? 0);
          if (amps > thinnest) troubles.push({ kind: "wire", id, part: null, amps });
        }
        troubles.forEach(note);
        draws[number] = Math.max(draws[number] ?? 0, drawn(elements, point));
      } catch (error) {
        if (!(error instanceof CircuitError)) throw error;
        doubtful.set(`error ${number}`, { number, amps: 0 });
      }
    }
    if (points.length > 0) heatIn({ members: own.members, states, effective: piece.effective }, points).forEach(note);
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
