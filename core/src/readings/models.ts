import { figureValue } from "../catalogue/catalogue.ts";
import type { DeviceType, Model } from "../catalogue/deviceType.ts";
import { type Element, ledModel, RECTIFIER } from "../circuit/elements.ts";
import type { Position } from "../record/schemas.ts";

/** Resistance of an open contact: what insulation and a damp panel leave, ohms (common practice). */
export const OPEN_OHMS = 1e9;
/** Current at which the lamp's forward voltages are stated, amps. */
const LAMP_TEST_AMPS = 0.01;

/** What a device's elements depend on besides its type. */
export interface DeviceState {
  /** Supplies and capacitors switched off, as for measuring ohms. */
  off: boolean;
  /** Half cycle of alternating supplies and of the track bus. */
  half: 1 | -1;
  /** Side on which the control is made, null at the centre. */
  made: Position | null;
  /** Side on which a motor's contacts are made. */
  contacts: Position;
  /** The motor is on its way. */
  moving: boolean;
  /** Asked position of each numbered output in use. */
  outputs: ReadonlyMap<number, Position>;
  /** Volts held by the capacitor in the first instant of a pulse; null in a steady state. */
  charged: number | null;
}

/** One element of a device, and the figure from whose tolerance its value differs between single pieces. */
export interface Part {
  element: Element;
  figure: string | null;
}

/**
 * Circuit elements of one device in one state. Nodes are `deviceId:terminal`; element ids are `deviceId.part`.
 *
 * Which elements there are and where they are joined is the same in all states of a device, so that all states of a
 * circuit share one order of elimination; what differs is whether contacts are closed. Alternating supplies stand at
 * their peak in either half cycle.
 */
export function partsOf(deviceId: string, type: DeviceType, state: DeviceState): Part[] {
  return MODELS[type.model](new Kit(deviceId, type, state), state);
}

/** The state without what its type does not depend on, so that like states have one name. */
export function stateThatMatters(type: DeviceType, state: DeviceState): DeviceState {
  const { model, contactSets } = type;
  const powered = ["ac-supply", "dc-supply", "track-bus", "cdu", "stall-decoder"].includes(model);
  return {
    off: powered && state.off,
    half: model === "ac-supply" || model === "track-bus" ? state.half : 1,
    made: state.made,
    contacts: contactSets > 0 ? state.contacts : "N",
    moving: model === "stall-motor" && state.moving,
    outputs: state.outputs,
    charged: model === "cdu" ? state.charged : null,
  };
}

/** Makes the elements of one device from its figures. */
class Kit {
  constructor(
    private readonly deviceId: string,
    readonly type: DeviceType,
    private readonly state: DeviceState,
  ) {}

  value(figure: string): number {
    return figureValue(this.type, figure);
  }

  resistor(part: string, a: string, b: string, figure: string, share = 1): Part {
    return { element: { kind: "resistor", ...this.base(part, a, b), ohms: this.value(figure) * share }, figure };
  }

  /** A contact or transistor: its figure when closed, nearly nothing when open. */
  contact(part: string, a: string, b: string, closed: boolean, figure = "contactOhms", share = 1): Part {
    const onOhms = this.value(figure) * share;
    return { element: { kind: "switch", ...this.base(part, a, b), closed, onOhms, offOhms: OPEN_OHMS }, figure };
  }

  /** Changeover contacts of a motor, set by set. */
  contacts(): Part[] {
    return Array.from({ length: this.type.contactSets }, (_, index) => index + 1).flatMap((set) => [
      this.contact(`S${set}n`, `S${set}c`, `S${set}n`, this.state.contacts === "N"),
      this.contact(`S${set}r`, `S${set}c`, `S${set}r`, this.state.contacts === "R"),
    ]);
  }

  coil(part: string, a: string, b: string): Part {
    const [henries, ohms] = [this.value("coilHenries"), this.value("coilOhms")];
    return { element: { kind: "coil", ...this.base(part, a, b), henries, ohms }, figure: "coilOhms" };
  }

  /** A source behind its inside resistance, which is open while the supply is off. */
  supply(plus: string, minus: string, volts: number): Part[] {
    return [
      this.source("emf", "emf", minus, this.state.off ? 0 : volts, "volts"),
      this.contact("inside", "emf", plus, !this.state.off, "insideOhms"),
    ];
  }

  source(part: string, plus: string, minus: string, volts: number, figure: string | null): Part {
    return { element: { kind: "voltage", ...this.base(part, plus, minus), volts }, figure };
  }

  diode(part: string, anode: string, cathode: string): Part {
    return { element: { kind: "diode", ...this.base(part, anode, cathode), model: RECTIFIER }, figure: null };
  }

  led(part: string, anode: string, cathode: string, figure: string): Part {
    const model = ledModel(this.value(figure), LAMP_TEST_AMPS);
    return { element: { kind: "diode", ...this.base(part, anode, cathode), model }, figure: null };
  }

  private base(part: string, a: string, b: string): { id: string; nodes: [string, string] } {
    return { id: `${this.deviceId}.${part}`, nodes: [`${this.deviceId}:${a}`, `${this.deviceId}:${b}`] };
  }
}

const toggle = (kit: Kit, { made }: DeviceState) => [
  kit.contact("N", "C", "N", made === "N"),
  kit.contact("R", "C", "R", made === "R"),
];

const MODELS: Record<Model, (kit: Kit, state: DeviceState) => Part[]> = {
  "twin-coil": (kit) => [kit.coil("N", "N", "C"), kit.coil("R", "R", "C"), ...kit.contacts()],
  "stall-motor": (kit, { moving }) => [
    kit.resistor("motor", "+", "−", moving ? "movingOhms" : "stalledOhms"),
    ...kit.contacts(),
  ],
  "momentary-toggle": toggle,
  "latching-toggle": toggle,
  "ac-supply": (kit, { half }) => kit.supply("~1", "~2", kit.value("volts") * Math.SQRT2 * half),
  "dc-supply": (kit) => kit.supply("+", "−", kit.value("volts")),
  "track-bus": (kit, { half }) => kit.supply("J", "K", kit.value("volts") * half),
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
  "stall-decoder": (kit, { off, outputs }) => [
    kit.resistor("idle", "+", "−", "idleOhms"),
    kit.resistor("command", "J", "K", "commandOhms"),
    ...[...outputs].flatMap(([way, asked]) =>
      (["A", "B"] as const).flatMap((side) => {
        const high = !off && (asked === "N") === (side === "A");
        return [
          kit.contact(`${way}${side}+`, "+", `${way}${side}`, high, "outputOhms", 0.5),
          kit.contact(`${way}${side}−`, `${way}${side}`, "−", !off && !high, "outputOhms", 0.5),
        ];
      }),
    ),
  ],
  "two-colour-lamp": (kit) =>
    (["G", "Y"] as const).flatMap((colour) => [
      kit.resistor(`${colour}.resistor`, colour, `${colour}a`, "resistorOhms"),
      kit.led(colour, `${colour}a`, "0", colour === "G" ? "greenVolts" : "yellowVolts"),
    ]),
};
