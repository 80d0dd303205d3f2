import type { DiodeModel, Element } from "../circuit/elements.ts";
import { operatingPoint } from "../circuit/operatingPoint.ts";
import { energyAbove, transient } from "../circuit/transient.ts";
import { type Construction, type Join, reachedFrom } from "../routes/constructions.ts";
import type { Wish } from "../routes/matrix.ts";

/** What fires the matrix, and what hangs on it. SI units. */
export interface Firing {
  /** The discharge unit: its capacitor, charged, and all that lies in series with it: itself, the button, the wires to the board. */
  farads: number;
  volts: number;
  seriesOhms: number;
  /** Each coil, by its name; the usual one where none is named. */
  coil: CoilFigures;
  coils?: ReadonlyMap<string, CoilFigures>;
  diode: DiodeModel;
  /** Most that a diode bears in a pulse, amps. */
  surgeAmps: number;
}

/** A coil with its wire there and back, and what it needs for a firm throw. */
export interface CoilFigures {
  ohms: number;
  henries: number;
  wireOhms: number;
  /** Least current that moves its slug: energy below it is of no use. */
  moveAmps: number;
  leastJoules: number;
}

function figuresOf({ coil, coils }: Firing, name: string): CoilFigures {
  return coils?.get(name) ?? coil;
}

/** What one coil gets when a button is pressed. */
export interface Given {
  coil: string;
  joules: number;
  peakAmps: number;
}

/** A button pressed: what its coils get, what any other gets at most, and what flows through the diodes. */
export interface Press {
  button: string;
  wanted: Given[];
  /** The most that a coil gets which the button does not ask. */
  other: Given | null;
  /** The most through one diode, amps. */
  diodeAmps: number;
  /** Through the button, amps. */
  buttonAmps: number;
}

export interface Proof {
  presses: Press[];
  /** Why it cannot be built so; empty when every press does what is wanted. */
  faults: string[];
}

/** Share of what is needed that a coil which is not asked may get (common practice). */
export const STRAY_SHARE = 0.1;
/** A press is looked at for so many time constants of the circuit. */
const CONSTANTS = 5;
/** Share by which a step of the pulse may be wrong: far below what capacitors and coils differ by. */
const ACCURACY = 5e-3;

/**
 * Solves a construction for every button: each wanted coil has to get what a firm throw needs, and no other more than a tenth of
 * it. The first instant is solved for the whole matrix, so that what leaks backwards through diodes is seen; the pulse for what
 * carries current then.
 */
export function prove(construction: Construction, wishes: readonly Wish[], firing: Firing): Proof {
  const presses = wishes.map((wish) => pressOf(construction, wishes, wish, firing));
  const faults = presses.flatMap(({ button, wanted, other, diodeAmps }) => [
    ...wanted
      .filter(({ coil, joules }) => joules < figuresOf(firing, coil).leastJoules)
      .slice(0, 1)
      .map(
        ({ coil, joules }) =>
          `${button} gives ${coil} ${joules.toFixed(2)} J; it needs ${figuresOf(firing, coil).leastJoules} J.`,
      ),
    ...(other && other.joules > STRAY_SHARE * figuresOf(firing, other.coil).leastJoules
      ? [`${button} gives ${other.coil} ${other.joules.toFixed(3)} J, which it does not ask.`]
      : []),
    ...(diodeAmps > firing.surgeAmps
      ? [`${button} sends ${diodeAmps.toFixed(1)} A through one diode; it bears ${firing.surgeAmps} A.`]
      : []),
  ]);
  return { presses, faults };
}

/** One button pressed, solved. */
export function pressOf(
  { joins }: Construction,
  wishes: readonly Wish[],
  { button, coils }: Wish,
  firing: Firing,
): Press {
  const all = [...new Set(wishes.flatMap((wish) => wish.coils))];
  const whole = netOf(joins, all, button, firing);
  const source: Element = { kind: "voltage", id: "unit", nodes: ["+", "0"], volts: firing.volts };
  const first = operatingPoint({ ground: "0", elements: [...whole, source] });
  // what carries current in the first instant carries the pulse
  const reached = reachedFrom(button, joins);
  const paths = alikeTogether(
    joins.filter(({ from, to }) => reached.has(from) && reached.has(to)),
    all.filter((coil) => reached.has(coil)),
    button,
    firing,
  );
  const part = netOf(paths.joins, paths.coils, button, firing, paths.times);
  const store: Element = {
    kind: "capacitor",
    id: "unit",
    nodes: ["+", "0"],
    farads: firing.farads,
    volts: firing.volts,
  };
  // the slowest coil by itself ends last
  const loopOhms = firing.seriesOhms + 1 / coils.reduce((sum, coil) => sum + 1 / ohmsOf(figuresOf(firing, coil)), 0);
  const pulse = transient(
    { ground: "0", elements: [...part, store] },
    {
      stop: CONSTANTS * loopOhms * firing.farads,
      begin: "stated",
      watch: {
        elements: part.flatMap(({ kind, id }) => (kind === "coil" || kind === "diode" || id === "series" ? [id] : [])),
      },
      accuracy: ACCURACY,
    },
  );
  const peakOf = (id: string) => Math.max(0, ...(pulse.elements.get(id)?.amps.map(Math.abs) ?? []));
  const given = new Map(
    paths.coils.map((coil): [string, Omit<Given, "coil">] => {
      const amps = pulse.elements.get(coilName(coil))?.amps ?? [];
      const times = paths.times.get(coil) ?? 1;
      const { ohms, moveAmps } = figuresOf(firing, coil);
      const joules = energyAbove(pulse.times, amps, ohms, moveAmps, 1 / times);
      return [coil, { joules, peakAmps: peakOf(coilName(coil)) / times }];
    }),
  );
  const wanted = coils.map((coil): Given => {
    return { coil, ...(given.get(paths.likeOf.get(coil) ?? coil) ?? { joules: 0, peakAmps: 0 }) };
  });
  // a coil that is not asked gets of the energy as the square of its current in the first instant
  const [most] = wanted.map(({ coil, joules }) => ({ joules, amps: Math.abs(first.amps(coilName(coil)) ?? 0) }));
  const others = all
    .filter((coil) => !coils.includes(coil))
    .map((coil): Given => {
      const peakAmps = Math.abs(first.amps(coilName(coil)) ?? 0);
      const share = most && most.amps > 0 ? peakAmps / most.amps : 0;
      return { coil, joules: (most?.joules ?? 0) * share ** 2, peakAmps };
    });
  const other = others.reduce<Given | null>((best, each) => (best && best.joules >= each.joules ? best : each), null);
  const diodes = paths.joins.flatMap((join) =>
    join.with === "diode" ? [peakOf(joinName(join)) / (paths.times.get(join.to) ?? 1)] : [],
  );
  return { button, wanted, other, diodeAmps: Math.max(0, ...diodes), buttonAmps: peakOf("series") };
}

const ohmsOf = ({ ohms, wireOhms }: CoilFigures) => ohms + wireOhms;
const coilName = (coil: string) => `coil ${coil}`;
const joinName = ({ from, to }: Join) => `${from} > ${to}`;

/** What carries a pulse, with paths that are alike taken as one. */
interface Paths {
  joins: readonly Join[];
  coils: string[];
  /** For how many a coil stands, itself included. */
  times: ReadonlyMap<string, number>;
  /** The coil that stands for another. */
  likeOf: ReadonlyMap<string, string>;
}

/** Equal coils that hang on the button by one diode each, or by one wire each, get the same: one of them stands for all. */
function alikeTogether(joins: readonly Join[], coils: string[], button: string, firing: Firing): Paths {
  if (joins.some(({ from }) => from !== button)) return { joins, coils, times: new Map(), likeOf: new Map() };
  const first = new Map<string, Join>();
  const times = new Map<string, number>();
  const likeOf = new Map<string, string>();
  for (const join of joins) {
    const kind = `${join.with} ${Object.values(figuresOf(firing, join.to)).join(" ")}`;
    const like = first.get(kind) ?? join;
    first.set(kind, like);
    times.set(like.to, (times.get(like.to) ?? 0) + 1);
    likeOf.set(join.to, like.to);
  }
  const kept = [...first.values()];
  return { joins: kept, coils: kept.map(({ to }) => to), times, likeOf };
}

/**
 * The matrix with its coils, from the unit's plus through the pressed button. Coils share the return.
 * @param times for how many coils, each with its path, one stands: so many alike side by side
 */
function netOf(
  joins: readonly Join[],
  coils: readonly string[],
  button: string,
  firing: Firing,
  times: ReadonlyMap<string, number> = new Map(),
): Element[] {
  const node = (name: string) => `at ${name}`;
  const { is, n, rs } = firing.diode;
  return [
    { kind: "resistor", id: "series", nodes: ["+", node(button)], ohms: firing.seriesOhms },
    ...joins.map((join): Element => {
      const nodes = [node(join.from), node(join.to)] as const;
      const alike = times.get(join.to) ?? 1;
      return join.with === "diode"
        ? { kind: "diode", id: joinName(join), nodes, model: { is: is * alike, n, rs: rs / alike } }
        : { kind: "resistor", id: joinName(join), nodes, ohms: CONTACT_OHMS / alike };
    }),
    ...coils.flatMap((coil): Element[] => {
      const alike = times.get(coil) ?? 1;
      const { ohms, henries, wireOhms } = figuresOf(firing, coil);
      return [
        {
          kind: "resistor",
          id: `wire ${coil}`,
          nodes: [node(coil), `coil at ${coil}`],
          ohms: (wireOhms || CONTACT_OHMS) / alike,
        },
        {
          ...{ kind: "coil", id: coilName(coil), nodes: [`coil at ${coil}`, "0"] },
          ...{ henries: henries / alike, ohms: ohms / alike, amps: 0 },
        },
      ];
    }),
  ];
}

/** A plain wire between two terminals of the board. */
const CONTACT_OHMS = 0.01;
