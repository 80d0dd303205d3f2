import { describe, expect, it } from "vitest";
import { ladder, matrix, twoHundred } from "../../testing/networks.ts";
import type { Element } from "./elements.ts";
import { fromSpice, spiceNumber } from "./fromSpice.ts";
import { operatingPoint } from "./operatingPoint.ts";
import { toSpice } from "./toSpice.ts";
import { transient } from "./transient.ts";

describe("reading", () => {
  it("reads elements, models, comments, continued lines and suffixes", () => {
    const {
      title,
      netlist,
      transient: tran,
    } = fromSpice(
      `Lamp on a panel
* a comment
V1 in GND DC 5
R1 in a 0.45k ; series resistor
D1 a gnd RED
.model RED D(IS=1.6e-19
+ N=2)
C1 A 0 10uF IC=1
.tran 1u 20m uic
.end
this is not read`,
    );
    expect(title).toBe("Lamp on a panel");
    expect(tran).toEqual({ step: 1e-6, stop: 0.02, stated: true });
    expect(netlist.elements).toEqual([
      { kind: "voltage", id: "V1", nodes: ["in", "0"], volts: 5 },
      { kind: "resistor", id: "R1", nodes: ["in", "a"], ohms: 450 },
      { kind: "diode", id: "D1", nodes: ["a", "0"], model: { is: 1.6e-19, n: 2, rs: 0 } },
      { kind: "capacitor", id: "C1", nodes: ["a", "0"], farads: 1e-5, volts: 1 },
    ]);
    expect(operatingPoint(netlist).amps("D1")).toBeCloseTo(0.00667, 4);
  });

  it("takes a first line that is an element for one", () => {
    expect(fromSpice("V1 a 0 5\nR1 a 0 10").netlist.elements).toHaveLength(2);
    expect(fromSpice("Rolling stock lamp\nR1 a 0 10").netlist.elements).toHaveLength(1);
  });

  it("reads switches that a voltage controls", () => {
    const text =
      "* s\nV1 c 0 5\nV2 p 0 12\nS1 p out c 0 SW1\nR1 out 0 100\n.model SW1 SW(VT=3 VH=0.5 RON=0.1 ROFF=1e9)\n.op";
    expect(operatingPoint(fromSpice(text).netlist).volts("out")).toBeCloseTo(12 * (100 / 100.1), 6);
    expect(operatingPoint(fromSpice(text.replace("0 5", "0 1")).netlist).volts("out")).toBeLessThan(1e-3);
  });

  it.each([
    ["1k", 1e3],
    ["2.2Meg", 2.2e6],
    ["10mil", 254e-6],
    ["4700uF", 4700e-6],
    ["-.5e-3", -5e-4],
    ["3mA", 3e-3],
    ["1e3k", 1e6],
    ["abc", undefined],
    ["1..2", undefined],
  ])("reads %s", (word, value) => {
    const read = spiceNumber(word);
    if (value === undefined) expect(read).toBeUndefined();
    else expect(read! / value).toBeCloseTo(1, 12);
  });

  it.each([
    ["", /there is no element/],
    ["* t\nR1 a 0 ten", /Line 2: R1 needs its ohms/],
    ["* t\nR1 a 0 -5", /Line 2: R1: -5 ohm is no resistance/],
    ["* t\nR1 a", /Line 2: R1 needs two nodes/],
    ["* t\nQ1 a b c MOD", /Line 2: Q1 is no element known here/],
    ["* t\nR1 a 0 1\nR1 a 0 2", /Line 3: R1 stands on line 2 already/],
    ["* t\nR1 a b 1", /no element is joined to node 0/],
    ["* t\nD1 a 0 RED", /of model RED, of which there is no line/],
    ["* t\nR1 a 0 1\n.model X D(BOGUS=1)", /parameter BOGUS is not known/],
    ["* t\nR1 a 0 1\n.model X NPN(BF=100)", /models of kind "NPN" are not known/],
    ["* t\nR1 a 0 1\n.noise", /\.noise is not known here/],
    ["* t\nR1 a 0 1\n.tran 1u", /needs a step and a length/],
    ["+ R1 a 0 1", /goes on from a line that is not there/],
    ["* t\nV1 a 0 SIN(0 x 50)", /Line 2: the wave of V1/],
    ["* t\nV1 a 0 DC five", /"five" is no value/],
  ])("says where %j is wrong", (text, message) => {
    expect(() => fromSpice(text)).toThrow(message);
  });
});

describe("writing and reading back", () => {
  it("gives the same operating points", () => {
    for (const [, netlist] of twoHundred().slice(0, 25)) {
      const { text, nodes } = toSpice(netlist);
      const back = operatingPoint(fromSpice(text).netlist);
      const first = operatingPoint(netlist);
      for (const [name, number] of nodes) {
        if (!first.isGrounded(name)) continue;
        // the elements stand in another order, so that the iteration ends elsewhere within its tolerance
        expect(back.volts(String(number)) ?? 0).toBeCloseTo(first.volts(name) ?? 0, 8);
      }
    }
  });

  it("keeps coils, capacitors, waves, controlled switches and their beginnings", () => {
    const elements: Element[] = [
      {
        kind: "voltage",
        id: "v",
        nodes: ["a", "0"],
        volts: 0,
        wave: { kind: "sine", offset: 0, amplitude: 5, hertz: 50 },
      },
      { kind: "coil", id: "l", nodes: ["a", "b"], henries: 0.01, ohms: 4 },
      { kind: "capacitor", id: "c", nodes: ["b", "0"], farads: 1e-4, volts: 2 },
      {
        kind: "switch",
        id: "s",
        nodes: ["b", "d"],
        closed: false,
        onOhms: 0.1,
        offOhms: 1e9,
        control: { nodes: ["a", "0"], onVolts: 3, offVolts: 1 },
      },
      { kind: "resistor", id: "r", nodes: ["d", "0"], ohms: 50 },
    ];
    const netlist = { ground: "0", elements };
    const { text, nodes } = toSpice(netlist, "swing", ".tran 1e-5 0.02 uic");
    const read = fromSpice(text);
    expect(read.transient).toEqual({ step: 1e-5, stop: 0.02, stated: true });
    const run = (from: typeof netlist, node: string) => {
      const { nodes: kept } = transient(from, { stop: 0.02, begin: "stated", watch: { nodes: [node] } });
      return kept.get(node)!.at(-1)!;
    };
    expect(run(read.netlist as typeof netlist, String(nodes.get("d")))).toBeCloseTo(run(netlist, "d"), 2);
  });

  it("says in comments what each number stands for, and what cannot be said in the format", () => {
    const { text, names } = toSpice({
      ground: "D1:−",
      elements: [
        { kind: "voltage", id: "v", nodes: ["D1:+", "D1:−"], volts: 12 },
        { kind: "limiter", id: "o", nodes: ["D1:+", "D1:1A"], ohms: 120, limitAmps: 0.04 },
        { kind: "breaker", id: "b", nodes: ["D1:1A", "D1:−"], ohms: 1, tripAmps: 2, seconds: 1 },
      ],
    });
    expect(names).toEqual(["V1", "R2", "R3"]);
    expect(text).toContain("* node 1 is D1:+");
    expect(text).toContain("* R2 lets no more than 0.04 A through");
    expect(text).toContain("* R3 opens above 2 A for 1 s");
    expect(toSpice(ladder(1, 2)).text).toMatch(/^\* circuit\n/);
    expect(toSpice(matrix(1, 2, 2)).text).toMatch(/\.op\n\.end\n$/);
  });
});

describe("a linear regulator as an expression", () => {
  const text = (volts: number) =>
    [
      "regulator",
      `V1 in 0 ${volts}`,
      "B1 in out V=max(min(1.2, v(in)-v(0)), v(in)-v(0)-5)",
      "R1 out 0 100",
      ".op",
      ".end",
    ].join("\n");

  // derived: it holds 5 V from 6.2 V on, follows 1.2 V below its input, and never turns its output round
  it("holds its output, follows its input below, and gives nothing of nothing", () => {
    const outputs = [12, 6.2, 5, 1, 0, -8].map((volts) => {
      const { netlist } = fromSpice(text(volts));
      return operatingPoint(netlist).volts("out");
    });
    for (const [index, expected] of [5, 5, 3.8, 0, 0, 0].entries()) expect(outputs[index]).toBeCloseTo(expected, 6);
  });

  it("reads back as it was written", () => {
    const { netlist } = fromSpice(text(12));
    const again = fromSpice(toSpice(netlist).text).netlist;
    expect(operatingPoint(again).volts("2")).toBeCloseTo(operatingPoint(netlist).volts("out") ?? 0, 9);
  });

  it("says which expression it knows when it is another one", () => {
    expect(() => fromSpice("x\nV1 in 0 5\nB1 in out V=v(in)*2\nR1 out 0 1\n")).toThrow(
      /Line 3: B1 is no regulator; the one/,
    );
  });
});
