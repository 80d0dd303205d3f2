import { CONTACT_OHMS, contacts, type DeviceType, figure, terminals } from "./deviceType.ts";

/** Contacts that a motor works, for frogs and lamps. */
const CONTACT_AMPS = figure(3, "A", "rating of a contact", { origin: "from memory" });

const COILS = { N: "coil that throws normal", C: "common of both coils", R: "coil that throws reverse" };

const COIL_CAUTION =
  "A coil takes amps and burns when it is held on. Give it a pulse only: a centre-off momentary control, or a capacitor discharge unit. A charged unit stores energy: discharge it before working on it.";

const coilFigures = {
  coilOhms: figure(4, "ohm", "resistance of one coil", { tolerance: 0.1 }),
  coilHenries: figure(0.003, "H", "inductance of one coil, slug half in", { origin: "from memory", tolerance: 0.3 }),
  restAmps: figure(0.02, "A", "leakage: what flows beyond it in a coil at rest heats it", {
    origin: "from memory",
  }),
  warmsKelvin: figure(45, "", "kelvin above the room for each watt that stays in a coil", {
    ...{ origin: "from memory", min: 5, max: 500, tolerance: 0.3 },
  }),
  warmsSeconds: figure(90, "s", "time constant of a coil's warming: 63 % of it", { origin: "from memory" }),
  moveAmps: figure(1.2, "A", "least current that moves the slug: its force goes with the square", {
    origin: "from memory",
    tolerance: 0.2,
  }),
  pulseJoules: figure(0.15, "J", "least energy of a firm throw, while the slug moves"),
  // longer ones are often asked for, but would forbid two motors on one unit of 4700 uF, which is everyday practice
  pulseSeconds: figure(0.002, "s", "least length of the pulse above half of its peak"),
};

const SERVO_TERMINALS = terminals({ S: "signal", "+": "5 V", "−": "0 V" });

const SERVO_FIGURES = {
  movingOhms: figure(25, "ohm", "apparent resistance while moving: (5 V at 200 mA)", {
    origin: "from memory",
    tolerance: 0.3,
  }),
  restOhms: figure(600, "ohm", "at rest, pulses on: (5 V at 8 mA)", { origin: "from memory", tolerance: 0.3 }),
  signalOhms: figure(50_000, "ohm", "load of the signal input", { origin: "from memory" }),
  ratedAmps: figure(0.2, "A", "current while moving"),
  stalledAmps: figure(0.65, "A", "current when held against a stop"),
  leastVolts: figure(4.5, "V", "runs from"),
  mostVolts: figure(6, "V", "made for at most"),
  moveSeconds: figure(2, "s", "time to move the blades at speed 5", { origin: "from memory" }),
};

const stallFigures = {
  stalledOhms: figure(680, "ohm", "resistance while stalled: (10.2 V at 15 mA)", { origin: "derived", tolerance: 0.1 }),
  movingOhms: figure(2880, "ohm", "apparent resistance while moving: (11.52 V at 4 mA)", {
    origin: "derived",
    tolerance: 0.2,
  }),
  ratedAmps: figure(0.015, "A", "current when stalled, by its leaflet (at 10.2 V)"),
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
    figures: { ...coilFigures, contactOhms: CONTACT_OHMS, contactAmps: CONTACT_AMPS },
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
      moveAmps: figure(0.7, "A", "least current that moves the slug: its force goes with the square", {
        origin: "from memory",
        tolerance: 0.2,
      }),
      pulseJoules: figure(0.08, "J", "least energy of a firm throw, while the slug moves", { origin: "from memory" }),
      contactOhms: CONTACT_OHMS,
      contactAmps: CONTACT_AMPS,
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
    figures: { ...stallFigures, contactOhms: CONTACT_OHMS, contactAmps: CONTACT_AMPS },
  },
  {
    id: "servo",
    name: "Servo",
    short: "servo",
    family: "motor",
    model: "servo",
    about:
      "Three wires, 5 V; two end points and a speed are set in the board that drives it. Set the mid position before the horn is pushed on.",
    place: "layout",
    prefix: "SV",
    terminals: SERVO_TERMINALS,
    outputs: 0,
    contactSets: 0,
    figures: SERVO_FIGURES,
  },
  {
    id: "servo-contact",
    name: "Servo in a mount with microswitch",
    short: "servo",
    family: "motor",
    model: "servo",
    about: "A servo whose mount works a microswitch, so that frog or lamp follow the arm.",
    place: "layout",
    prefix: "SV",
    terminals: [...SERVO_TERMINALS, ...contacts(1)],
    outputs: 0,
    contactSets: 1,
    figures: { ...SERVO_FIGURES, contactOhms: CONTACT_OHMS, contactAmps: CONTACT_AMPS },
  },
  {
    id: "slow-motor-decoder",
    name: "Slow motor with built-in decoder",
    short: "decoder",
    family: "motor",
    model: "decoder-motor",
    about: "Garden scale: joined to the track bus by two wires, with an address and settings of its own.",
    place: "layout",
    prefix: "GM",
    terminals: terminals({ J: "track bus", K: "track bus" }),
    outputs: 0,
    contactSets: 0,
    hears: "track",
    figures: {
      movingOhms: figure(150, "ohm", "apparent resistance while moving: (15 V at 100 mA)", {
        origin: "from memory",
        tolerance: 0.3,
      }),
      idleOhms: figure(1500, "ohm", "at rest: (15 V at 10 mA)", { origin: "from memory", tolerance: 0.3 }),
      leastVolts: figure(10, "V", "runs from", { origin: "from memory" }),
      mostVolts: figure(22, "V", "made for at most", { origin: "from memory" }),
      factoryAddress: figure(1, "", "factory address", { min: 1, max: 2040 }),
    },
    programming: {
      block: 1,
      choose: "Put the motor alone on the programming track, or address it on the main by the address that it has.",
      enter: "Set its lock to the motor's own key.",
      shows: "It answers to reading.",
      send: "Write address {address}.",
      leave: "Set the lock to another value that is nobody else's key, and throw {address} to see it move.",
    },
    settings: [
      {
        name: "force",
        about: "force at which it gives up; raise it when it stops before the blades close",
        factory: "4",
        range: "1 to 10",
        ...{ rank: 1, values: ["1", "2", "3", "4", "5", "6", "7", "8", "9", "10"] },
      },
      {
        name: "lock",
        about: "must hold a certain value before any other setting can be written; set again afterwards",
        factory: "set",
        range: "set or open",
        isLock: true,
      },
    ],
    powerOn: "stays",
  },
];
