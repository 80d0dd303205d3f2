import type { Circuit } from "../circuit/circuit.ts";
import { type Element, nodesWatched, renamed } from "../circuit/elements.ts";
import { Latest } from "../circuit/latest.ts";
import { type Row, withoutRows } from "../circuit/series.ts";
import { energy, energyAbove, movingCircuit, transient } from "../circuit/transient.ts";
import { valueText } from "../circuit/valueText.ts";

/** What one coil gets when it is thrown. */
export interface Pulse {
  /** Energy in the coil's resistance while its current moves the slug, joules. */
  joules: number;
  peakAmps: number;
  /** How long the current stays above half of its peak, seconds. */
  secondsAboveHalf: number;
  /** Energy in each wire on the way, joules, by its name in the circuit. */
  wires: ReadonlyMap<string, number>;
  /** What the capacitors that give it hold before it, joules, and how many coils share it. */
  stored: number;
  coils: number;
  /** The current through time, and what the coil is: for the same pulse from fewer volts. */
  curve: CoilCurve;
}

/** Current of a coil at moments, the coil's resistance, and the least current that moves its slug. */
interface CoilCurve {
  seconds: readonly number[];
  amps: readonly number[];
  ohms: number;
  moveAmps: number;
}

/** What a coil gets that takes no part. */
export const NO_PULSE: Pulse = {
  ...{ joules: 0, peakAmps: 0, secondsAboveHalf: 0, wires: new Map(), stored: 0, coils: 0 },
  curve: { seconds: [], amps: [], ohms: 0, moveAmps: 0 },
};

/**
 * Share of its volts that a capacitor has to hold for a pulse to give a coil so much energy: current goes with the volts, and
 * counts only while it moves the slug.
 * @returns 0 to 1; null when the full charge gives less
 */
export function voltsShareFor({ curve, joules }: Pulse, least: number): number | null {
  if (joules < least) return null;
  let [low, high] = [0, 1];
  for (let step = 0; step < HALVINGS; step++) {
    const middle = (low + high) / 2;
    if (energyAbove(curve.seconds, curve.amps, curve.ohms, curve.moveAmps, middle) < least) low = middle;
    else high = middle;
  }
  return high;
}

/** How long a coil has at least so many volts across its resistance, seconds; infinite for one that keeps them. */
export function secondsAbove({ curve: { seconds, amps, ohms } }: Pulse, volts: number): number {
  let total = 0;
  for (let index = 1; index < seconds.length; index++)
    if ((amps[index] ?? 0) * ohms >= volts) total += (seconds[index] ?? 0) - (seconds[index - 1] ?? 0);
  return total;
}

/** By which a share is found to a millionth. */
const HALVINGS = 20;

/** Length of a throw that is looked at, seconds: a finger's press (common practice). */
const PRESS_SECONDS = 0.2;

/** Share by which a step may be wrong: far below the parts' own tolerances. */
const ACCURACY = 2e-3;

/** What carries no more than this in the first instant only leaks, and takes no part in a pulse, amps. */
export const LEAKAGE_AMPS = 1e-6;

/** What each coil that takes part in a throw gets, by its name in the circuit. */
export type Pulses = ReadonlyMap<string, Pulse>;

/** What came of a transient, whatever its elements are called: by their places among those that take part. */
export interface Ran {
  coils: ReadonlyMap<number, CoilRan>;
  /** Energy in each row of resistors that has wires in it, joules. */
  rows: ReadonlyMap<number, number>;
}

type CoilRan = Omit<Pulse, "wires">;

/** Circuits that pulses went through, by how their elements are joined: those of many turnouts are alike but for their ohms. */
export class PulseCircuits extends Latest<Circuit> {
  constructor() {
    super(MOST_CIRCUITS);
  }
}

/** Ways in which the coils of a railway are joined are few; those of some edits before are among them. */
const MOST_CIRCUITS = 100;

/** A circuit through which a pulse goes. */
interface PulseCircuit {
  /** The same for circuits that are joined alike of the same values, whatever their elements are called. */
  key: string;
  /** Runs the transient; to be done when none is known for the key. */
  run: () => Ran;
  /** What came of it, by the names in this circuit. */
  named: (ran: Ran) => Pulses;
}

/**
 * The pulse in a circuit whose capacitors are charged and whose contacts have just closed: what each coil gets that shares it. Only
 * what carries current takes part, so that an edit elsewhere leaves the circuit of the pulse as it was; and the wires from motor to
 * motor are one resistor, so that coils with as much wire on their way share a transient, the two of a motor above all.
 * @param conducting elements that carry current in the first instant, capacitors with the charge they begin with
 * @param moveAmps least current that moves the slug of a coil, by the coil's name
 * @param circuits those of earlier pulses
 */
export function pulseThrough(
  conducting: readonly Element[],
  moveAmps: (id: string) => number,
  circuits: PulseCircuits,
): PulseCircuit {
  const ofCoils = conducting.flatMap((element) => (element.kind === "coil" ? element.nodes : []));
  const { others, rows } = withoutRows(conducting, new Set(ofCoils));
  const numbers = new Map<string, string>();
  const numberOf = (node: string) => {
    const number = numbers.get(node) ?? String(numbers.size);
    numbers.set(node, number);
    return number;
  };
  const movedAt = (element: Element) => (element.kind === "coil" ? moveAmps(element.id) : 0);
  const joins = (element: Element) => [...element.nodes, ...nodesWatched(element)].map(numberOf).join(" ");
  const key = [
    ...others.map((each) => `${valueText(each)} ${movedAt(each)} ${joins(each)}`),
    ...rows.map(({ element, members }) => `${rounded(element)} ${members.some(isWire)} ${joins(element)}`),
  ].join();
  const partsOf = () =>
    [
      ...others.map((each): Part => ({ element: renamed(each, numberOf), moveAmps: movedAt(each) })),
      ...rows.map(({ element, members }): Part => {
        const row: Element = { ...element, ohms: rounded(element) };
        return { element: renamed(row, numberOf), moveAmps: 0, hasWires: members.some(isWire) };
      }),
    ].map((part, place) => ({ ...part, element: { ...part.element, id: String(place) } }));
  return { key, run: () => run(partsOf(), circuits), named: (ran) => named(ran, others, rows) };
}

/** What came of a transient, by the names in a circuit. */
function named({ coils, rows: spent }: Ran, others: readonly Element[], rows: readonly Row[]): Pulses {
  // few are asked for
  let known: ReadonlyMap<string, number> | null = null;
  const wiresOf = () => {
    known ??= new Map(
      rows.flatMap(({ element, members }, place) => {
        const joules = spent.get(others.length + place) ?? 0;
        return members.filter(isWire).map(({ id, ohms }) => [id, joules * (ohms / element.ohms)] as const);
      }),
    );
    return known;
  };
  const pulseOf = (ran: CoilRan): Pulse => ({
    ...ran,
    get wires() {
      return wiresOf();
    },
  });
  return new Map([...coils].map(([place, ran]) => [others[place]?.id ?? "", pulseOf(ran)]));
}

/** Ohms of a row, in the digits that count. */
function rounded({ ohms }: Row["element"]): number {
  return Number(ohms.toPrecision(DIGITS));
}

/** Digits of a row's ohms that count: sums of the same wires in another order differ in the last ones. */
const DIGITS = 12;

/** An element that takes part in a pulse, under the number of its place. */
interface Part {
  element: Element;
  /** Of a coil: the least current that moves its slug, amps. */
  moveAmps: number;
  hasWires?: boolean;
}

/** A pulse as it goes, at equal times: volts across the capacitors and amps in each coil, by names in the circuit. */
export interface PulseCurve {
  seconds: number[];
  volts: number[];
  amps: ReadonlyMap<string, number[]>;
}

/** Points of a curve. */
const CURVE_POINTS = 60;

/**
 * The pulse through time, for a picture.
 * @param conducting as for `pulseThrough`
 * @param stop seconds that are shown
 */
export function pulseCurve(conducting: readonly Element[], stop: number): PulseCurve {
  const coils = conducting.filter((element): element is Coil => element.kind === "coil");
  const store = conducting.find(({ kind }) => kind === "capacitor");
  const seconds = Array.from({ length: CURVE_POINTS + 1 }, (_, index) => (stop * index) / CURVE_POINTS);
  const [first] = coils;
  if (!first || !store) return { seconds, volts: [], amps: new Map() };
  const { others, rows } = withoutRows(conducting, new Set(coils.flatMap(({ nodes }) => nodes)));
  const result = transient(
    { ground: first.nodes[1], elements: [...others, ...rows.map(({ element }) => element)] },
    {
      ...{ stop, begin: "stated", longestStep: stop / CURVE_POINTS, accuracy: ACCURACY },
      watch: { elements: [store.id, ...coils.map(({ id }) => id)] },
    },
  );
  const at = (values: readonly number[]) => seconds.map((second) => Math.abs(valueAt(result.times, values, second)));
  return {
    seconds,
    volts: at(result.elements.get(store.id)?.volts ?? []),
    amps: new Map(coils.map(({ id }) => [id, at(result.elements.get(id)?.amps ?? [])])),
  };
}

/** A value between two steps of a transient. */
function valueAt(times: readonly number[], values: readonly number[], time: number): number {
  const next = times.findIndex((each) => each >= time);
  if (next <= 0) return values[next < 0 ? values.length - 1 : 0] ?? 0;
  const [from, to] = [times[next - 1] ?? 0, times[next] ?? 0];
  const share = to > from ? (time - from) / (to - from) : 0;
  return (values[next - 1] ?? 0) * (1 - share) + (values[next] ?? 0) * share;
}

/** A wire's name tells its two ends. */
function isWire({ id }: Element): boolean {
  return id.includes(">");
}

type Coil = Extract<Element, { kind: "coil" }>;

function run(parts: readonly Part[], circuits: PulseCircuits): Ran {
  const elements = parts.map(({ element }) => element);
  const coils = parts.flatMap(({ element, moveAmps }) => (element.kind === "coil" ? [{ ...element, moveAmps }] : []));
  const [first] = coils;
  if (!first) return { coils: new Map(), rows: new Map() };
  const withWires = parts.flatMap(({ element, hasWires }) => (hasWires ? [element.id] : []));
  const netlist = { ground: first.nodes[1], elements };
  const joins = elements.map((each) => [each.kind, ...each.nodes, ...nodesWatched(each)].join(" ")).join();
  const result = transient(
    netlist,
    {
      stop: PRESS_SECONDS,
      begin: "stated",
      watch: { elements: [...coils.map(({ id }) => id), ...withWires] },
      longestStep: PRESS_SECONDS / 25,
      accuracy: ACCURACY,
    },
    circuits.at(joins, () => movingCircuit(netlist)),
  );
  const { times } = result;
  const spent = (id: string) => {
    const series = result.elements.get(id);
    return series ? energy(times, series) : 0;
  };
  const stored = elements.reduce((sum, each) => {
    return each.kind === "capacitor" ? sum + (each.farads * (each.volts ?? 0) ** 2) / 2 : sum;
  }, 0);
  const pulses = coils.map(({ id, ohms, moveAmps }): [number, CoilRan] => {
    const amps = result.elements.get(id)?.amps.map(Math.abs) ?? [];
    const peakAmps = Math.max(0, ...amps);
    let secondsAboveHalf = 0;
    for (let index = 1; index < times.length; index++) {
      if ((amps[index] ?? 0) >= peakAmps / 2) secondsAboveHalf += (times[index] ?? 0) - (times[index - 1] ?? 0);
    }
    const joules = energyAbove(times, amps, ohms, moveAmps);
    const curve = { seconds: times, amps, ohms, moveAmps };
    return [Number(id), { joules, peakAmps, secondsAboveHalf, stored, coils: coils.length, curve }];
  });
  return { coils: new Map(pulses), rows: new Map(withWires.map((id) => [Number(id), spent(id)])) };
}
