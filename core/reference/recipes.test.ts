// Every way of driving, feeding frogs and showing, as the circuits that it makes, held against ngspice on the same netlists:
// operating points within 1e-6 relative, 1 uV or 1 nA, in both positions, at rest and thrown, in both half cycles.
import { expect, it } from "vitest";
import type { Element, Netlist } from "../src/circuit/elements.ts";
import { operatingPoint } from "../src/circuit/operatingPoint.ts";
import { Derived } from "../src/derive.ts";
import { stateFor } from "../src/readings/threadReading.ts";
import { voltsByNgspice } from "../testing/ngspice.ts";
import { DRIVING, FROGS, LAMPS, semaphore } from "../testing/recipes.ts";

interface Case {
  name: string;
  netlist: Netlist;
}

/** A controlled switch as it stands: ngspice is asked about circuits, not about what relays answer to. */
function standing(netlist: Netlist): Netlist {
  const ours = operatingPoint(netlist);
  return {
    ...netlist,
    elements: netlist.elements.map((element): Element => {
      if (element.kind !== "switch" || !element.control) return element;
      const { control, ...plain } = element;
      const [plus, minus] = control.nodes;
      return { ...plain, closed: (ours.between(plus, minus) ?? 0) > (control.onVolts + control.offVolts) / 2 };
    }),
  };
}

/** The circuits of a railway's pieces in a state, each once. */
function cases(name: string, derived: Derived): Case[] {
  const { circuitry, schematic, record } = derived;
  const [thread] = schematic.threads;
  if (!thread) throw new Error(`${name} has no thread.`);
  const found = new Map<string, Case>();
  for (const position of ["N", "R"] as const) {
    for (const moment of ["rest", "throwing"] as const) {
      for (const half of [1, -1] as const) {
        for (const device of record.devices) {
          const terminal = schematic.nets.flatMap(({ ends }) => ends).find(({ deviceId }) => deviceId === device.id);
          if (!terminal) continue;
          const key = `${device.id}:${terminal.terminal}`;
          const netlist = circuitry.netlist(key, { ...stateFor(thread, position, moment), half });
          const text = JSON.stringify(netlist);
          if (netlist.elements.length > 1 && !found.has(text)) {
            found.set(text, {
              name: `${name}, ${position}, ${moment}, half ${half}, at ${key}`,
              netlist: standing(netlist),
            });
          }
        }
      }
    }
  }
  return [...found.values()];
}

/** Volts by which a nanoamp fed into a node moves it. */
function byANanoamp({ ground, elements }: Netlist, node: string): number {
  const fed: Element = { kind: "current", id: "nanoamp", nodes: [ground, node], amps: 1e-9 };
  const moved = operatingPoint({ ground, elements: [...elements, fed] }).volts(node) ?? 0;
  return Math.abs(moved - (operatingPoint({ ground, elements }).volts(node) ?? 0));
}

const ALL = Object.entries({ ...DRIVING, ...FROGS, ...LAMPS, semaphore }).map(
  ([name, make]) => [name, cases(name, new Derived(make()))] as const,
);
const flat = ALL.flatMap(([, each]) => each);
const theirs = voltsByNgspice(flat.map(({ netlist }) => netlist));

it("makes a few hundred different circuits", () => {
  expect(flat.length).toBeGreaterThan(200);
});

it.each(ALL)("agrees on the circuits of: %s", (_name, own) => {
  expect(own.length).toBeGreaterThan(0);
  for (const each of own) {
    const ours = operatingPoint(each.netlist);
    const volts = theirs[flat.indexOf(each)];
    expect(volts?.size, each.name).toBeGreaterThan(0);
    for (const [node, reference] of volts ?? []) {
      if (!ours.isGrounded(node)) continue;
      const mine = ours.volts(node) ?? Number.NaN;
      const off = Math.abs(mine - reference);
      if (off <= Math.max(1e-6, 1e-6 * Math.abs(reference))) continue;
      // what open contacts alone hold agrees when a nanoamp would make as much of a difference
      const moved = byANanoamp(each.netlist, node);
      expect(moved, `${each.name}, ${node}: ${mine} against ${reference}`).toBeGreaterThan(off);
    }
  }
});
