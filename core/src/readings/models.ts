import { type DeviceType, type Model, numbered, type OutputKind } from "../catalogue/deviceType.ts";
import { sourceOf } from "../catalogue/source.ts";
import { traitsOf } from "../catalogue/traits.ts";
import { type DevicePart, type DeviceState, Kit, OPEN_OHMS, type Part } from "./kit.ts";

/**
 * Circuit elements of one device in one state. Nodes are `deviceId:terminal`; element ids are `deviceId.part`.
 *
 * Which elements there are and where they are joined is the same in all states of a device, so that all states of a
 * circuit share one order of elimination; what differs is whether contacts are closed. Alternating supplies stand at
 * their peak in either half cycle.
 */
export function partsOf(deviceId: string, type: DeviceType, state: DeviceState): DevicePart[] {
  return MODELS[type.model](new Kit(deviceId, type, state), state).map((part) => ({ ...part, deviceId }));
}

/** The state without what its type does not depend on, so that like states have one name. */
export function stateThatMatters(type: DeviceType, state: DeviceState): DeviceState {
  const { contactSets } = type;
  const { inTrack, powered, alternating, moving } = traitsOf(type);
  const changesOver = inTrack === "polarity-unit" || (contactSets > 0 && type.drives !== "contact");
  return {
    off: powered && state.off,
    half: alternating ? state.half : 1,
    made: type.family === "control" || type.family === "lock" ? state.made : null,
    contacts: changesOver ? state.contacts : "N",
    moving: moving && state.moving,
    blocked: moving && state.blocked,
    // what a diode board does is done by its parts, whatever is asked
    outputs: type.drives === "matrix" ? NO_OUTPUTS : state.outputs,
    on: state.on,
    standing: state.standing,
    rails: state.rails,
    fedBy: state.fedBy,
    fedVolts: state.fedVolts,
    charged: storesPulse(type) ? state.charged : null,
  };
}

const NO_OUTPUTS: DeviceState["outputs"] = new Map();

/** Whether a device gives pulses from a capacitor. */
export function storesPulse(type: DeviceType): boolean {
  return traitsOf(type).gives === "pulse" || type.drives === "coil";
}

/** Terminal or inner node at which a device's capacitor is charged, against its minus. */
export function storeNode(type: DeviceType): string {
  return traitsOf(type).gives === "pulse" ? "+" : "store";
}

/** A transformer at the peak of a half cycle, its rise by regulation apart from its rated volts, since they spread apart. */
const transformer = (kit: Kit, { half, off }: DeviceState) => {
  const { rise, ohms } = sourceOf(kit.type);
  const peak = off ? 0 : Math.SQRT2 * half;
  return [
    kit.source("emf", "emf", "~2", kit.value("volts") * peak, "volts"),
    kit.source("rise", "open", "emf", rise * peak, "regulation"),
    kit.switch("inside", "open", "~1", !off, ohms, "regulation"),
  ];
};

const toggle = (kit: Kit, { made }: DeviceState) => [
  kit.contact("N", "C", "N", made === "N"),
  kit.contact("R", "C", "R", made === "R"),
];

/** The terminals of one numbered output, by what it gives. */
const OUTPUTS: Record<OutputKind, (kit: Kit, way: number, state: DeviceState) => Part[]> = {
  pair: (kit, way, { off, outputs }) =>
    (["A", "B"] as const).flatMap((side) => {
      const high = !off && (outputs.get(way) === "N") === (side === "A");
      return [
        kit.contact(`${way}${side}+`, "+", `${way}${side}`, high, "outputOhms", 0.5),
        kit.contact(`${way}${side}−`, `${way}${side}`, "−", !off && !high, "outputOhms", 0.5),
      ];
    }),
  coil: (kit, way, { off, outputs, on, charged }) => [
    kit.contact(`${way}C`, "store", `${way}C`, true, "switchOhms", 0.5),
    ...(["N", "R"] as const).map((side) => {
      const pulses = !off && charged !== null && on.has(way) && outputs.get(way) === side;
      return kit.contact(`${way}${side}`, `${way}${side}`, "−", pulses, "switchOhms", 0.5);
    }),
  ],
  servo: (kit, way, { off, outputs }) => {
    const width = kit.value(outputs.get(way) === "R" ? "reverseSeconds" : "normalSeconds");
    // what a meter on DC reads: pulses averaged over the frame
    const average = off ? 0 : (kit.value("signalVolts") * width) / kit.value("frameSeconds");
    return [
      kit.source(`${way}pulses`, `${way}pulses`, "−", average, "signalVolts"),
      kit.resistor(`${way}S`, `${way}pulses`, `${way}S`, "signalOhms"),
      kit.resistor(`${way}+`, "servos", `${way}+`, "outputOhms"),
      kit.link(`${way}−`, `${way}−`, "−"),
    ];
  },
  // relay boards and diode boards are made as a whole
  contact: () => [],
  matrix: () => [],
  sink: (kit, way, { off, on }) => [
    kit.contact(`${way}L`, `${way}L`, `${way}s`, !off && on.has(way), "outputOhms"),
    kit.drop(`${way}drop`, `${way}s`, "−", "sinkVolts"),
  ],
};

/** What drives a board's outputs: the capacitor of coil outputs, the coils of relays. */
const STAGES: Partial<Record<OutputKind, (kit: Kit, state: DeviceState) => Part[]>> = {
  coil: (kit, { off, charged }) => [
    kit.resistor("charge", "+", "store", "chargeOhms"),
    kit.resistor("bleed", "store", "−", "bleedOhms"),
    kit.source("capacitor", "plate", "−", charged ?? 0, null),
    kit.contact("series", "plate", "store", charged !== null && !off, "seriesOhms"),
  ],
  servo: (kit) => [kit.regulator("servos")],
};

/** Each input is held high by a resistor to the board's inner 5 V. */
function inputs(kit: Kit, names: readonly string[], common: string | null): Part[] {
  if (names.length === 0) return [];
  return [
    kit.inner("five", "inputVolts"),
    ...(common ? [kit.link("common", common, "−")] : []),
    ...names.flatMap((name) => pulled(kit, name)),
  ];
}

/** A resistor holds an input high; a diode in its lead lets others pull it down, and nothing push it up. */
function pulled(kit: Kit, name: string): Part[] {
  const inner = inputNode(kit.type, name);
  const pull = kit.resistor(`${name}.pull`, "five", inner, "pullOhms");
  return inner === name ? [pull] : [pull, kit.diode(`${name}.diode`, inner, name)];
}

/** The node at which a board reads an input: its terminal, or behind the diode in its lead. */
export function inputNode({ figures }: DeviceType, name: string): string {
  return figures.inputDiodes?.value ? `${name}d` : name;
}

const board = (kit: Kit, state: DeviceState): Part[] => {
  const { type } = kit;
  const { drives, hears, ownInputs } = type;
  if (hears === "pins") return relayBoard(kit, state);
  const ways = [...state.outputs.keys()];
  const numberedInputs = numbered(type.inputs ?? 0).map((way) => `I${way}`);
  const besides = ownInputs ? ways.flatMap((way) => [`I${way}N`, `I${way}R`, `I${way}T`]) : [];
  return [
    kit.resistor("idle", "+", "−", "idleOhms"),
    ...(hears === "track" ? [kit.resistor("command", "J", "K", "commandOhms"), ...kit.bridge()] : []),
    ...(hears === "bus" ? [kit.leak("high", "H", "−"), kit.leak("low", "L", "−")] : []),
    ...((drives && STAGES[drives]?.(kit, state)) ?? []),
    ...ways.flatMap((way) => (drives ? OUTPUTS[drives](kit, way, state) : [])),
    ...inputs(kit, [...numberedInputs, ...besides], type.terminals.some(({ name }) => name === "0") ? "0" : null),
  ];
};

/** Relays switched by optocouplers, whose LEDs lie between the controller's 5 V and its pins. */
function relayBoard(kit: Kit, { fedBy, on }: DeviceState): Part[] {
  const relays = numbered(kit.type.outputs);
  const [drop, onVolts] = [kit.value("inputDrop"), kit.value("onAmps") * kit.value("inputOhms")];
  return [
    kit.contact("jumper", "+", "RV", fedBy === "none", "contactOhms"),
    ...relays.flatMap((way) => [
      kit.resistor(`${way}.input`, "+", `opto${way}`, "inputOhms"),
      kit.ledOf(`${way}.opto`, `opto${way}`, `IN${way}`, drop, kit.value("onAmps")),
      kit.controlled(`${way}.driver`, `coil${way}`, "−", ["+", `opto${way}`], onVolts),
      kit.resistor(`${way}.coil`, "RV", `coil${way}`, "coilOhms"),
      ...kit.relayContacts(way, on.has(way)),
    ]),
  ];
}

/** What the engines that run at once are to the track, ohms; nearly nothing flows where there are none. */
function enginesOhms(kit: Kit): number {
  const amps = kit.value("engines") * kit.value("engineAmps");
  return amps > 0 ? kit.value("volts") / amps : OPEN_OHMS;
}

const servo = (kit: Kit, { moving, blocked }: DeviceState): Part[] => [
  kit.resistor("motor", "+", "−", moving || blocked ? "movingOhms" : "restOhms", blocked ? kit.stallShare() : 1),
  kit.resistor("signal", "S", "−", "signalOhms"),
  ...kit.contacts(),
];

const lamp = (kit: Kit): Part[] => {
  const [normal, reverse, lead] = kit.type.leads ?? ["G", "Y", "0"];
  const { resistorOhms, commonOhms, diodes } = kit.type.figures;
  const common = commonOhms ? "both" : lead;
  return [
    ...[normal, reverse].flatMap((end, index) => {
      const inner = `${end}a`;
      const led: [string, string] = kit.type.commonPlus ? [common, inner] : [inner, common];
      return [
        resistorOhms
          ? kit.resistor(`${end}.resistor`, end, inner, "resistorOhms")
          : kit.link(`${end}.lead`, end, inner),
        kit.led(end, ...led, index === 0 ? "greenVolts" : "yellowVolts"),
        ...(diodes ? [kit.diode(`${end}.beside`, led[1], led[0])] : []),
      ];
    }),
    ...(commonOhms ? [kit.resistor("common", common, lead, "commonOhms")] : []),
  ];
};

/** Diodes and wires as they lie on it; a terminal without any is there all the same. */
function diodeBoard(kit: Kit): Part[] {
  const { laid = [], terminals } = kit.type;
  const used = new Set(laid.flatMap(({ from, to }) => [from, to]));
  const [first] = terminals;
  return [
    ...laid.map(({ from, to, turned, with: by }) => {
      const part = `${from}_${to}`;
      if (by === "wire") return kit.contact(part, from, to, true);
      return turned ? kit.diode(part, to, from) : kit.diode(part, from, to);
    }),
    ...terminals.flatMap(({ name }) =>
      used.has(name) || !first
        ? []
        : [kit.contact(`${name}.free`, first.name === name ? "apart" : first.name, name, false)],
    ),
  ];
}

const MODELS: Record<Model, (kit: Kit, state: DeviceState) => Part[]> = {
  "twin-coil": (kit) => [kit.coil("N", "N", "C"), kit.coil("R", "R", "C"), ...kit.contacts()],
  "stall-motor": (kit, { moving }) => [
    kit.resistor("motor", "+", "−", moving ? "movingOhms" : "stalledOhms"),
    ...kit.contacts(),
  ],
  servo,
  "decoder-motor": (kit, { moving }) => [kit.resistor("motor", "J", "K", moving ? "movingOhms" : "idleOhms")],
  relay: (kit) => [kit.diode("diode", "A1", "coil"), kit.resistor("coil", "coil", "A2", "coilOhms"), ...kit.contacts()],
  "latching-relay": (kit) => [
    kit.resistor("N", "N", "C", "coilOhms"),
    kit.resistor("R", "R", "C", "coilOhms"),
    ...kit.contacts(),
  ],
  "momentary-toggle": toggle,
  "latching-toggle": toggle,
  "reversing-toggle": (kit, { made }) =>
    ["1", "2"].flatMap((pole) => [
      kit.contact(`${pole}N`, `${pole}C`, `${pole}N`, made === "N"),
      kit.contact(`${pole}R`, `${pole}C`, `${pole}R`, made === "R"),
    ]),
  "push-button": (kit, { made }) => [kit.contact("N", "C", "N", made !== null)],
  "push-poles": (kit, { made }) =>
    numbered(kit.type.poles ?? 0).map((pole) => kit.contact(`${pole}`, `${pole}C`, `${pole}N`, made !== null)),
  rotary: (kit, { made, on }) => {
    // it stands at the position of a route, else at one of its first two, for a single turnout
    const stands = on.size > 0 ? [...on][0] : made === null ? 0 : made === "N" ? 1 : 2;
    return kit
      .numberedTerminals("")
      .map((position) => kit.contact(`${position}`, "C", `${position}`, position === stands));
  },
  "touch-button": (kit, { made }) => [
    kit.resistor("idle", "+", "−", "idleOhms"),
    kit.contact("N", "N", "−", made === "N", "outputOhms"),
    kit.contact("R", "R", "−", made === "R", "outputOhms"),
  ],
  "ac-supply": transformer,
  "dc-supply": (kit) => kit.supply("+", "−", kit.value("volts")),
  "track-bus": (kit, { half, standing }) => [
    ...kit.supply("J", "K", kit.value("volts") * half),
    kit.switch("engines", "J", "K", standing.has(1), enginesOhms(kit), "engineAmps"),
  ],
  "control-bus": (kit, { off }) => [
    kit.source("idle", "idle", "0", off ? 0 : kit.value("idleVolts"), "idleVolts"),
    // the transceivers hold both wires gently
    kit.contact("high", "idle", "H", !off, "holdOhms"),
    kit.contact("low", "idle", "L", !off, "holdOhms"),
    kit.resistor("ends", "H", "L", "endOhms"),
  ],
  cdu: (kit, { off, charged }) => [
    kit.diode("d1", "~1", "bridge"),
    kit.diode("d2", "~2", "bridge"),
    kit.diode("d3", "−", "~1"),
    kit.diode("d4", "−", "~2"),
    kit.resistor("charge", "bridge", "+", "chargeOhms"),
    kit.resistor("bleed", "+", "−", "bleedOhms"),
    kit.source("capacitor", "plate", "−", charged ?? 0, null),
    kit.contact("series", "plate", "+", charged !== null && !off, "seriesOhms"),
  ],
  "diode-board": diodeBoard,
  board,
  reverser: (kit, state) => [
    ...board(kit, state),
    kit.contact("loopA", "J", "A", true),
    kit.contact("loopB", "K", "B", true),
  ],
  controller: (kit, { off, on }) => [
    kit.regulator("five"),
    kit.resistor("idle", "five", "−", "idleOhms"),
    kit.resistor("rail", "five", "5V", "railOhms"),
    ...kit
      .numberedTerminals("P")
      .flatMap((pin) => [
        kit.contact(`P${pin}+`, "5V", `P${pin}`, !off && !on.has(pin), "pinOhms"),
        kit.contact(`P${pin}−`, `P${pin}`, "−", !off && on.has(pin), "pinOhms"),
      ]),
  ],
  detector: (kit, { off, on, standing, rails }) => [
    kit.resistor("idle", "+", "−", "idleOhms"),
    kit.leak("common", "0", "−"),
    ...numbered(kit.type.zones ?? 0).flatMap((zone) => [
      kit.resistor(`${zone}.sense`, `${zone}i`, `${zone}s`, "senseOhms"),
      kit.drop(`${zone}.forth`, `${zone}s`, `${zone}o`, "zoneVolts"),
      kit.drop(`${zone}.back`, `${zone}o`, `${zone}s`, "zoneVolts"),
      kit.contact(`O${zone}`, `O${zone}`, "0", !off && on.has(zone), "outputOhms"),
    ]),
    ...[...rails].map(([zone, rail]) => kit.axle(zone, rail, standing.has(zone))),
  ],
  "spot-sensor": (kit, { off, on }) => [
    kit.resistor("idle", "+", "−", "idleOhms"),
    kit.contact("O1", "O1", "−", !off && on.has(1), "outputOhms"),
  ],
  "polarity-unit": (kit, { contacts }) => [
    kit.resistor("idle", "J", "K", "idleOhms"),
    kit.contact("J", "F", "J", contacts === "N"),
    kit.contact("K", "F", "K", contacts === "R"),
  ],
  "two-colour-lamp": lamp,
  "frog-lamps": lamp,
  "signal-box": (kit) => [
    kit.resistor("idle", "+", "−", "idleOhms"),
    kit.inner("five", "inputVolts"),
    ...pulled(kit, "I"),
  ],
  "key-switch": (kit, { made }) => [kit.contact("N", "C", "N", made !== null)],
  "resistor-board": (kit) =>
    numbered(kit.type.pieces ?? 0).flatMap((piece) => [
      kit.resistor(`${piece}.first`, `${piece}`, `${piece}j`, "firstOhms"),
      kit.resistor(`${piece}.second`, `${piece}j`, "C", "secondOhms"),
    ]),
  frog: (kit) => [kit.resistor("left", "F", "L", "leakOhms"), kit.resistor("right", "F", "R", "leakOhms")],
  unwired: () => [],
};
