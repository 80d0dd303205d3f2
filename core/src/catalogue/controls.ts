import { type DeviceType, figure, numbered, terminals } from "./deviceType.ts";

const CONTACT = {
  contactOhms: figure(0.02, "ohm", "resistance of a closed contact", { origin: "from memory", max: 20 }),
  ratedAmps: figure(3, "A", "rating of the contact"),
};

const TOGGLE = {
  family: "control",
  place: "panel",
  prefix: "T",
  terminals: terminals({ N: "made when thrown to normal", C: "common", R: "made when thrown to reverse" }),
  outputs: 0,
  contactSets: 0,
  figures: CONTACT,
} as const;

const REVERSING = {
  family: "control",
  model: "reversing-toggle",
  place: "panel",
  prefix: "T",
  terminals: terminals({
    "1N": "pole 1, made at normal",
    "1C": "pole 1, common",
    "1R": "pole 1, made at reverse",
    "2N": "pole 2, made at normal",
    "2C": "pole 2, common",
    "2R": "pole 2, made at reverse",
  }),
  outputs: 0,
  contactSets: 0,
  figures: CONTACT,
} as const;

/** Switches that let other controls act or not. */
export const LOCKS: readonly DeviceType[] = [
  {
    id: "key-switch",
    name: "Key switch",
    short: "key",
    family: "lock",
    model: "key-switch",
    place: "panel",
    prefix: "KS",
    terminals: terminals({ C: "common", N: "joined to the common while the key is on" }),
    outputs: 0,
    contactSets: 0,
    figures: CONTACT,
    about:
      "Cuts the common of the controls that it locks out; or picks up relays whose contacts do. Whoever holds the key has the station.",
  },
];

/** A button whose poles close together, each for a circuit of its own. */
function buttonOfPoles(poles: number): DeviceType {
  return {
    id: `push-button-${poles}`,
    name: `Push button, ${poles} poles`,
    short: "button",
    family: "control",
    model: "push-poles",
    place: "panel",
    prefix: "B",
    poles,
    terminals: terminals(
      Object.assign(
        {},
        ...numbered(poles).map((pole) => ({
          [`${pole}C`]: `pole ${pole}, one side`,
          [`${pole}N`]: `pole ${pole}, other side`,
        })),
      ),
    ),
    outputs: 0,
    contactSets: 0,
    figures: CONTACT,
    about:
      "For routes from more than one entry: each pole is fed from the button of one entry, and both are held at once.",
  };
}

export const CONTROLS: readonly DeviceType[] = [
  {
    ...TOGGLE,
    id: "toggle-centre-off",
    name: "Toggle, centre-off, momentary both ways",
    short: "sprung",
    model: "momentary-toggle",
    about: "Springs back to the centre when let go: a pulse for coils, and others may throw the turnout too.",
  },
  {
    ...TOGGLE,
    id: "toggle-latching",
    name: "Toggle, latching",
    short: "latching",
    model: "latching-toggle",
    maintained: true,
    about: "Stays where it is put, so it shows the position. For motors that may stay powered; never for coils.",
    caution: "Left on, it burns a coil or drains the discharge unit, and it locks other controls out.",
  },
  {
    ...REVERSING,
    id: "toggle-reversing",
    name: "Toggle, reversing, latching (two poles)",
    short: "reversing",
    maintained: true,
    about:
      "Exchanges plus and minus of a stall motor and stays where it is put. The two poles are crossed on the toggle itself.",
    caution: "A maintained control takes the turnout hostage from all others.",
  },
  {
    ...REVERSING,
    id: "toggle-reversing-centre-off",
    name: "Toggle, reversing, centre-off (two poles)",
    short: "reversing",
    about: "Springs back to the centre: the motor has power only while it is held, and stays by its own friction.",
  },
  {
    ...TOGGLE,
    id: "push-pair",
    name: "Two push buttons, normal and reverse",
    short: "buttons",
    model: "momentary-toggle",
    prefix: "B",
    about: "One button for each position, with a common.",
  },
  {
    id: "push-button",
    name: "Push button",
    short: "button",
    family: "control",
    model: "push-button",
    place: "panel",
    prefix: "B",
    terminals: terminals({ C: "one side", N: "other side" }),
    outputs: 0,
    contactSets: 0,
    figures: CONTACT,
    about: "One button: asks for the other position at each press, or for one position only.",
  },
  {
    id: "push-button-heavy",
    name: "Push button, heavy contact",
    short: "button",
    family: "control",
    model: "push-button",
    place: "panel",
    prefix: "B",
    terminals: terminals({ C: "one side", N: "other side" }),
    outputs: 0,
    contactSets: 0,
    figures: { ...CONTACT, ratedAmps: figure(10, "A", "rating of the contact") },
    about: "A button with the contact of a small starter: for routes, whose coils all draw through it at once.",
  },
  buttonOfPoles(2),
  buttonOfPoles(4),
  {
    id: "rotary",
    name: "Rotary switch, one pole, twelve positions",
    short: "rotary",
    family: "control",
    model: "rotary",
    place: "panel",
    prefix: "RS",
    terminals: terminals({
      C: "common",
      ...Object.fromEntries(numbered(12).map((position) => [`${position}`, `position ${position}`])),
    }),
    outputs: 0,
    contactSets: 0,
    maintained: true,
    figures: CONTACT,
    about:
      "One road at a time; for a single turnout position 1 is normal and position 2 reverse. Feed coils through a push button in its common.",
    caution: "It stays where it is put: without a button in its common it burns a coil or drains the discharge unit.",
  },
  {
    id: "touch-button",
    name: "Touch button with memory",
    short: "touch",
    family: "control",
    model: "touch-button",
    place: "panel",
    prefix: "TC",
    terminals: terminals({ "+": "supply in", "−": "0 V", N: "to 0 V at normal", R: "to 0 V at reverse" }),
    outputs: 0,
    contactSets: 0,
    maintained: true,
    figures: {
      outputOhms: figure(50, "ohm", "an output that is on", { origin: "from memory" }),
      outputAmps: figure(0.05, "A", "most through an output", { origin: "from memory" }),
      idleOhms: figure(1200, "ohm", "the button itself: (12 V at 10 mA)", { origin: "from memory", tolerance: 0.2 }),
      leastVolts: figure(5, "V", "supply from", { origin: "from memory" }),
      mostVolts: figure(15, "V", "supply to", { origin: "from memory" }),
    },
    about:
      "Changes over at each touch and remembers through power-off. Its outputs are for a board's inputs, not for motors.",
    powerOn: "stays",
  },
];
