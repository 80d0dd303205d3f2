import { BOARDS } from "./boards.ts";
import { type DeviceType, figure, numbered, terminals } from "./deviceType.ts";

const DISCHARGE_UNIT = {
  family: "driver",
  model: "cdu",
  place: "layout",
  terminals: terminals({ "~1": "supply in", "~2": "supply in", "+": "pulse out", "−": "pulse return" }),
  outputs: 0,
  contactSets: 0,
  caution:
    "A charged unit stores energy: discharge it before working on it. A switch left on drains it, and nothing else can fire.",
} as const;

function dischargeFigures(farads: number): DeviceType["figures"] {
  return {
    farads: figure(farads, "F", "capacitor", { tolerance: 0.2 }),
    chargeOhms: figure(100, "ohm", "charging resistor", { tolerance: 0.05 }),
    chargeWatts: figure(5, "W", "rating of the charging resistor", { origin: "from memory" }),
    bleedOhms: figure(10_000, "ohm", "pilot lamp and leakage across the capacitor", {
      origin: "from memory",
      tolerance: 0.2,
    }),
    seriesOhms: figure(0.05, "ohm", "inside resistance of the capacitor", { origin: "from memory" }),
    leastVolts: figure(12, "V", "charged to at least, to be of use", { max: 35 }),
    mostVolts: figure(35, "V", "made for at most (capacitor)"),
  };
}

/** A board between two rows of terminals: at one side a terminal for each button, at the other two for each motor. */
function diodeBoard(buttons: number, motors: number): DeviceType {
  return {
    id: `diode-board-${buttons}`,
    name: `Diode board, ${buttons} buttons to ${motors} motors`,
    short: "diodes",
    family: "driver",
    model: "diode-board",
    place: "layout",
    prefix: "X",
    drives: "matrix",
    outputs: motors,
    inputs: buttons,
    contactSets: 0,
    terminals: terminals({
      ...Object.fromEntries(numbered(buttons).map((way) => [`I${way}`, `row ${way}, from a button`])),
      ...Object.assign(
        {},
        ...numbered(motors).map((way) => ({
          [`${way}N`]: `motor ${way}, normal coil`,
          [`${way}R`]: `motor ${way}, reverse coil`,
        })),
      ),
    }),
    figures: {
      contactOhms: figure(0.01, "ohm", "a plain wire on it, soldered", { max: 1 }),
      surgeAmps: figure(30, "A", "most through a diode for some 8 ms (1 A rectifier)", { origin: "from memory" }),
      reverseVolts: figure(400, "V", "most backwards across a diode", { origin: "from memory" }),
      diodePrice: figure(0.1, "money", "rough price of a diode", { origin: "from memory", min: 0, max: 100 }),
    },
    about:
      "Route buttons at one side, coils at the other, diodes and plain wires between them: one press throws all turnouts of a road. Made by the owner from terminal strips and rectifier diodes.",
    caution: "The button of a route carries the current of all its coils at once, from a charged capacitor.",
  };
}

export const DRIVERS: readonly DeviceType[] = [
  {
    ...DISCHARGE_UNIT,
    id: "cdu",
    name: "Capacitor discharge unit",
    short: "CDU",
    about: "Stores a pulse and releases it at once; charges again in a second or two.",
    prefix: "CD",
    figures: dischargeFigures(4700e-6),
  },
  {
    ...DISCHARGE_UNIT,
    id: "cdu-motor",
    name: "Capacitor discharge unit for one motor",
    short: "CDU",
    about: "A smaller capacitor beside each motor, so that two motors on one toggle each have enough.",
    prefix: "CU",
    figures: dischargeFigures(3300e-6),
  },
  diodeBoard(8, 6),
  diodeBoard(24, 24),
  ...BOARDS,
];
