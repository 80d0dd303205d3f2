// Networks of repeatable random values, for checks against another simulator and for measuring.
import { type Element, ledModel, type Netlist } from "../src/circuit/elements.ts";
import { capacitor, contact, diode, load, resistor, source } from "./elements.ts";

/** Repeatable random numbers from 0 to 1 (linear congruential; Knuth, "The Art of Computer Programming", 3.3.4, table 1, line 16). */
export function seeded(seed: number): () => number {
  let state = seed;
  return () => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    return state / 2 ** 32;
  };
}

/** An LED whose forward voltage stays at 2.6 V or below: ngspice raises a saturation current below 1e-28 A. */
const led = (id: string, anode: string, cathode: string, random: () => number) =>
  diode(id, anode, cathode, ledModel(1.8 + 0.8 * random(), 0.01));

/** A supply at the head of wires in a row, with loads and LEDs on the way. */
export function ladder(seed: number, rungs: number): Netlist {
  const random = seeded(seed);
  const elements: Element[] = [source("v", "n0", "0", 5 + 15 * random())];
  for (let rung = 1; rung <= rungs; rung++) {
    elements.push(resistor(`w${rung}`, `n${rung - 1}`, `n${rung}`, 0.01 + 0.3 * random()));
    if (random() < 0.5) elements.push(resistor(`r${rung}`, `n${rung}`, "0", 100 + 5000 * random()));
    else
      elements.push(
        resistor(`r${rung}`, `n${rung}`, `l${rung}`, 200 + 2000 * random()),
        led(`d${rung}`, `l${rung}`, "0", random),
      );
  }
  return { ground: "0", elements };
}

/** Buttons that reach coils through diodes or plain wires, some buttons pressed. */
export function matrix(seed: number, buttons: number, coils: number): Netlist {
  const random = seeded(seed);
  const elements: Element[] = [source("emf", "e", "0", 12 + 12 * random()), resistor("inside", "e", "plus", 0.1)];
  for (let b = 0; b < buttons; b++) elements.push(contact(`b${b}`, "plus", `row${b}`, random() < 0.4));
  for (let c = 0; c < coils; c++) {
    elements.push(resistor(`coil${c}`, `col${c}`, "0", 3 + 3 * random()));
    for (let b = 0; b < buttons; b++) {
      const kind = random();
      if (kind < 0.35) elements.push(diode(`d${b}-${c}`, `row${b}`, `col${c}`));
      else if (kind < 0.5) elements.push(resistor(`w${b}-${c}`, `row${b}`, `col${c}`, 0.05 + 0.2 * random()));
    }
  }
  return { ground: "0", elements };
}

/** A rectifying bridge in either half cycle, with a smoothing part that is open in the steady state. */
export function bridge(seed: number): Netlist {
  const random = seeded(seed);
  return {
    ground: "0",
    elements: [
      source("v", "s", "b", (random() < 0.5 ? -1 : 1) * (10 + 15 * random())),
      resistor("inside", "s", "a", 0.2 + random()),
      diode("d1", "a", "p"),
      diode("d2", "b", "p"),
      diode("d3", "0", "a"),
      diode("d4", "0", "b"),
      resistor("charge", "p", "c", 10 + 200 * random()),
      capacitor("store", "c", "0", 4700e-6),
      resistor("load", "c", "0", 10 + 5000 * random()),
      load("drain", "c", "0", 0.02 * random()),
    ],
  };
}

/** A circuit beside parts that nothing joins to it. */
export function floating(seed: number): Netlist {
  const random = seeded(seed);
  const { elements } = ladder(seed, 4);
  return {
    ground: "0",
    elements: [
      ...elements,
      source("apart", "x", "y", 9 * random()),
      resistor("apart r", "x", "z", 100 * (1 + random())),
      led("apart d", "z", "y", random),
    ],
  };
}

/** LEDs in rows and against one another behind resistors, on a supply of either sign. */
export function strings(seed: number): Netlist {
  const random = seeded(seed);
  const elements: Element[] = [source("v", "s", "0", (random() < 0.5 ? -1 : 1) * (5 + 13 * random()))];
  for (let row = 0; row < 4; row++) {
    elements.push(resistor(`r${row}`, "s", `${row}-0`, 100 + 1000 * random()));
    const count = 1 + Math.floor(4 * random());
    for (let place = 0; place < count; place++) {
      const ends = [`${row}-${place}`, place === count - 1 ? "0" : `${row}-${place + 1}`] as const;
      const [anode, cathode] = random() < 0.8 ? ends : [ends[1], ends[0]];
      elements.push(led(`d${row}-${place}`, anode, cathode, random));
    }
  }
  return { ground: "0", elements };
}

/** Two hundred networks of five kinds. */
export function twoHundred(): [string, Netlist][] {
  return Array.from({ length: 40 }, (_, index) => index + 1).flatMap((seed): [string, Netlist][] => [
    [`ladder ${seed}`, ladder(seed, 3 + seed)],
    [`matrix ${seed}`, matrix(seed, 2 + (seed % 6), 3 + (seed % 8))],
    [`bridge ${seed}`, bridge(seed)],
    [`floating ${seed}`, floating(seed)],
    [`strings ${seed}`, strings(seed)],
  ]);
}

/** Coils that each road of a ladder yard of `roads` roads needs: the turnouts before its own at normal, its own at reverse. */
export function yardRoads(roads: number): string[][] {
  return Array.from({ length: roads }, (_, road) => {
    const before = Array.from({ length: Math.min(road, roads - 1) }, (_, turnout) => `Y${turnout + 1}N`);
    return road < roads - 1 ? [...before, `Y${road + 1}R`] : before;
  });
}

/**
 * The route buttons of a ladder yard with a diode at each link that needs one, fed by a charged supply; one button pressed
 * or none (null). Coils 4 ohm behind 1 ohm of wire.
 */
export function diodeYard(roads: number, pressed: number | null): Netlist {
  const needs = yardRoads(roads);
  const elements: Element[] = [source("emf", "e", "0", 21), resistor("inside", "e", "plus", 0.1)];
  for (const road of needs.keys()) {
    elements.push(contact(`B${road}`, "plus", `tail${road}`, road === pressed));
    elements.push(resistor(`w${road}`, `tail${road}`, `row${road}`, 0.1));
  }
  for (const coil of new Set(needs.flat())) {
    elements.push(resistor(`${coil} wire`, coil, `${coil}'`, 1), resistor(coil, `${coil}'`, "0", 4));
    for (const [road, wanted] of needs.entries()) {
      if (!wanted.includes(coil)) continue;
      const all = needs.every((other) => !other.includes(coil) || wanted.every((each) => other.includes(each)));
      elements.push(
        all ? resistor(`${road}-${coil}`, `row${road}`, coil, 0.05) : diode(`${road}-${coil}`, `row${road}`, coil),
      );
    }
  }
  return { ground: "0", elements };
}
