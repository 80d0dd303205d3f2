import { figureValue } from "../catalogue/catalogue.ts";
import type { DeviceType } from "../catalogue/deviceType.ts";
import { type Element, ledModel, RECTIFIER } from "../circuit/elements.ts";
import type { Position } from "../record/schemas.ts";

/** Resistance of an open contact: what insulation and a damp panel leave, ohms (common practice). */
const OPEN_OHMS = 1e9;
/** Current at which the lamp's forward voltages are stated, amps. */
const LAMP_TEST_AMPS = 0.01;

/** What a device's elements depend on besides its type. */
export interface DeviceState {
  /** Supplies and capacitors switched off, as for measuring ohms. */
  off: boolean;
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
  /** Share by which a named figure is changed, for tolerances. */
  tweak: (figure: string) => number;
}

/**
 * Circuit elements of one device in one state. Nodes are `deviceId:terminal`; element ids are `deviceId.part`.
 *
 * Alternating supplies stand at their positive peak; inductance plays no part in an operating point.
 */
export function elementsOf(deviceId: string, type: DeviceType, state: DeviceState): Element[] {
  const value = (name: string) => figureValue(type, name) * state.tweak(name);
  const node = (terminal: string) => `${deviceId}:${terminal}`;
  const resistor = (part: string, a: string, b: string, ohms: number): Element => {
    return { kind: "resistor", id: `${deviceId}.${part}`, nodes: [node(a), node(b)], ohms };
  };
  const source = (part: string, a: string, b: string, volts: number): Element => {
    return { kind: "voltage", id: `${deviceId}.${part}`, nodes: [node(a), node(b)], volts };
  };
  const contact = (part: string, a: string, b: string, closed: boolean) =>
    resistor(part, a, b, closed ? value("contactOhms") : OPEN_OHMS);
  const contacts = () =>
    Array.from({ length: type.contactSets }, (_, index) => index + 1).flatMap((set) => [
      contact(`S${set}n`, `S${set}c`, `S${set}n`, state.contacts === "N"),
      contact(`S${set}r`, `S${set}c`, `S${set}r`, state.contacts === "R"),
    ]);
  const supply = (plus: string, minus: string, volts: number) =>
    state.off ? [] : [source("emf", "emf", minus, volts), resistor("inside", "emf", plus, value("insideOhms"))];

  switch (type.model) {
    case "twin-coil":
      return [resistor("N", "N", "C", value("coilOhms")), resistor("R", "R", "C", value("coilOhms")), ...contacts()];
    case "stall-motor":
      return [resistor("motor", "+", "−", value(state.moving ? "movingOhms" : "stalledOhms")), ...contacts()];
    case "momentary-toggle":
    case "latching-toggle":
      return [contact("N", "C", "N", state.made === "N"), contact("R", "C", "R", state.made === "R")];
    case "ac-supply":
      return supply("~1", "~2", value("volts") * Math.SQRT2);
    case "dc-supply":
      return supply("+", "−", value("volts"));
    case "track-bus":
      return supply("J", "K", value("volts"));
    case "cdu": {
      const diode = (part: string, anode: string, cathode: string): Element => {
        return { kind: "diode", id: `${deviceId}.${part}`, nodes: [node(anode), node(cathode)], model: RECTIFIER };
      };
      const capacitor =
        state.charged === null || state.off
          ? []
          : [source("capacitor", "plate", "−", state.charged), resistor("series", "plate", "+", value("seriesOhms"))];
      return [
        diode("d1", "~1", "bridge"),
        diode("d2", "~2", "bridge"),
        diode("d3", "−", "~1"),
        diode("d4", "−", "~2"),
        resistor("charge", "bridge", "+", value("chargeOhms")),
        resistor("bleed", "+", "−", value("bleedOhms")),
        ...capacitor,
      ];
    }
    case "stall-decoder": {
      const half = value("outputOhms") / 2;
      const bridges = [...state.outputs].flatMap(([way, asked]) => {
        const [high, low] = asked === "N" ? ["A", "B"] : ["B", "A"];
        return [resistor(`${way}+`, "+", `${way}${high}`, half), resistor(`${way}−`, `${way}${low}`, "−", half)];
      });
      return [
        resistor("idle", "+", "−", value("idleOhms")),
        resistor("command", "J", "K", value("commandOhms")),
        ...(state.off ? [] : bridges),
      ];
    }
    case "two-colour-lamp":
      return (["G", "Y"] as const).flatMap((colour): Element[] => [
        resistor(`${colour}.resistor`, colour, `${colour}a`, value("resistorOhms")),
        {
          kind: "diode",
          id: `${deviceId}.${colour}`,
          nodes: [node(`${colour}a`), node("0")],
          model: ledModel(value(colour === "G" ? "greenVolts" : "yellowVolts"), LAMP_TEST_AMPS),
        },
      ]);
  }
}
