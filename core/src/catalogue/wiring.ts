import { type DeviceType, figure, numbered, terminals } from "./deviceType.ts";

const WIRING = {
  family: "wiring",
  model: "unwired",
  place: "layout",
  prefix: "K",
  terminals: [],
  outputs: 0,
  contactSets: 0,
} as const;

function strip(ways: number): DeviceType {
  return {
    ...WIRING,
    id: `strip-${ways}`,
    name: `Terminal strip, ${ways} ways`,
    short: "strip",
    about: "Screw terminals. Ends in ferrules or bare and twisted; never tinned with solder, which creeps loose.",
    figures: {
      ways: figure(ways, "", "ways", { min: 1, max: 64 }),
      contactOhms: figure(0.005, "ohm", "one screw", { max: 1 }),
    },
  };
}

function cable(cores: number, square: number, gauge: string): DeviceType {
  return {
    ...WIRING,
    id: `cable-${cores}-${gauge.toLowerCase().replace(/[^a-z0-9]+/g, "-")}`,
    name: `Cable, ${cores} cores, ${gauge}`,
    short: "cable",
    prefix: "C",
    about:
      cores === 8 && gauge === "AWG 24"
        ? "Network cable: thin for coils, good for lamps and stall motors."
        : "Signal cable.",
    figures: {
      cores: figure(cores, "", "cores", { min: 1, max: 64 }),
      squareMetres: figure(square * 1e-6, "", "area of a core, square metres", { origin: "derived" }),
    },
  };
}

const PIECES = 6;

/** Made by the owner on a piece of stripboard: a resistor and another one behind it for each lamp, all on one rail. */
const RESISTORS: DeviceType = {
  ...WIRING,
  id: "resistor-board-6",
  name: "Resistor board, six pieces on one rail",
  short: "resistors",
  model: "resistor-board",
  prefix: "RN",
  about:
    "Two resistors in a row for each lamp, from its common lead to one rail that goes to the supply; a meter fits between the two.",
  terminals: [
    ...numbered(PIECES).flatMap((piece) =>
      terminals({ [`${piece}`]: `piece ${piece}, to a lamp`, [`${piece}j`]: `piece ${piece}, between its resistors` }),
    ),
    ...terminals({ C: "rail, common of all pieces" }),
  ],
  pieces: PIECES,
  figures: {
    firstOhms: figure(150, "ohm", "resistor of a piece next to the lamp", { tolerance: 0.05 }),
    firstWatts: figure(0.25, "W", "rating of the resistor next to the lamp"),
    secondWatts: figure(0.25, "W", "rating of the resistor next to the rail"),
    secondOhms: figure(300, "ohm", "resistor of a piece next to the rail", { tolerance: 0.05 }),
  },
};

/** Strips and cables of common sizes, and resistors on a board. */
export const WIRING_TYPES: readonly DeviceType[] = [
  strip(12),
  strip(6),
  cable(8, 0.2047, "AWG 24"),
  cable(4, 0.5, "0.5 mm2"),
  cable(8, 0.5, "0.5 mm2"),
  cable(2, 1.5, "1.5 mm2"),
  RESISTORS,
];
