import { type DeviceType, figure, type Terminal, terminals } from "./deviceType.ts";

const CONTACT_OHMS = figure(0.05, "ohm", "resistance of a closed contact", { origin: "from memory", max: 20 });

function contacts(sets: number): Terminal[] {
  return Array.from({ length: sets }, (_, index) => index + 1).flatMap((set) =>
    terminals({
      [`S${set}c`]: `contact ${set}, common`,
      [`S${set}n`]: `contact ${set}, made at normal`,
      [`S${set}r`]: `contact ${set}, made at reverse`,
    }),
  );
}

const COILS = { N: "coil that throws normal", C: "common of both coils", R: "coil that throws reverse" };

const COIL_CAUTION =
  "A coil takes amps and burns when it is held on. Give it a pulse only: a centre-off momentary control, or a capacitor discharge unit. A charged unit stores energy: discharge it before working on it.";

const coilFigures = {
  coilOhms: figure(4, "ohm", "resistance of one coil", { tolerance: 0.1 }),
  coilHenries: figure(0.003, "H", "inductance of one coil, slug half in", { origin: "from memory", tolerance: 0.3 }),
  restAmps: figure(0.02, "A", "most that a coil may carry for ever", { origin: "from memory" }),
  pulseJoules: figure(0.15, "J", "least energy of a firm throw"),
  pulseSeconds: figure(0.01, "s", "least length of the pulse above half of its peak"),
};

const stallFigures = {
  stalledOhms: figure(680, "ohm", "resistance while stalled: (10.2 V at 15 mA)", { origin: "derived", tolerance: 0.1 }),
  movingOhms: figure(2880, "ohm", "apparent resistance while moving: (11.52 V at 4 mA)", {
    origin: "derived",
    tolerance: 0.2,
  }),
  ratedAmps: figure(0.015, "A", "current when stalled, by its leaflet"),
  leastVolts: figure(7, "V", "runs from"),
  mostVolts: figure(12, "V", "made for at most"),
  moveSeconds: figure(3, "s", "time to move the blades", { origin: "from memory" }),
};

export const MOTORS: readonly DeviceType[] = [
  {
    id: "twin-coil-under-board",
    name: "Twin-coil motor, under-board, with contact",
    short: "coil",
    family: "motor",
    model: "twin-coil",
    about: "Two coils with a common; fitted below the turnout; one changeover contact.",
    place: "layout",
    prefix: "CM",
    terminals: [...terminals(COILS), ...contacts(1)],
    outputs: 0,
    contactSets: 1,
    figures: { ...coilFigures, contactOhms: CONTACT_OHMS },
    caution: COIL_CAUTION,
  },
  {
    id: "twin-coil-surface",
    name: "Twin-coil motor, surface-mount, no contact",
    short: "coil",
    family: "motor",
    model: "twin-coil",
    about: "Three tails: two coils and a common; stands beside the turnout; no contact for frog or lamp.",
    place: "layout",
    prefix: "CM",
    terminals: terminals(COILS),
    outputs: 0,
    contactSets: 0,
    figures: { ...coilFigures },
    caution: COIL_CAUTION,
  },
  {
    id: "twin-coil-efficient",
    name: "Twin-coil motor, high-efficiency, with contact",
    short: "coil",
    family: "motor",
    model: "twin-coil",
    about: "Two coils of more turns: throws with less current, so more of them share one discharge unit.",
    place: "layout",
    prefix: "CM",
    terminals: [...terminals(COILS), ...contacts(1)],
    outputs: 0,
    contactSets: 1,
    figures: {
      ...coilFigures,
      coilOhms: figure(8, "ohm", "resistance of one coil", { origin: "from memory", tolerance: 0.1 }),
      coilHenries: figure(0.008, "H", "inductance of one coil, slug half in", {
        origin: "from memory",
        tolerance: 0.3,
      }),
      pulseJoules: figure(0.08, "J", "least energy of a firm throw", { origin: "from memory" }),
      contactOhms: CONTACT_OHMS,
    },
    caution: COIL_CAUTION,
  },
  {
    id: "stall-motor",
    name: "Stall motor with two contacts",
    short: "stall",
    family: "motor",
    model: "stall-motor",
    about: "Slow 12 V DC motor that stays powered and stalls at the end of its travel; two changeover contacts.",
    place: "layout",
    prefix: "SM",
    terminals: [...terminals({ "+": "lead that is positive at normal", "−": "other lead" }), ...contacts(2)],
    outputs: 0,
    contactSets: 2,
    figures: { ...stallFigures, contactOhms: CONTACT_OHMS },
  },
];
