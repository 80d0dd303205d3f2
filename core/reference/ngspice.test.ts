// Circuits held against the general-purpose circuit simulator ngspice on the same netlists. Operating points: within 1e-6
// relative, or 1 uV and 1 nA. Transients: peaks and energies within 1 %. Circuits: two hundred generated networks, pieces of a
// railway in several states, and the pulse, recharge and kick of coil motors.
import { describe, expect, it } from "vitest";
import { type Element, type Netlist, RECTIFIER } from "../src/circuit/elements.ts";
import { operatingPoint } from "../src/circuit/operatingPoint.ts";
import { toSpice } from "../src/circuit/toSpice.ts";
import { energy, transient } from "../src/circuit/transient.ts";
import { Derived } from "../src/derive.ts";
import type { Moment } from "../src/readings/states.ts";
import { mounted, retyped, smallRailway } from "../testing/build.ts";
import { capacitor, contact, diode, resistor, source } from "../testing/elements.ts";
import { twoHundred } from "../testing/networks.ts";
import { OPTIONS, runNgspice, voltsByNgspice } from "../testing/ngspice.ts";

function compare(netlist: Netlist, theirs: Map<string, number>): void {
  const ours = operatingPoint(netlist);
  expect(theirs.size).toBeGreaterThan(0);
  for (const [name, volts] of theirs) {
    // a part without a path to 0 V is defined differently by every solver
    if (!ours.isGrounded(name)) continue;
    const mine = ours.volts(name) ?? Number.NaN;
    expect(Math.abs(mine - volts), `${name}: ${mine} against ${volts}`).toBeLessThanOrEqual(
      Math.max(1e-6, 1e-6 * Math.abs(volts)),
    );
  }
  for (const element of netlist.elements) {
    if (element.kind !== "resistor" || !ours.isGrounded(element.nodes[0])) continue;
    const at = (name: string) => theirs.get(name) ?? 0;
    const amps = (at(element.nodes[0]) - at(element.nodes[1])) / element.ohms;
    // a wire's current is the small difference of two voltages: either solver's rounding counts over its milliohms
    const rounding = (1e-9 * Math.max(1, Math.abs(at(element.nodes[0])))) / element.ohms;
    expect(
      Math.abs((ours.amps(element.id) ?? Number.NaN) - amps),
      `${element.id}: ${ours.amps(element.id)} against ${amps}`,
    ).toBeLessThanOrEqual(Math.max(1e-9, 1e-6 * Math.abs(amps)) + rounding);
  }
}

describe("two hundred generated networks", () => {
  const networks = twoHundred();
  const theirs = voltsByNgspice(networks.map(([, netlist]) => netlist));

  it.each(networks.map(([name, netlist], index) => [name, netlist, index] as const))(
    "agrees on %s",
    (_, netlist, index) => {
      compare(netlist, theirs[index]!);
    },
  );
});

const RAILWAYS = {
  "as it should be": smallRailway(),
  "with a latching toggle left on": retyped(smallRailway(), "T1", "toggle-latching"),
  "with a motor mounted the other way round": mounted(smallRailway(), "m2", { opposite: true }),
};
const MOMENTS: [string, Moment][] = [
  ["y1", "rest"],
  ["y1", "throwing"],
  ["m1", "throwing"],
];

it.each(
  Object.entries(RAILWAYS).flatMap(([name, record]) =>
    MOMENTS.map(([acting, moment]) => [name, acting, moment, record] as const),
  ),
)("agrees on all pieces of a railway %s, %s at %s", (_name, acting, moment, record) => {
  const { circuitry } = new Derived(record);
  const netlists = ([1, -1] as const).flatMap((half) => {
    const state = { asked: { [acting]: "R" as const }, moment, acting, off: false, half };
    return ["cd1:+", "d1:+", "lp1:G", "tb1:J"].map((key) => circuitry.netlist(key, state));
  });
  for (const [index, theirs] of voltsByNgspice(netlists).entries()) compare(netlists[index]!, theirs);
});

/** Greatest current through, and energy taken up by, one element over a transient, by ngspice. */
function byNgspice(netlist: Netlist, element: string, step: number, stop: number): { peak: number; joules: number } {
  // a source of 0 V in the element's way tells its current
  const elements = netlist.elements.flatMap((each): Element[] =>
    each.id === element
      ? [source("probe", each.nodes[0], "probed", 0), { ...each, nodes: ["probed", each.nodes[1]] }]
      : [each],
  );
  const { text, nodes, names } = toSpice({ ground: netlist.ground, elements }, "transient", "");
  const probe = names[elements.findIndex(({ id }) => id === "probe")];
  const far = netlist.elements.find(({ id }) => id === element)!.nodes[1];
  const at = (name: string) => (nodes.get(name) === 0 ? "0" : `v(${nodes.get(name)})`);
  const control = [
    "source t.cir",
    `tran ${step} ${stop} 0 ${step} uic`,
    `let i = abs(i(${probe}))`,
    `let p = i(${probe})*(${at("probed")}-${at(far)})`,
    "meas tran peak max i",
    "meas tran joules integ p",
    "print peak >> out.txt",
    "print joules >> out.txt",
  ].join("\n");
  const out = runNgspice(
    { "t.cir": text.replace(".end", `${OPTIONS.replace(/abstol\S+ vntol\S+/, "")}\n.end`) },
    control,
  );
  const value = (name: string) => Number(new RegExp(`${name} = (\\S+)`).exec(out)?.[1]);
  return { peak: value("peak"), joules: value("joules") };
}

function ours(netlist: Netlist, element: string, stop: number): { peak: number; joules: number } {
  const { times, elements } = transient(netlist, { stop, begin: "stated", watch: { elements: [element] } });
  const kept = elements.get(element)!;
  return { peak: Math.max(...kept.amps.map(Math.abs)), joules: energy(times, kept) };
}

const coilOf = (id: string, a: string, b: string): Element => ({
  kind: "coil",
  id,
  nodes: [a, b],
  henries: 0.003,
  ohms: 4,
});

/** A discharge unit of 4700 uF at 21 V with its supply behind 100 ohm, fired into one, two or six coils through thin wire. */
function pulse(coils: number): Netlist {
  const elements: Element[] = [
    source("supply", "s", "0", 22),
    diode("bridge", "s", "b"),
    resistor("charge", "b", "plus", 100),
    capacitor("store", "plate", "0", 4700e-6, 21),
    resistor("series", "plate", "plus", 0.05),
    contact("toggle", "plus", "t", true),
  ];
  for (let each = 0; each < coils; each++)
    elements.push(resistor(`w${each}`, "t", `c${each}`, 0.9 + 0.1 * each), coilOf(`k${each}`, `c${each}`, "0"));
  return { ground: "0", elements };
}

const TRANSIENTS: [string, Netlist, string, number, number][] = [
  ["the pulse of a discharge unit into one coil", pulse(1), "k0", 2e-6, 0.08],
  ["its pulse into two coils", pulse(2), "k1", 2e-6, 0.08],
  ["its pulse into six coils", pulse(6), "k5", 2e-6, 0.08],
  [
    "its recharge",
    {
      ground: "0",
      elements: [
        source("supply", "s", "0", 22),
        diode("bridge", "s", "b"),
        resistor("charge", "b", "plus", 100),
        capacitor("store", "plus", "0", 4700e-6, 0),
        resistor("bleed", "plus", "0", 10_000),
      ],
    },
    "charge",
    1e-4,
    2,
  ],
  [
    "the kick of a coil whose contact has opened, into its diode",
    {
      ground: "0",
      elements: [
        source("supply", "s", "0", 12),
        resistor("open", "s", "c", 1e6),
        { kind: "coil", id: "relay", nodes: ["c", "0"], henries: 0.3, ohms: 170, amps: 0.07 },
        diode("flyback", "0", "c", RECTIFIER),
      ],
    },
    "flyback",
    1e-6,
    0.02,
  ],
];

it.each(TRANSIENTS)("agrees within 1 %% of peak and energy on %s", (_, netlist, element, step, stop) => {
  const mine = ours(netlist, element, stop);
  const theirs = byNgspice(netlist, element, step, stop);
  expect(theirs.peak).toBeGreaterThan(0);
  expect(Math.abs(mine.peak / theirs.peak - 1)).toBeLessThan(0.01);
  expect(Math.abs(mine.joules / theirs.joules - 1)).toBeLessThan(0.01);
});
