import { BOARDS } from "./boards.ts";
import { type DeviceType, figure, terminals } from "./deviceType.ts";

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
    bleedOhms: figure(10_000, "ohm", "pilot lamp and leakage across the capacitor", {
      origin: "from memory",
      tolerance: 0.2,
    }),
    seriesOhms: figure(0.05, "ohm", "inside resistance of the capacitor", { origin: "from memory" }),
    leastVolts: figure(12, "V", "charged to at least, to be of use"),
    mostVolts: figure(25, "V", "made for at most (capacitor)"),
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
  ...BOARDS,
];
