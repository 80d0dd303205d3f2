import { traitsOf } from "../catalogue/traits.ts";
import type { OperatingPoint } from "../circuit/solution.ts";
import type { DeviceState } from "../readings/kit.ts";
import type { Steps } from "../record/steps.ts";
import { type Cluster, clustersOf } from "./clusters.ts";
import { type Choice, FINGERS, heldIn } from "./combinations.ts";
import type { Setting } from "./levers.ts";
import { otherHalf, type Screened, type Swept, screen } from "./screen.ts";
import { heatIn, type Trouble, troublesIn } from "./troubles.ts";

/** Something that goes wrong, and how things have to stand for it. */
export interface Found extends Trouble {
  /** Settings that it takes, each with the device that stands so; none when it goes wrong whatever is set. */
  when: { deviceId: string; setting: Setting }[];
  /** It goes wrong only with everything set to draw the most. */
  all: boolean;
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

/**
 * Looks at everything that can be set in a piece: clusters by themselves first, between ideal rails and wires of no
 * resistance, once for each kind of cluster; what is doubtful there is solved in the piece itself. A step for each of that.
 */
export function* sweep(piece: Swept): Steps<Sweep> {
  const { clusters, nodeOf } = clustersOf(piece);
  yield;
  const found = new Map<string, Found>();
  const note = (troubles: readonly Trouble[], when: () => Found["when"], all = false) => {
    for (const trouble of troubles) {
      const key = `${trouble.kind} ${trouble.id} ${trouble.part}`;
      if (!found.has(key)) found.set(key, { ...trouble, when: when(), all });
    }
  };
  const kinds: Screened[] = [];
  for (const cluster of clusters) {
    kinds.push(screen(piece, cluster, nodeOf));
    yield;
  }
  for (const [index, cluster] of clusters.entries()) {
    const { choices, doubtful } = kinds[index] as Screened;
    for (const number of doubtful) {
      const choice = choices[number] as Choice;
      const troubles = troublesAt(piece, statesWith(piece, [[cluster, choice]]));
      yield;
      for (const trouble of troubles) {
        note([trouble], () => neededFor(piece, cluster, choice, trouble));
        yield;
      }
    }
  }
  note(troublesAt(piece, piece.states), () => []);
  yield;
  const { states, when } = worstOf(piece, clusters, kinds);
  note(troublesAt(piece, states), () => when, true);
  yield;
  note(backFeeds(piece), () => []);
  yield;
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

/** What goes wrong in a state, in either half cycle. */
export function troublesAt(piece: Swept, states: readonly DeviceState[]): Trouble[] {
  const { members, bears, alternates, effective } = piece;
  const halves = alternates ? [states, otherHalf(states)] : [states];
  const worst = new Map<string, Trouble>();
  const points = halves.map((half) => piece.solve(half));
  for (const [index, half] of halves.entries()) {
    const point = points[index] as OperatingPoint;
    for (const trouble of troublesIn({ members, states: half, point, bears, effective })) {
      const key = `${trouble.kind} ${trouble.id} ${trouble.part}`;
      if ((worst.get(key)?.amps ?? 0) < trouble.amps) worst.set(key, trouble);
    }
  }
  const found = [...worst.values()];
  // a supply that shuts down heats nothing
  return found.some(({ kind }) => kind === "short")
    ? found
    : [...found, ...heatIn({ members, states, effective }, points)];
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
      const amps = Math.abs(point.prospective.amps(`${device.id}.inside`) ?? 0);
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
