import * as z from "zod/mini";
import { CircuitError } from "../circuit/elements.ts";
import { fromSpice } from "../circuit/fromSpice.ts";
import { operatingPoint as solve } from "../circuit/operatingPoint.ts";
import { badInput, calculator } from "./calculator.ts";

const Input = z.strictObject({ netlist: z.string().check(z.minLength(1), z.maxLength(1_000_000)) });

const Output = z.strictObject({
  /** Volts of each node but the ground; null where nothing joins a node to it. */
  nodes: z.record(z.string(), z.nullable(z.number())),
  /** Amps into the first node of each voltage source and through it, as SPICE counts. */
  branches: z.record(z.string(), z.number()),
});

const EXAMPLE = `Lamp on a panel
V1 plus 0 5
R1 plus a 450
D1 a 0 RED
.model RED D(IS=1.6e-19 N=2)
.op`;

/** Operating point of a circuit in SPICE text, by the same solver that reckons the railway. */
export const operatingPoint = calculator({
  name: "operating-point",
  title: "Volts in a circuit",
  about: "A circuit in SPICE text: R, V, I, D, S and C, L at rest. Volts of each node, amps of each source.",
  fields: [{ name: "netlist", title: "Circuit, in SPICE text", unit: "", example: EXAMPLE, lines: 12 }],
  results: [
    { name: "nodes", title: "Volts of each node", unit: "V", digits: 4 },
    { name: "branches", title: "Amps through each source", unit: "A", digits: 6 },
  ],
  input: Input,
  output: Output,
  run: ({ netlist: text }) => {
    try {
      const { netlist } = fromSpice(text);
      const point = solve(netlist);
      const names = new Set(netlist.elements.flatMap(({ nodes }) => nodes));
      names.delete(netlist.ground);
      const nodes = [...names].map((name) => [name, point.isGrounded(name) ? (point.volts(name) ?? null) : null]);
      const sources = netlist.elements.filter(({ kind }) => kind === "voltage");
      return {
        nodes: Object.fromEntries(nodes),
        branches: Object.fromEntries(sources.map(({ id }) => [id, point.amps(id) ?? 0])),
      };
    } catch (error) {
      if (!(error instanceof CircuitError)) throw error;
      throw badInput(error.message, ["netlist"]);
    }
  },
});
