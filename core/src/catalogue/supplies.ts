import { type DeviceType, figure, terminals } from "./deviceType.ts";
import { MAINS_TOLERANCE } from "./source.ts";

const MAINS_CAUTION =
  "Use an approved plug-in supply. Nothing on the mains side is planned here: follow local code and ask a licensed electrician for any fixed wiring. Protect thin wire with a fuse or breaker.";

/** Put in by the owner; what it opens at follows from its size. */
const FUSE = figure(0, "A", "fuse behind it, 0 for none", { min: 0, max: 20 });

const DC_TERMINALS = terminals({ "+": "plus", "−": "0 V" });

function dcSupply(volts: number, amps: number): DeviceType {
  return {
    id: `dc-${volts}`,
    name: `${volts} V DC supply`,
    short: `${volts} V DC`,
    family: "supply",
    model: "dc-supply",
    about: `Regulated plug-in supply, ${volts} V DC, ${amps} A.`,
    place: "layout",
    prefix: "PS",
    terminals: DC_TERMINALS,
    outputs: 0,
    contactSets: 0,
    figures: {
      volts: figure(volts, "V", "output", { tolerance: 0.03, min: 1, max: 60 }),
      ratedAmps: figure(amps, "A", "rating"),
      tripAmps: figure(amps * 1.5, "A", "shuts down from"),
      fuseAmps: FUSE,
      insideOhms: figure(0.05, "ohm", "inside resistance", { origin: "from memory" }),
    },
    caution: MAINS_CAUTION,
  };
}

function acSupply(volts: number, amps: number): DeviceType {
  return {
    id: `ac-${volts}`,
    name: `${volts} V AC supply`,
    short: `${volts} V AC`,
    family: "supply",
    model: "ac-supply",
    about: `Plug-in transformer, ${volts} V AC (rms) at ${amps} A, and more with less on it.`,
    place: "layout",
    prefix: "PS",
    terminals: terminals({ "~1": "AC", "~2": "AC" }),
    outputs: 0,
    contactSets: 0,
    figures: {
      volts: figure(volts, "V", "output at its rating, rms", { tolerance: MAINS_TOLERANCE, min: 1, max: 25 }),
      ratedAmps: figure(amps, "A", "rating, rms"),
      tripAmps: figure(amps * 2, "A", "its cut-out opens from, rms"),
      fuseAmps: FUSE,
      // small transformers: 10 to 22 %
      regulation: figure(0.15, "", "share of its volts that it gives more with nothing on it", {
        ...{ origin: "from memory", tolerance: 0.35, min: 0, max: 0.4 },
      }),
      insideOhms: figure(0.1, "ohm", "its lead and cut-out", { origin: "from memory" }),
    },
    caution: MAINS_CAUTION,
  };
}

export const SUPPLIES: readonly DeviceType[] = [
  acSupply(16, 1),
  acSupply(12, 1),
  dcSupply(12, 2),
  dcSupply(5, 1),
  dcSupply(9, 2),
  dcSupply(15, 3),
  dcSupply(18, 2),
  {
    id: "track-bus",
    name: "Track bus from the command station",
    short: "track bus",
    family: "supply",
    model: "track-bus",
    about: "Brings accessory commands to decoders. Put decoders on a feed that trains cannot short.",
    place: "layout",
    prefix: "TB",
    terminals: terminals({ J: "track bus", K: "track bus" }),
    outputs: 0,
    contactSets: 0,
    figures: {
      volts: figure(15, "V", "amplitude of the square wave", { tolerance: 0.05, min: 8, max: 25 }),
      ratedAmps: figure(3, "A", "rating"),
      tripAmps: figure(5, "A", "its breaker trips from"),
      fuseAmps: FUSE,
      insideOhms: figure(0.2, "ohm", "inside resistance", { origin: "from memory" }),
      engines: figure(2, "", "engines that run on it at once", { min: 0, max: 50 }),
      engineAmps: figure(0.5, "A", "an engine takes", { min: 0.01, max: 10 }),
      macros: figure(32, "", "routes that the command station keeps", { origin: "from memory", min: 0, max: 64 }),
    },
    caution: "Do not feed accessories from track power without allowing for their load.",
  },
  {
    id: "control-bus",
    name: "Layout control bus",
    short: "control bus",
    family: "supply",
    model: "control-bus",
    about:
      "Two wires with a resistor of 120 ohm at each end, and a common 0 V: 60 ohm between them with the power off.",
    place: "layout",
    prefix: "CB",
    terminals: terminals({ H: "high", L: "low", "0": "common 0 V" }),
    outputs: 0,
    contactSets: 0,
    figures: {
      // ISO 11898-2: the recessive level is 2.0 to 3.0 V
      idleVolts: figure(2.5, "V", "either wire while nothing is sent, 2.0 to 3.0 V (ISO 11898-2)", {
        ...{ tolerance: 0.2, min: 1, max: 4 },
      }),
      holdOhms: figure(12_000, "ohm", "by which the nodes hold either wire there", { origin: "from memory" }),
      endOhms: figure(60, "ohm", "the two end resistors together (ISO 11898-2)", {
        tolerance: 0.05,
        min: 30,
        max: 200,
      }),
    },
  },
];
