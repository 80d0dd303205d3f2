import { type DeviceType, figure } from "./deviceType.ts";

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

/** Strips and cables of common sizes. */
export const WIRING_TYPES: readonly DeviceType[] = [
  strip(12),
  strip(6),
  cable(8, 0.2047, "AWG 24"),
  cable(4, 0.5, "0.5 mm2"),
  cable(8, 0.5, "0.5 mm2"),
  cable(2, 1.5, "1.5 mm2"),
];
