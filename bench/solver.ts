// The solver beside ngspice: the same netlists, the same changes of switches, each in one process, in one run.
import { Derived, type RailwayRecord, stateFor } from "@alderman/core";
import { Circuit } from "../core/src/circuit/circuit.ts";
import type { Element, Netlist } from "../core/src/circuit/elements.ts";
import { toSpice } from "../core/src/circuit/toSpice.ts";
import { diodeYard, ladder } from "../core/testing/networks.ts";
import { OPTIONS, runNgspice } from "../core/testing/ngspice.ts";
import { line, measure } from "./measure.ts";

/** Rounds in which each side has its turn. */
const ROUNDS = 5;

/** One circuit, and the states in which it is to be solved. */
interface Work {
  netlist: Netlist;
  states: readonly (readonly Element[])[];
}

/** Milliseconds by ngspice for all states: loaded once, switches altered, its own start taken off. */
function byNgspice(works: readonly Work[], repeats: number): number {
  const files: Record<string, string> = {};
  const control: string[] = [];
  const sources: string[] = [];
  for (const [number, { netlist, states }] of works.entries()) {
    const spice = toSpice(netlist);
    files[`${number}.cir`] = spice.text.replace(".op\n.end", `${OPTIONS}\n.end`);
    sources.push(`source ${number}.cir`);
    control.push(`source ${number}.cir`);
    let before: readonly Element[] = netlist.elements;
    for (let repeat = 0; repeat < repeats; repeat++) {
      for (const state of states) {
        for (const [index, element] of state.entries()) {
          if (element === before[index]) continue;
          const value = switchedTo(element);
          if (value !== null) control.push(`alter ${spice.names[index]} ${value}`);
        }
        control.push("op", "destroy all");
        before = state;
      }
    }
  }
  const timed = (script: readonly string[]) => {
    const began = performance.now();
    runNgspice(files, [...script, "echo done >> out.txt"].join("\n"));
    return performance.now() - began;
  };
  timed(sources);
  return (timed(control) - timed(sources)) / repeats;
}

function switchedTo(element: Element): number | null {
  if (element.kind === "switch") return element.closed ? element.onOhms : element.offOhms;
  if (element.kind === "resistor") return element.ohms;
  return element.kind === "voltage" ? element.volts : null;
}

function compare(what: string, works: readonly Work[], repeats: number): void {
  const circuits = works.map(({ netlist }) => new Circuit(netlist));
  const points = works.reduce((sum, { states }) => sum + states.length, 0);
  const all = () => {
    for (const [index, { states }] of works.entries())
      for (const state of states) circuits[index]?.operatingPoint(state);
  };
  // Neither side's start counts: ngspice's is taken off, and ours is warm. They take turns, and of each its least
  // disturbed round counts, since other work on the machine slows either now and then.
  let ours = Number.POSITIVE_INFINITY;
  let theirs = Number.POSITIVE_INFINITY;
  for (let round = 0; round < ROUNDS; round++) {
    ours = Math.min(ours, measure(Math.max(9, Math.round(20_000 / points)), all));
    theirs = Math.min(theirs, byNgspice(works, repeats));
  }
  line(
    `${what}: ${points} operating points`,
    `${ours.toFixed(2)} ms / ngspice ${theirs.toFixed(1)} ms = ${(theirs / ours).toFixed(0)} times faster`,
  );
}

/** Every button of a ladder yard pressed, and let go. */
function yard(roads: number): Work {
  const netlist = diodeYard(roads, null);
  const states = Array.from({ length: roads }, (_, road) => [
    netlist.elements.map((each): Element => (each.id === `B${road}` ? ({ ...each, closed: true } as Element) : each)),
    netlist.elements,
  ]).flat();
  return { netlist, states };
}

/** States of the pieces of a railway, until there are `count` of them. */
function piecesOf(record: RailwayRecord, count: number): Work[] {
  const { circuitry, schematic } = new Derived(record);
  const works = new Map<string, Work & { states: (readonly Element[])[] }>();
  let points = 0;
  for (const thread of schematic.threads) {
    const [motor] = thread.motors;
    if (!motor || points >= count) break;
    const keys = [`${motor.device.id}:${motor.type.terminals[0]?.name}`, `${thread.lamps[0]?.device.id}:G`];
    for (const moment of ["rest", "throwing", "held"] as const) {
      for (const position of ["N", "R"] as const) {
        for (const key of keys) {
          const netlist = circuitry.netlist(key, stateFor(thread, position, moment));
          if (netlist.elements.length === 0 || points >= count) continue;
          const name = `${netlist.ground} ${netlist.elements.length}`;
          const work = works.get(name) ?? { netlist, states: [] };
          work.states.push(netlist.elements);
          works.set(name, work);
          points++;
        }
      }
    }
  }
  return [...works.values()];
}

/** A piece as it is kept in a file: its elements, and what in each state is another than in the state before, by place. */
export interface KeptPiece {
  netlist: Netlist;
  states: readonly (readonly [place: number, change: Partial<Element>][])[];
}

/** A kept piece with its states whole; an element that is as before is the same object. */
function whole({ netlist, states }: KeptPiece): Work {
  let elements: readonly Element[] = netlist.elements;
  return {
    netlist,
    states: states.map((changes) => {
      const of = new Map(changes);
      elements = elements.map((each, place) => (of.has(place) ? ({ ...each, ...of.get(place) } as Element) : each));
      return elements;
    }),
  };
}

/**
 * @param kept pieces of a railway of 400 turnouts and a thousand of their states, always the same ones: those of the railway as it
 * is modelled today change with the model, for the solver and for ngspice
 */
export function benchSolver(club: RailwayRecord, kept: readonly KeptPiece[]): void {
  compare("Diode yard of 6 roads, each button pressed and let go", [yard(6)], 400);
  compare("Diode yard of 24 roads, each button pressed and let go", [yard(24)], 8);
  compare("Pieces of a railway of 400 turnouts, as kept in pieces.json", kept.map(whole), 1);
  compare("Pieces of the railway of 400 turnouts in their states", piecesOf(club, 1000), 1);

  let before = Number.NaN;
  for (const rungs of [400, 800, 1600, 3200]) {
    const netlist = ladder(7, rungs);
    const made = measure(3, () => void new Circuit(netlist));
    const circuit = new Circuit(netlist);
    const solved = measure(5, () => void circuit.operatingPoint(netlist.elements));
    const { unknowns, entries } = circuit.size;
    const growth = Number.isNaN(before) ? "" : `, ${(solved / before).toFixed(1)} times the one before`;
    line(
      `Ladder of ${unknowns} unknowns, ${entries} entries`,
      `order ${made.toFixed(1)} ms, solved ${solved.toFixed(2)} ms${growth}`,
    );
    before = solved;
  }
}
