import { INPUT_FIGURES } from "./boardParts.ts";
import { type DeviceType, figure, terminals } from "./deviceType.ts";

/** Single LEDs of one kind (data sheets, from memory: 1.8 to 2.2 V typical to 2.5 V at most). */
const LED_SPREAD = { tolerance: 0.1 };

const ledFigures = (rated = 0.01) => ({
  greenVolts: figure(
    2.2,
    "V",
    "forward voltage of the colour lit at normal, at 10 mA (yellow-green of GaP 2.0 to 2.3 V, pure green of InGaN 3.0 V)",
    LED_SPREAD,
  ),
  yellowVolts: figure(
    2.1,
    "V",
    "forward voltage of the colour lit at reverse, at 10 mA (red, yellow 1.9 to 2.1 V; white, blue 3.0 V)",
    LED_SPREAD,
  ),
  ratedAmps: figure(rated, "A", "rated current of each colour; below a quarter of it the lamp looks half as bright"),
  leastAmps: figure(0.001, "A", "lit at all from"),
  bearsVolts: figure(5, "V", "most reverse voltage across an LED"),
});

const figuresOf = (resistor: number, rated?: number, watts = 0.25) => ({
  resistorOhms: figure(resistor, "ohm", "resistor in each lead", { tolerance: 0.05 }),
  resistorWatts: figure(watts, "W", "rating of each of these resistors"),
  ...ledFigures(rated),
});

/** One resistor serves both colours, of which one is lit at a time. */
const commonFigures = (resistor: number) => ({
  commonOhms: figure(resistor, "ohm", "resistor in the common lead", { tolerance: 0.05 }),
  commonWatts: figure(0.25, "W", "rating of this resistor"),
  ...ledFigures(),
});

const GREEN_YELLOW = ["green", "yellow"] as const;

const LAMP = {
  family: "lamp",
  model: "two-colour-lamp",
  place: "panel",
  prefix: "LP",
  outputs: 0,
  contactSets: 0,
  colours: GREEN_YELLOW,
} as const;

const { colours: _, ...DARK } = LAMP;

export const LAMPS: readonly DeviceType[] = [
  {
    ...LAMP,
    id: "lamp-two-colour",
    name: "Two-colour lamp with resistors, common lead to 0 V",
    short: "2-colour",
    about: "3 mm LED, green and yellow, common cathode; one resistor in each lead.",
    terminals: terminals({ G: "green", Y: "yellow", "0": "common, to 0 V" }),
    leads: ["G", "Y", "0"],
    figures: figuresOf(390),
  },
  {
    ...LAMP,
    id: "lamp-two-colour-12",
    name: "Two-colour lamp for 12 V, common lead to 0 V",
    short: "2-colour",
    about: "As the one for 5 V, with resistors for 12 V: lit by a driver's output or a contact on 12 V.",
    terminals: terminals({ G: "green", Y: "yellow", "0": "common, to 0 V" }),
    leads: ["G", "Y", "0"],
    figures: figuresOf(1200),
  },
  {
    ...LAMP,
    id: "lamp-two-colour-plus",
    name: "Two-colour lamp for 12 V, common lead to plus",
    short: "2-colour",
    about: "3 mm LED, green and yellow, common anode; for outputs that pull down to 0 V.",
    terminals: terminals({ G: "green", Y: "yellow", P: "common, to plus" }),
    leads: ["G", "Y", "P"],
    commonPlus: true,
    figures: figuresOf(1200),
  },
  {
    ...LAMP,
    id: "lamp-two-colour-one-resistor",
    name: "Two-colour lamp, one resistor in its common lead, to 0 V",
    short: "2-colour",
    about: "3 mm LED, green and yellow, common cathode; one resistor for both colours, of which one is lit at a time.",
    terminals: terminals({ G: "green", Y: "yellow", "0": "common, to 0 V" }),
    leads: ["G", "Y", "0"],
    figures: commonFigures(390),
  },
  {
    ...LAMP,
    id: "lamp-two-colour-bare",
    name: "Two-colour lamp without a resistor, common lead to 0 V",
    short: "2-colour",
    about:
      "3 mm LED, green and yellow, common cathode. Its resistor is a piece of a resistor board in its common lead.",
    terminals: terminals({ G: "green", Y: "yellow", "0": "common, to 0 V" }),
    leads: ["G", "Y", "0"],
    figures: ledFigures(),
    caution: "Without a resistor before or behind it, an LED burns as soon as it is lit.",
  },
  {
    ...LAMP,
    id: "lamps-single-pair",
    name: "Two single lamps, one for each position, commons to 0 V",
    short: "2 lamps",
    about: "Two LEDs at their places on the panel's drawing: one is lit at normal, the other at reverse.",
    terminals: terminals({ N: "lamp for normal", R: "lamp for reverse", "0": "both commons, to 0 V" }),
    leads: ["N", "R", "0"],
    colours: ["green", "green"],
    figures: figuresOf(390),
  },
  {
    ...LAMP,
    id: "lamps-frog",
    name: "Two lamps from frog to rails",
    short: "frog",
    model: "frog-lamps",
    about: "Two LEDs with resistors, from the frog to either rail: the one lights whose rail the frog does not carry.",
    terminals: terminals({
      G: "green, to the rail the frog leaves at normal",
      Y: "yellow, to the other rail",
      F: "common, to the frog",
    }),
    leads: ["G", "Y", "F"],
    figures: figuresOf(1000, 0.015, 0.5),
    caution:
      "On digital track power each LED sees the full voltage backwards half of the time. Use the kind with diodes.",
  },
  {
    ...LAMP,
    id: "lamps-frog-diodes",
    name: "Two lamps from frog to rails, with diodes",
    short: "frog",
    model: "frog-lamps",
    about:
      "As the plain ones, with a diode the other way round beside each LED that keeps the reverse voltage from it.",
    terminals: terminals({
      G: "green, to the rail the frog leaves at normal",
      Y: "yellow, to the other rail",
      F: "common, to the frog",
    }),
    leads: ["G", "Y", "F"],
    figures: {
      ...figuresOf(1000, 0.015, 0.5),
      diodes: figure(1, "", "diode the other way round beside each LED", { min: 1, max: 1 }),
    },
  },
  {
    ...LAMP,
    id: "dwarf-signal",
    name: "Dwarf signal, green and red, common lead to plus",
    short: "dwarf",
    about: "A signal beside the track that shows how the turnout lies.",
    place: "layout",
    prefix: "DS",
    terminals: terminals({ G: "green", R: "red", P: "common, to plus" }),
    leads: ["G", "R", "P"],
    colours: ["green", "red"],
    commonPlus: true,
    figures: figuresOf(1200),
  },
  {
    ...LAMP,
    id: "fibre-signal-box",
    name: "Fibre-optic box, two lamps",
    short: "fibre",
    about: "Two LEDs under the layout whose light is led to the panel by fibres: no lamp wires to the panel.",
    place: "layout",
    prefix: "FB",
    terminals: terminals({ G: "fibre at normal", Y: "fibre at reverse", "0": "common, to 0 V" }),
    leads: ["G", "Y", "0"],
    figures: figuresOf(180, 0.02),
  },
  {
    ...LAMP,
    id: "fibre-box-input",
    name: "Fibre-optic box with an input",
    short: "box",
    model: "signal-box",
    colours: ["green", "red"],
    about:
      "Shows one aspect while its input is open and the other while a sensor pulls it to 0 V: the lamps are inside, and fibres lead their light to the panel.",
    place: "layout",
    prefix: "FB",
    terminals: terminals({ "+": "supply in", "−": "supply in, 0 V", I: "input, to 0 V for the other aspect" }),
    figures: {
      idleOhms: figure(600, "ohm", "the box itself: (12 V at 20 mA)", { origin: "from memory", tolerance: 0.2 }),
      leastVolts: figure(5, "V", "supply from", { origin: "from memory" }),
      mostVolts: figure(15, "V", "supply to", { origin: "from memory" }),
      ...INPUT_FIGURES,
    },
  },
  {
    ...DARK,
    id: "semaphore-servo",
    name: "Semaphore moved by a servo",
    short: "semaphore",
    model: "servo",
    about: "An arm beside the track, on an output of a servo board.",
    place: "layout",
    prefix: "SE",
    terminals: terminals({ S: "signal", "+": "5 V", "−": "0 V" }),
    figures: {
      movingOhms: figure(33, "ohm", "apparent resistance while moving", { origin: "from memory", tolerance: 0.3 }),
      restOhms: figure(600, "ohm", "at rest, pulses on", { origin: "from memory", tolerance: 0.3 }),
      signalOhms: figure(50_000, "ohm", "load of the signal input", { origin: "from memory" }),
      ratedAmps: figure(0.12, "A", "current while moving", { origin: "from memory" }),
      stalledAmps: figure(0.3, "A", "current when held against a stop", { origin: "from memory" }),
      leastVolts: figure(4.5, "V", "runs from"),
      mostVolts: figure(6, "V", "made for at most"),
    },
  },
  {
    ...DARK,
    id: "mechanical-flag",
    name: "Mechanical flag on the throw bar",
    short: "flag",
    model: "unwired",
    about: "Moved by the throw bar itself: shows the blades, and needs no wire.",
    place: "layout",
    prefix: "MF",
    terminals: [],
    figures: {},
  },
];
