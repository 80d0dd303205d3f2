import { type DeviceType, figure, terminals } from "./deviceType.ts";

const outputs = Array.from({ length: 8 }, (_, index) => index + 1).flatMap((way) =>
  terminals({ [`${way}A`]: `output ${way}, positive at normal`, [`${way}B`]: `output ${way}, other lead` }),
);

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
  {
    id: "stall-decoder-8",
    name: "Accessory decoder, eight stall-motor outputs",
    short: "decoder",
    family: "driver",
    model: "stall-decoder",
    about: "Eight outputs for stall motors, each with its own address. Commands come through the track in any case.",
    place: "layout",
    prefix: "D",
    terminals: [...terminals({ J: "track bus", K: "track bus", "+": "supply in", "−": "supply in" }), ...outputs],
    outputs: 8,
    contactSets: 0,
    figures: {
      outputOhms: figure(120, "ohm", "inside resistance of an output: (12 V open, 10.2 V at 15 mA)", {
        origin: "derived",
        tolerance: 0.1,
      }),
      outputAmps: figure(0.04, "A", "most from one output"),
      idleOhms: figure(600, "ohm", "the board itself: (12 V at 20 mA)", { origin: "from memory", tolerance: 0.2 }),
      commandOhms: figure(100_000, "ohm", "load of the command input on the track bus", { origin: "from memory" }),
      leastVolts: figure(9, "V", "supply from"),
      mostVolts: figure(15, "V", "supply to"),
      factoryAddress: figure(1, "", "address of output 1 as bought", { min: 1, max: 2040 }),
    },
  },
];
