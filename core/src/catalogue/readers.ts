import { board, INPUT_FIGURES, MIXED_SWITCHES, made, NODE_NUMBER, POWER, TRACK } from "./boardParts.ts";
import { CONTACT_OHMS, contacts, type DeviceType, figure, numbered, type Setting, terminals } from "./deviceType.ts";

const HOLD: Setting = {
  name: "release",
  about: "time from the train's leaving to the output's release",
  factory: "2 s",
  range: "0.5 to 10 s",
};

/** Who acts on the messages of an encoder. */
export const BY_COMPUTER = "a computer";
export const BY_STATION = "the command station";

/** A sensitive relay of some 160 mW; it has to pick up at 70 to 75 % of its volts, and to drop out at 10 % (from memory). */
function relay(id: string, volts: number, use: string): DeviceType {
  const amps = RELAY_WATTS / volts;
  return {
    id,
    name: `Relay, ${volts} V coil, two changeover contacts`,
    short: "relay",
    family: "reader",
    model: "relay",
    about: `Its coil, with a diode, lies ${use}`,
    place: "layout",
    prefix: "RY",
    terminals: [...terminals({ A1: "coil, plus at reverse", A2: "coil, other end" }), ...contacts(2)],
    outputs: 0,
    contactSets: 2,
    figures: {
      coilOhms: figure(Math.round(volts / amps), "ohm", `coil: (${volts} V at ${Math.round(amps * 1000)} mA)`, {
        origin: "from memory",
        tolerance: 0.1,
      }),
      pullInVolts: figure(volts * 0.725, "V", "picks up from, for certain", {
        origin: "from memory",
        tolerance: 0.035,
      }),
      dropOutVolts: figure(volts * 0.1, "V", "drops out below, for certain", { origin: "from memory" }),
      contactOhms: CONTACT_OHMS,
      contactAmps: figure(5, "A", "rating of a contact", { origin: "from memory" }),
      ratedAmps: figure(Number(amps.toPrecision(2)), "A", "current of the coil", { origin: "from memory" }),
    },
  };
}

const RELAY_WATTS = 0.162;

/** What reads controls and trains, and what feeds frogs by itself. */
export const READERS: readonly DeviceType[] = [
  made(
    {
      id: "input-node-16",
      name: "Input node, sixteen inputs",
      short: "node",
      family: "reader",
      about: "On the control bus: produces an event when an input closes, and one when it opens.",
      prefix: "IN",
      inputs: 16,
      hears: "bus",
      figures: { ...board(600, 9, 15), ...INPUT_FIGURES },
      settings: [NODE_NUMBER],
      numberSwitches: MIXED_SWITCHES,
    },
    POWER,
  ),
  made(
    {
      id: "encoder-16",
      name: "Feedback encoder, sixteen inputs",
      short: "encoder",
      family: "reader",
      about:
        "Puts a message on the feedback bus, which it joins by its plug; consecutive numbers from a start number. A computer or command station does the rest.",
      prefix: "FE",
      inputs: 16,
      figures: { ...board(600, 9, 15), ...INPUT_FIGURES },
      settings: [
        {
          name: "start number",
          about: "of input 1; the others follow",
          factory: "1",
          range: "1 to 2033",
          isStart: true,
        },
        {
          name: "hold-off",
          about: "time for which an input must be open before it counts as off: wheels and dirt make gaps",
          factory: "0.2 s",
          range: "0 to 10 s",
        },
        {
          name: "acted on by",
          about: "who turns its messages into commands; with a computer the panel is dead when that is off",
          factory: BY_COMPUTER,
          range: "a computer or the command station",
          ...{ isActor: true, values: [BY_COMPUTER, BY_STATION] },
        },
      ],
    },
    POWER,
  ),
  {
    id: "current-detector-4",
    name: "Current detector, four zones",
    short: "detector",
    family: "reader",
    model: "detector",
    about:
      "Senses current in series with one rail's feed of an isolated stretch. Its outputs join one common when the stretch is occupied.",
    place: "layout",
    prefix: "BD",
    terminals: [
      ...terminals({ ...POWER, "0": "common of the outputs" }),
      ...numbered(4).flatMap((zone) =>
        terminals({
          [`${zone}i`]: `zone ${zone}, from the bus`,
          [`${zone}o`]: `zone ${zone}, to the rail`,
          [`O${zone}`]: `output ${zone}`,
        }),
      ),
    ],
    outputs: 0,
    contactSets: 0,
    zones: 4,
    figures: {
      ...board(1200, 9, 15),
      senseOhms: figure(0.1, "ohm", "in the feed of a zone", { origin: "from memory" }),
      zoneVolts: figure(0.7, "V", "drop in the feed of a zone at 0.1 A, either way (two diodes back to back)", {
        ...{ origin: "from memory", tolerance: 0.1, min: 0.05, max: 2 },
      }),
      detectAmps: figure(0.001, "A", "tells a train from: (15 V through 15 kohm)", {
        ...{ origin: "from memory", tolerance: 0.3 },
      }),
      axleOhms: figure(10_000, "ohm", "resistor on the axles that it has to tell", {
        ...{ tolerance: 0.05, min: 100, max: 1_000_000 },
      }),
      outputOhms: figure(50, "ohm", "an output that is on", { origin: "from memory" }),
      outputAmps: figure(0.05, "A", "most through one output", { origin: "from memory" }),
      detectSeconds: figure(0.1, "s", "until it tells a train", { origin: "from memory" }),
      releaseSeconds: figure(2, "s", "output stays on after the train has left"),
    },
    settings: [HOLD],
    caution: "Both rails' feeds must keep their sides: crossing them at the gap is a dead short.",
  },
  {
    id: "infrared-sensor",
    name: "Infrared spot sensor",
    short: "spot",
    family: "reader",
    model: "spot-sensor",
    about:
      "Sees what covers it: a train, or an extension of the throw bar. No delay on cover, about six seconds on release.",
    place: "layout",
    prefix: "IR",
    terminals: terminals({ ...POWER, O1: "output, to 0 V when covered" }),
    outputs: 0,
    contactSets: 0,
    zones: 1,
    figures: {
      ...board(400, 5, 15),
      outputOhms: figure(50, "ohm", "the output when on", { origin: "from memory" }),
      outputAmps: figure(0.05, "A", "most through the output", { origin: "from memory" }),
      releaseSeconds: figure(6, "s", "delay on release"),
    },
    settings: [HOLD],
  },
  {
    id: "polarity-unit",
    name: "Automatic frog polarity unit",
    short: "polarity",
    family: "reader",
    model: "polarity-unit",
    about:
      "Sits between rails and frog and changes over when a wheel bridges the wrong rail. The frog then knows only what the last train corrected.",
    place: "layout",
    prefix: "FP",
    terminals: terminals({ ...TRACK, F: "to the frog" }),
    outputs: 0,
    contactSets: 0,
    figures: {
      contactOhms: figure(0.1, "ohm", "on resistance", { origin: "from memory", max: 20 }),
      idleOhms: figure(1500, "ohm", "the unit itself: (15 V at 10 mA)", { origin: "from memory", tolerance: 0.2 }),
      tripAmps: figure(2, "A", "changes over from", { origin: "from memory" }),
    },
    powerOn: "stays",
  },
  relay(
    "relay-dpdt-9",
    9,
    "across a stall motor's leads, of which it gets some 8 of 12 V: it picks up at reverse, and lends contacts for frog and lamp where the motor has none to spare.",
  ),
  relay(
    "relay-dpdt",
    12,
    "on a supply of 12 V of its own, as behind a key switch; across a stall motor's leads it gets too little to be sure of.",
  ),
  {
    id: "relay-latching",
    name: "Latching relay, two coils, two changeover contacts",
    short: "relay",
    family: "reader",
    model: "latching-relay",
    about:
      "Its two coils lie beside those of a twin-coil motor and take the same pulse; the contacts stay where they were put.",
    place: "layout",
    prefix: "RY",
    terminals: [
      ...terminals({ N: "coil that goes to normal", C: "common of both coils", R: "coil that goes to reverse" }),
      ...contacts(2),
    ],
    outputs: 0,
    contactSets: 2,
    figures: {
      coilOhms: figure(170, "ohm", "one coil", { origin: "from memory", tolerance: 0.1 }),
      pullInVolts: figure(9, "V", "goes over from, for certain", { origin: "from memory", tolerance: 0.035 }),
      operateSeconds: figure(0.005, "s", "that long the volts have to last", { origin: "from memory", tolerance: 0.4 }),
      contactOhms: CONTACT_OHMS,
      contactAmps: figure(2, "A", "rating of a contact", { origin: "from memory" }),
    },
  },
];
