// Operating points held against the general-purpose circuit simulator ngspice on the same netlists: within 1e-6 relative,
// or 1 uV and 1 nA. Circuits: hand-made ones, generated ladders, and pieces of a railway in several states.

import { execFileSync } from "node:child_process";
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { expect, it } from "vitest";
import { type Element, ledModel, type Netlist, THERMAL_VOLTS } from "../src/circuit/elements.ts";
import { operatingPoint } from "../src/circuit/operatingPoint.ts";
import { toSpice } from "../src/circuit/spice.ts";
import { Derived } from "../src/derive.ts";
import type { Moment } from "../src/readings/circuitry.ts";
import { mounted, retyped, smallRailway } from "../testing/build.ts";
import { diode, resistor, source } from "../testing/elements.ts";

/**
 * Temperature at which ngspice, with its constants of CODATA 2014, has the thermal voltage that the exact SI constants of
 * 2019 give at 27 C; the 3e-7 between them would show as nanoamps behind the charging resistor.
 */
const CELSIUS = THERMAL_VOLTS / (1.38064852e-23 / 1.6021766208e-19) - 273.15;

/** Node voltages by ngspice, tightened beyond its defaults and written with all digits. */
function byNgspice(netlist: Netlist): Map<string, number> {
  const { text, nodes } = toSpice(netlist);
  const folder = mkdtempSync(join(tmpdir(), "ngspice-"));
  try {
    const names = [...nodes].filter(([, number]) => number > 0);
    const control = `.options temp=${CELSIUS} tnom=${CELSIUS} reltol=1e-9 abstol=1e-15 vntol=1e-12 gmin=1e-12 itl1=1000\n.control\nset numdgt=16\nop\n${names.map(([, number]) => `print v(${number}) >> out.txt`).join("\n")}\nquit\n.endc\n.end\n`;
    writeFileSync(join(folder, "in.cir"), text + control);
    execFileSync("ngspice", ["-b", "in.cir"], { cwd: folder, stdio: "pipe" });
    const values = new Map<number, number>();
    for (const [, number, value] of readFileSync(join(folder, "out.txt"), "utf8").matchAll(/v\((\d+)\) = (\S+)/g))
      values.set(Number(number), Number(value));
    return new Map(names.map(([name, number]) => [name, values.get(number) ?? Number.NaN]));
  } finally {
    rmSync(folder, { recursive: true });
  }
}

function compare(netlist: Netlist): void {
  const ours = operatingPoint(netlist);
  const theirs = byNgspice(netlist);
  const groundPart = ours.part.get(netlist.ground);
  expect(theirs.size).toBeGreaterThan(0);
  for (const [name, volts] of theirs) {
    // a part without a path to 0 V is defined differently by every solver
    if (ours.part.get(name) !== groundPart) continue;
    const mine = ours.volts.get(name) ?? Number.NaN;
    expect(Math.abs(mine - volts), `${name}: ${mine} against ${volts}`).toBeLessThanOrEqual(
      Math.max(1e-6, 1e-6 * Math.abs(volts)),
    );
  }
  for (const element of netlist.elements) {
    if (element.kind !== "resistor" || ours.part.get(element.nodes[0]) !== groundPart) continue;
    const at = (name: string) => theirs.get(name) ?? 0;
    const amps = (at(element.nodes[0]) - at(element.nodes[1])) / element.ohms;
    // a wire's current is the small difference of two voltages: either solver's rounding counts over its milliohms
    const rounding = (1e-12 * Math.max(1, Math.abs(at(element.nodes[0])))) / element.ohms;
    expect(
      Math.abs((ours.amps.get(element.id) ?? Number.NaN) - amps),
      `${element.id}: ${ours.amps.get(element.id)} against ${amps}`,
    ).toBeLessThanOrEqual(Math.max(1e-9, 1e-6 * Math.abs(amps)) + rounding);
  }
}

const HAND_MADE: Record<string, Element[]> = {
  divider: [source("v", "a", "0", 12), resistor("r1", "a", "b", 120), resistor("r2", "b", "0", 680)],
  "LED with resistor": [
    source("v", "a", "0", 5),
    resistor("r", "a", "b", 450),
    diode("d", "b", "0", ledModel(2, 0.01)),
  ],
  "reverse diode": [source("v", "a", "0", 5), resistor("r", "a", "b", 1000), diode("d", "0", "b")],
  "bridge with load": [
    source("v", "a", "b", 22.6),
    diode("d1", "a", "p"),
    diode("d2", "b", "p"),
    diode("d3", "0", "a"),
    diode("d4", "0", "b"),
    resistor("load", "p", "0", 104),
  ],
  "three LEDs in a row": [
    source("v", "a", "0", 12),
    resistor("r", "a", "b", 470),
    diode("d1", "b", "c", ledModel(2.1, 0.01)),
    diode("d2", "c", "d", ledModel(2.1, 0.01)),
    diode("d3", "d", "0", ledModel(2.1, 0.01)),
  ],
  "current into a diode": [
    { kind: "current", id: "i", nodes: ["0", "a"], amps: 3.4 },
    diode("d", "a", "0"),
    resistor("r", "a", "0", 100),
  ],
  "antiparallel LEDs from a divider": [
    source("v", "a", "0", -9),
    resistor("r1", "a", "b", 220),
    diode("d1", "b", "0", ledModel(2.2, 0.01)),
    diode("d2", "0", "b", ledModel(2, 0.01)),
  ],
};

it.each(Object.entries(HAND_MADE))("agrees on a %s", (_name, elements) => {
  compare({ ground: "0", elements });
});

/** A ladder of wires (forward voltages up to 2.6 V: the other simulator raises a saturation current below 1e-28 A), loads and LEDs of repeatable random values. */
function ladder(seed: number, rungs: number): Netlist {
  let state = seed;
  const random = () => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    return state / 2 ** 32;
  };
  const elements: Element[] = [source("v", "n0", "0", 5 + 15 * random())];
  for (let rung = 1; rung <= rungs; rung++) {
    elements.push(resistor(`w${rung}`, `n${rung - 1}`, `n${rung}`, 0.01 + 0.3 * random()));
    if (random() < 0.5) elements.push(resistor(`r${rung}`, `n${rung}`, "0", 100 + 5000 * random()));
    else
      elements.push(
        resistor(`r${rung}`, `n${rung}`, `l${rung}`, 200 + 2000 * random()),
        diode(`d${rung}`, `l${rung}`, "0", ledModel(1.8 + 0.8 * random(), 0.01)),
      );
  }
  return { ground: "0", elements };
}

it.each([1, 2, 3, 4])("agrees on generated ladder %i", (seed) => {
  compare(ladder(seed, 10 * seed));
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
  const state = { asked: { [acting]: "R" as const }, moment, acting, off: false };
  for (const key of ["cd1:+", "d1:+", "lp1:G", "tb1:J"]) compare(circuitry.netlist(key, state));
});
