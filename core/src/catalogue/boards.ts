import {
  CONTACT_OHMS,
  contacts,
  type DeviceType,
  type Figure,
  figure,
  numbered,
  type OutputKind,
  type Setting,
  type Terminal,
  terminals,
} from "./deviceType.ts";

const POWER = { "+": "supply in", "−": "supply in, 0 V" };
const TRACK = { J: "track bus", K: "track bus" };
const BUS = { H: "control bus, high", L: "control bus, low" };

/** Terminals of one numbered output, by what it gives. */
const OUTPUT: Record<OutputKind, (way: number, of: string) => Record<string, string>> = {
  pair: (way, of) => ({ [`${way}A`]: `${of}, positive at normal`, [`${way}B`]: `${of}, other lead` }),
  coil: (way, of) => ({
    [`${way}N`]: `${of}, normal coil`,
    [`${way}C`]: `${of}, common`,
    [`${way}R`]: `${of}, reverse coil`,
  }),
  servo: (way, of) => ({ [`${way}S`]: `${of}, signal`, [`${way}+`]: `${of}, 5 V`, [`${way}−`]: `${of}, 0 V` }),
  contact: (way) => ({
    [`S${way}c`]: `relay ${way}, common`,
    [`S${way}n`]: `relay ${way}, normally closed`,
    [`S${way}r`]: `relay ${way}, normally open`,
  }),
  sink: (way, of) => ({ [`${way}L`]: `${of}, to 0 V when on` }),
};

function outputTerminals(kind: OutputKind, count: number): Terminal[] {
  return numbered(count).flatMap((way) => terminals(OUTPUT[kind](way, `output ${way}`)));
}

/** Inputs beside each output, by which a control asks for a position. */
function ownInputs(count: number): Terminal[] {
  return [
    ...terminals({ "0": "common of the inputs, 0 V" }),
    ...numbered(count).flatMap((way) =>
      terminals({
        [`I${way}N`]: `input ${way}, asks for normal`,
        [`I${way}R`]: `input ${way}, asks for reverse`,
        [`I${way}T`]: `input ${way}, asks for the other position`,
      }),
    ),
  ];
}

const INPUT_FIGURES = {
  pullOhms: figure(10_000, "ohm", "resistor that holds an open input high", { origin: "from memory", tolerance: 0.05 }),
  inputVolts: figure(5, "V", "an open input stands at", { tolerance: 0.05 }),
  thresholdVolts: figure(1.5, "V", "an input counts as closed below", { origin: "from memory" }),
};

const board = (idle: number, least: number, most: number): Record<string, Figure> => ({
  idleOhms: figure(idle, "ohm", "the board itself, as a resistance across its supply", {
    origin: "from memory",
    tolerance: 0.2,
  }),
  leastVolts: figure(least, "V", "supply from"),
  mostVolts: figure(most, "V", "supply to"),
});

const ON_TRACK = {
  commandOhms: figure(100_000, "ohm", "load of the command input on the track bus", { origin: "from memory" }),
  factoryAddress: figure(1, "", "address of output 1 as bought", { min: 1, max: 2040 }),
};

const PAIR = {
  outputOhms: figure(120, "ohm", "inside resistance of an output: (12 V open, 10.2 V at 15 mA)", {
    origin: "derived",
    tolerance: 0.1,
  }),
  outputAmps: figure(0.04, "A", "most from one output"),
};

const COIL = {
  farads: figure(3300e-6, "F", "capacitor that gives the pulses", { origin: "from memory", tolerance: 0.2 }),
  chargeOhms: figure(47, "ohm", "charging resistor", { origin: "from memory", tolerance: 0.05 }),
  bleedOhms: figure(10_000, "ohm", "leakage across the capacitor", { origin: "from memory", tolerance: 0.2 }),
  seriesOhms: figure(0.05, "ohm", "inside resistance of the capacitor", { origin: "from memory" }),
  switchOhms: figure(0.2, "ohm", "inside resistance of an output that is on", { origin: "from memory" }),
  outputAmps: figure(6, "A", "most from one output, for the length of a pulse", { origin: "from memory" }),
};

const SERVO = {
  signalVolts: figure(5, "V", "height of a pulse"),
  normalSeconds: figure(0.0012, "s", "pulse at normal", { min: 0.0005, max: 0.0025 }),
  reverseSeconds: figure(0.0018, "s", "pulse at reverse", { min: 0.0005, max: 0.0025 }),
  frameSeconds: figure(0.02, "s", "from pulse to pulse"),
  signalOhms: figure(220, "ohm", "inside resistance of a signal output", { origin: "from memory" }),
  regulatorVolts: figure(5, "V", "for the servos", { min: 4.8, max: 6 }),
  outputOhms: figure(0.1, "ohm", "inside resistance of the 5 V at an output", { origin: "from memory" }),
  outputAmps: figure(1, "A", "most from one output", { origin: "from memory" }),
  boardAmps: figure(2, "A", "most from all outputs together"),
};

const SERVO_SETTINGS: readonly Setting[] = [
  {
    name: "normal end",
    about: "where the horn stands at normal; set narrow first, then widen",
    factory: "1.2 ms",
    range: "0.5 to 2.5 ms",
  },
  {
    name: "reverse end",
    about: "where the horn stands at reverse; jitter means that it lies beyond what the blades allow",
    factory: "1.8 ms",
    range: "0.5 to 2.5 ms",
  },
  { name: "speed", about: "1 slow, 9 fast", factory: "5", range: "1 to 9" },
];

const ADDRESS: Setting = { name: "address", about: "of output 1; the others follow", factory: "1", range: "1 to 2040" };

type Given = Pick<DeviceType, "id" | "name" | "short" | "about" | "prefix" | "figures"> & Partial<DeviceType>;

/** A board under the layout, its terminals from what it gives, hears and reads. */
function made(given: Given, power: Record<string, string>): DeviceType {
  const { drives, outputs = 0, inputs = 0, hears } = given;
  const commands = hears === "track" ? TRACK : hears === "bus" ? BUS : {};
  return {
    family: "driver",
    model: "board",
    place: "layout",
    contactSets: 0,
    terminals: [
      ...terminals({ ...commands, ...power }),
      ...(given.ownInputs ? ownInputs(outputs) : []),
      ...(inputs > 0 ? terminals({ "0": "common of the inputs, 0 V" }) : []),
      ...numbered(inputs).flatMap((way) => terminals({ [`I${way}`]: `input ${way}` })),
      ...(drives ? outputTerminals(drives, outputs) : []),
    ],
    ...given,
    outputs,
  };
}

const COIL_CAUTION =
  "Its pulses carry amps: never join a lamp or a stall motor to a coil output. The board stores energy: discharge it before working on it.";

function relayBoard(relays: number): DeviceType {
  const many = relays > 1;
  return {
    id: `relay-board-${relays}`,
    name: many
      ? `Relay board, ${["", "", "two", "", "four", "", "", "", "eight"][relays]} relays`
      : "Relay board, one relay",
    short: "relays",
    family: "driver",
    model: "board",
    about:
      "Changeover relays for a controller's pins, active low: a relay picks up when its pin goes to 0 V. With the jumper on, the controller's own 5 V feeds the coils; take it off and feed RV for more than three.",
    place: "layout",
    prefix: "RB",
    terminals: [
      ...terminals({ "+": "5 V of the controller", "−": "0 V", RV: "supply of the relays" }),
      ...numbered(relays).flatMap((way) => terminals({ [`IN${way}`]: `input of relay ${way}, active low` })),
      ...outputTerminals("contact", relays),
    ],
    outputs: relays,
    contactSets: relays,
    drives: "contact",
    hears: "pins",
    figures: {
      inputOhms: figure(1000, "ohm", "resistor before the input's optocoupler", {
        origin: "from memory",
        tolerance: 0.05,
      }),
      inputDrop: figure(1.2, "V", "forward voltage of the optocoupler", { origin: "from memory" }),
      onAmps: figure(0.001, "A", "an input switches on from", { origin: "from memory" }),
      coilOhms: figure(69, "ohm", "coil of a relay: (5 V at 72 mA)", { origin: "derived", tolerance: 0.1 }),
      pullInVolts: figure(3.75, "V", "a relay picks up from", { origin: "from memory" }),
      dropOutVolts: figure(0.5, "V", "a relay drops out below", { origin: "from memory" }),
      contactOhms: CONTACT_OHMS,
      leastVolts: figure(4.5, "V", "supply from"),
      mostVolts: figure(5.5, "V", "supply to"),
      contactAmps: figure(10, "A", "rating of a contact", { origin: "from memory" }),
    },
    powerOn: "off",
    caution:
      "Relays that drop out when power goes put frog and blades in conflict while the blades lie reverse. Low-voltage circuits only: nothing on the mains side.",
  };
}

export const BOARDS: readonly DeviceType[] = [
  made(
    {
      id: "stall-decoder-8",
      name: "Accessory decoder, eight stall-motor outputs",
      short: "decoder",
      about: "Eight outputs for stall motors, each with its own address. Commands come through the track in any case.",
      prefix: "D",
      drives: "pair",
      outputs: 8,
      hears: "track",
      figures: {
        ...PAIR,
        ...board(600, 9, 15),
        boardAmps: figure(0.32, "A", "most from all outputs together", { origin: "derived" }),
        ...ON_TRACK,
      },
      settings: [
        ADDRESS,
        {
          name: "sense",
          about: "exchanges normal and reverse of an output",
          factory: "as drawn",
          range: "as drawn or reversed",
        },
      ],
      powerOn: "stays",
    },
    POWER,
  ),
  made(
    {
      id: "coil-decoder-4",
      name: "Accessory decoder, four twin-coil outputs",
      short: "decoder",
      about: "Pulses twin-coil motors from its own capacitor, one at a time.",
      prefix: "D",
      drives: "coil",
      outputs: 4,
      hears: "track",
      figures: { ...COIL, ...board(600, 12, 22), ...ON_TRACK },
      settings: [ADDRESS, { name: "pulse", about: "length of a pulse", factory: "100 ms", range: "50 to 500 ms" }],
      powerOn: "stays",
      caution: COIL_CAUTION,
    },
    POWER,
  ),
  made(
    {
      id: "servo-decoder-4",
      name: "Accessory decoder, four servo outputs",
      short: "decoder",
      about: "Drives four servos; end points and speed are set in the decoder.",
      prefix: "D",
      drives: "servo",
      outputs: 4,
      hears: "track",
      figures: { ...SERVO, ...board(600, 9, 15), ...ON_TRACK },
      settings: [ADDRESS, ...SERVO_SETTINGS],
      powerOn: "stays",
    },
    POWER,
  ),
  made(
    {
      id: "input-decoder-4",
      name: "Accessory decoder, four stall-motor outputs with inputs",
      short: "decoder",
      about: "Each output is commanded by its address or by buttons, a toggle or a detector at its own inputs.",
      prefix: "D",
      drives: "pair",
      outputs: 4,
      hears: "track",
      ownInputs: true,
      figures: {
        ...PAIR,
        ...board(600, 9, 25),
        boardAmps: figure(0.16, "A", "most from all outputs together", { origin: "derived" }),
        ...INPUT_FIGURES,
        ...ON_TRACK,
      },
      settings: [
        ADDRESS,
        {
          name: "inputs",
          about: "what an input does: asks for normal, for reverse, or for the other position",
          factory: "normal and reverse",
          range: "by input",
        },
      ],
      powerOn: "stays",
    },
    POWER,
  ),
  made(
    {
      id: "dual-control-board",
      name: "Dual-control board, one stall motor",
      short: "dual",
      about:
        "One stall motor commanded both by an accessory address and by momentary toggles, at the panel and at the dispatcher.",
      prefix: "DB",
      drives: "pair",
      outputs: 1,
      hears: "track",
      ownInputs: true,
      figures: { ...PAIR, ...board(800, 9, 15), ...INPUT_FIGURES, ...ON_TRACK },
      settings: [ADDRESS],
      powerOn: "stays",
    },
    POWER,
  ),
  made(
    {
      id: "servo-board-4",
      name: "Servo board, four outputs with inputs",
      short: "servos",
      about: "Drives four servos from toggles, buttons or the outputs of a decoder; end points are set on the board.",
      prefix: "SB",
      drives: "servo",
      outputs: 4,
      ownInputs: true,
      figures: { ...SERVO, ...board(600, 9, 25), ...INPUT_FIGURES },
      settings: SERVO_SETTINGS,
      powerOn: "stays",
    },
    POWER,
  ),
  ...[1, 2, 4, 8].map(relayBoard),
  {
    id: "controller",
    name: "Microcontroller board",
    short: "controller",
    family: "driver",
    model: "controller",
    about:
      "Sets its pins by a program of the owner's, so that relays follow the turnouts. Pins float until the program has begun.",
    place: "layout",
    prefix: "MC",
    terminals: [
      ...terminals({ "+": "7 to 12 V in", "−": "0 V", "5V": "5 V out" }),
      ...numbered(16).flatMap((pin) => terminals({ [`P${pin}`]: `pin ${pin}` })),
    ],
    outputs: 0,
    contactSets: 0,
    figures: {
      idleOhms: figure(100, "ohm", "the board itself, on its 5 V: (5 V at 50 mA)", { tolerance: 0.2 }),
      regulatorVolts: figure(5, "V", "of its own regulator", { min: 4.5, max: 5.5 }),
      railOhms: figure(0.2, "ohm", "inside resistance of the 5 V out", { origin: "from memory" }),
      boardAmps: figure(0.25, "A", "most from the 5 V out: three relays and their inputs"),
      pinOhms: figure(30, "ohm", "inside resistance of a pin", { origin: "from memory" }),
      leastVolts: figure(7, "V", "supply from"),
      mostVolts: figure(12.5, "V", "supply to"),
    },
    settings: [
      {
        name: "start",
        about: "the program writes all pins high before it makes them outputs",
        factory: "pins float",
        range: "float or high first",
      },
    ],
    powerOn: "off",
  },
  made(
    {
      id: "output-node-8",
      name: "Output node, eight stall-motor outputs",
      short: "node",
      about: "On the control bus: consumes the events it was taught and drives stall motors.",
      prefix: "ON",
      drives: "pair",
      outputs: 8,
      hears: "bus",
      figures: {
        ...PAIR,
        ...board(400, 9, 15),
        boardAmps: figure(0.32, "A", "most from all outputs together", { origin: "derived" }),
      },
      settings: [{ name: "node number", about: "of this node alone", factory: "none", range: "1 to 65535" }],
      powerOn: "stays",
    },
    POWER,
  ),
  made(
    {
      id: "output-node-16",
      name: "Output node, sixteen outputs to 0 V",
      short: "node",
      about: "On the control bus: sixteen outputs that pull down to 0 V, for lamps with a common plus.",
      prefix: "ON",
      drives: "sink",
      outputs: 16,
      hears: "bus",
      figures: {
        outputOhms: figure(2, "ohm", "inside resistance of an output that is on", { origin: "from memory" }),
        outputAmps: figure(0.1, "A", "most from one output", { origin: "from memory" }),
        ...board(400, 9, 15),
      },
      settings: [{ name: "node number", about: "of this node alone", factory: "none", range: "1 to 65535" }],
      powerOn: "off",
    },
    POWER,
  ),
  made(
    {
      id: "servo-node-8",
      name: "Servo node, eight outputs",
      short: "node",
      about: "On the control bus: eight servos, each taught the events that move it.",
      prefix: "SN",
      drives: "servo",
      outputs: 8,
      hears: "bus",
      figures: { ...SERVO, ...board(600, 9, 15) },
      settings: [
        { name: "node number", about: "of this node alone", factory: "none", range: "1 to 65535" },
        ...SERVO_SETTINGS,
      ],
      powerOn: "stays",
    },
    POWER,
  ),
  made(
    {
      id: "reverser-coil",
      name: "Automatic reverser with twin-coil output",
      short: "reverser",
      about: "Feeds a loop with the right polarity and throws a twin-coil turnout ahead of the train.",
      prefix: "LR",
      model: "reverser",
      drives: "coil",
      outputs: 1,
      hears: "track",
      figures: { ...COIL, ...board(600, 12, 22), commandOhms: ON_TRACK.commandOhms, contactOhms: CONTACT_OHMS },
      powerOn: "normal",
      caution: COIL_CAUTION,
    },
    { ...POWER, A: "loop, one rail", B: "loop, other rail" },
  ),
  made(
    {
      id: "reverser-stall",
      name: "Automatic reverser with stall-motor output",
      short: "reverser",
      about: "Feeds a loop with the right polarity and throws a stall-motor turnout ahead of the train.",
      prefix: "LR",
      model: "reverser",
      drives: "pair",
      outputs: 1,
      hears: "track",
      figures: { ...PAIR, ...board(600, 9, 22), commandOhms: ON_TRACK.commandOhms, contactOhms: CONTACT_OHMS },
      powerOn: "normal",
    },
    { ...POWER, A: "loop, one rail", B: "loop, other rail" },
  ),
  made(
    {
      id: "reverser",
      name: "Automatic reverser, plain",
      short: "reverser",
      about: "Feeds a loop or wye with the right polarity; throws no turnout.",
      prefix: "LR",
      model: "reverser",
      hears: "track",
      figures: { ...board(600, 9, 22), commandOhms: ON_TRACK.commandOhms, contactOhms: CONTACT_OHMS },
      powerOn: "normal",
    },
    { ...POWER, A: "loop, one rail", B: "loop, other rail" },
  ),
];

const HOLD: Setting = {
  name: "release",
  about: "time from the train's leaving to the output's release",
  factory: "2 s",
  range: "0.5 to 10 s",
};

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
      settings: [{ name: "node number", about: "of this node alone", factory: "none", range: "1 to 65535" }],
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
      settings: [{ name: "start number", about: "of input 1; the others follow", factory: "1", range: "1 to 2033" }],
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
      outputOhms: figure(50, "ohm", "an output that is on", { origin: "from memory" }),
      outputAmps: figure(0.05, "A", "most through one output", { origin: "from memory" }),
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
  {
    id: "relay-dpdt",
    name: "Relay, 12 V coil, two changeover contacts",
    short: "relay",
    family: "reader",
    model: "relay",
    about:
      "Its coil, with a diode, lies across a stall motor's leads and picks up at reverse: contacts for frog and lamp where the motor has none to spare.",
    place: "layout",
    prefix: "RY",
    terminals: [...terminals({ A1: "coil, plus at reverse", A2: "coil, other end" }), ...contacts(2)],
    outputs: 0,
    contactSets: 2,
    figures: {
      coilOhms: figure(720, "ohm", "coil: (12 V at 17 mA)", { origin: "from memory", tolerance: 0.1 }),
      pullInVolts: figure(8, "V", "picks up from", { origin: "from memory" }),
      dropOutVolts: figure(1.2, "V", "drops out below", { origin: "from memory" }),
      contactOhms: CONTACT_OHMS,
      contactAmps: figure(5, "A", "rating of a contact", { origin: "from memory" }),
      ratedAmps: figure(0.017, "A", "current of the coil", { origin: "from memory" }),
    },
  },
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
      pullInVolts: figure(9, "V", "goes over from", { origin: "from memory" }),
      contactOhms: CONTACT_OHMS,
      contactAmps: figure(2, "A", "rating of a contact", { origin: "from memory" }),
    },
  },
];
