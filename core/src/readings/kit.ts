import { figureValue } from "../catalogue/catalogue.ts";
import type { DeviceType } from "../catalogue/deviceType.ts";
import { type Element, ledModel, RECTIFIER, type VoltageSource } from "../circuit/elements.ts";
import type { Position } from "../record/schemas.ts";

/** Resistance of an open contact: what insulation and a damp panel leave, ohms (common practice). */
export const OPEN_OHMS = 1e9;

/** A track on a board, ohms (common practice). */
const LINK_OHMS = 0.01;

/** Between terminals that carry signals only, ohms (common practice). */
const LEAK_OHMS = 1e6;

/** Current at which it is stated what diodes and transistors drop, amps. */
const DROP_TEST_AMPS = 0.1;
/** Current at which the lamp's forward voltages are stated, amps. */
const LAMP_TEST_AMPS = 0.01;

/** How a board gets its power: through its track terminals, from a supply of its own, or not at all. */
export type FedBy = "track" | "own" | "none";

/** What a device's elements depend on besides its type. */
export interface DeviceState {
  /** Supplies and capacitors switched off, as for measuring ohms. */
  off: boolean;
  /** Half cycle of alternating supplies and of the track bus. */
  half: 1 | -1;
  /** Side on which the control is made, null at the centre. */
  made: Position | null;
  /** Side on which a motor's or relay's contacts are made, null half way; of a polarity unit: N joins the frog to J. */
  contacts: Position | null;
  /** The motor is on its way. */
  moving: boolean;
  /** The motor is held against a stop, and takes the most that it can. */
  blocked: boolean;
  /** Asked position of each numbered output in use. */
  outputs: ReadonlyMap<number, Position>;
  /** Outputs that pulse, outputs to 0 V and pins that are on, relays that are picked up, zones that tell a train. */
  on: ReadonlySet<number>;
  /** Zones in which an axle with a resistor stands; 1 of a track bus on which engines run. */
  standing: ReadonlySet<number>;
  /** The terminal of the other rail of each zone that watches a block. */
  rails: ReadonlyMap<number, string>;
  fedBy: FedBy;
  /** What its supply is made to give, volts; 0 without one. */
  fedVolts: number;
  /** Volts held by the capacitor in the first instant of a pulse; null in a steady state. */
  charged: number | null;
}

/** A device that nothing asks anything of. */
export const IDLE: DeviceState = {
  off: false,
  half: 1,
  made: null,
  contacts: "N",
  moving: false,
  blocked: false,
  outputs: new Map(),
  on: new Set(),
  standing: new Set(),
  rails: new Map(),
  fedBy: "own",
  fedVolts: 12,
  charged: null,
};

/** One element of a device, and the figure from whose tolerance its value differs between single pieces. */
export interface Part {
  element: Element;
  figure: string | null;
}

/** A part with the device that it belongs to. */
export interface DevicePart extends Part {
  deviceId: string;
}

/** Makes the elements of one device from its figures. */
export class Kit {
  constructor(
    private readonly deviceId: string,
    readonly type: DeviceType,
    private readonly state: DeviceState,
  ) {}

  value(figure: string): number {
    return figureValue(this.type, figure);
  }

  /** Of what a motor's resistance is while it moves, the share that is left when it is held against a stop. */
  stallShare(): number {
    const { ratedAmps, stalledAmps } = this.type.figures;
    return ratedAmps && stalledAmps ? ratedAmps.value / stalledAmps.value : 1;
  }

  resistor(part: string, a: string, b: string, figure: string, share = 1): Part {
    return { element: { kind: "resistor", ...this.base(part, a, b), ohms: this.value(figure) * share }, figure };
  }

  /** A contact or transistor: its figure when closed, nearly nothing when open. */
  contact(part: string, a: string, b: string, closed: boolean, figure = "contactOhms", share = 1): Part {
    return this.switch(part, a, b, closed, this.value(figure) * share, figure);
  }

  /** The same with ohms that follow from a figure. */
  switch(part: string, a: string, b: string, closed: boolean, onOhms: number, figure: string): Part {
    return { element: { kind: "switch", ...this.base(part, a, b), closed, onOhms, offOhms: OPEN_OHMS }, figure };
  }

  /** An axle with a resistor, between the zone in which it stands and the feed of the other rail. */
  axle(zone: number, rail: string, stands: boolean): Part {
    const { id, nodes } = this.base(`${zone}.axle`, `${zone}o`, "");
    const ohms = { onOhms: this.value("axleOhms"), offOhms: OPEN_OHMS };
    return { element: { kind: "switch", id, nodes: [nodes[0], rail], closed: stands, ...ohms }, figure: "axleOhms" };
  }

  /** Changeover contacts of a motor, set by set. */
  contacts(): Part[] {
    return Array.from({ length: this.type.contactSets }, (_, index) => index + 1).flatMap((set) => [
      this.contact(`S${set}n`, `S${set}c`, `S${set}n`, this.state.contacts === "N"),
      this.contact(`S${set}r`, `S${set}c`, `S${set}r`, this.state.contacts === "R"),
    ]);
  }

  /** Both sides of one set of a relay's contacts. */
  relayContacts(set: number, energised: boolean): Part[] {
    return [
      this.contact(`S${set}n`, `S${set}c`, `S${set}n`, !energised),
      this.contact(`S${set}r`, `S${set}c`, `S${set}r`, energised),
    ];
  }

  /** A transistor that conducts while there are volts across two nodes. */
  controlled(part: string, a: string, b: string, [plus, minus]: [string, string], volts: number): Part {
    const nodes = [`${this.deviceId}:${plus}`, `${this.deviceId}:${minus}`] as const;
    const control = { nodes, onVolts: volts, offVolts: volts / 2 };
    const ohms = { onOhms: this.value("contactOhms"), offOhms: OPEN_OHMS };
    return { element: { kind: "switch", ...this.base(part, a, b), closed: false, ...ohms, control }, figure: null };
  }

  /** Numbers of the terminals that have a name of a prefix and a number. */
  numberedTerminals(prefix: string): number[] {
    return this.type.terminals.flatMap(({ name }) => {
      const number = Number(name.slice(prefix.length));
      return name.startsWith(prefix) && Number.isInteger(number) && number > 0 ? [number] : [];
    });
  }

  /** Two terminals that the board itself joins. */
  link(part: string, a: string, b: string): Part {
    return { element: { kind: "resistor", ...this.base(part, a, b), ohms: LINK_OHMS }, figure: null };
  }

  /** What insulation leaves between two terminals that carry signals only. */
  leak(part: string, a: string, b: string): Part {
    return { element: { kind: "resistor", ...this.base(part, a, b), ohms: LEAK_OHMS }, figure: null };
  }

  ledOf(part: string, anode: string, cathode: string, volts: number, amps: number): Part {
    return {
      element: { kind: "diode", ...this.base(part, anode, cathode), model: ledModel(volts, amps) },
      figure: null,
    };
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

  /** The internal 5 V of inputs and signals, against a board's minus. */
  inner(node: string, volts: string): Part {
    const powered = !this.state.off && this.state.fedBy !== "none";
    return this.source(node, node, "−", powered ? this.value(volts) : 0, volts);
  }

  /** A linear regulator from a board's plus: it holds its output at its volts, and follows its input below that and its drop-out. */
  regulator(to: string): Part {
    const element = this.source("regulator", "+", to, 0, "regulatorVolts").element as VoltageSource;
    if (this.state.off) return { element, figure: null };
    const nodes = [`${this.deviceId}:${to}`, `${this.deviceId}:−`] as const;
    const [volts, dropOut] = [this.value("regulatorVolts"), this.value("regulatorDrop")];
    const begins = Math.max(dropOut, this.state.fedVolts - volts);
    return { element: { ...element, volts: begins, holds: { nodes, volts, dropOut } }, figure: "regulatorVolts" };
  }

  /** Bridge from the track terminals to a board that takes its power there, too. */
  bridge(): Part[] {
    if (this.state.fedBy !== "track") return [];
    return [
      this.diode("d1", "J", "+"),
      this.diode("d2", "K", "+"),
      this.diode("d3", "−", "J"),
      this.diode("d4", "−", "K"),
    ];
  }

  diode(part: string, anode: string, cathode: string): Part {
    return { element: { kind: "diode", ...this.base(part, anode, cathode), model: RECTIFIER }, figure: null };
  }

  led(part: string, anode: string, cathode: string, figure: string): Part {
    const model = ledModel(this.value(figure), LAMP_TEST_AMPS);
    return { element: { kind: "diode", ...this.base(part, anode, cathode), model }, figure };
  }

  /** What drops a figure's volts at a tenth of an amp: one of two diodes back to back in a feed, or a Darlington transistor that is on. */
  drop(part: string, anode: string, cathode: string, figure: string): Part {
    const model = ledModel(this.value(figure), DROP_TEST_AMPS);
    return { element: { kind: "diode", ...this.base(part, anode, cathode), model }, figure };
  }

  private base(part: string, a: string, b: string): { id: string; nodes: [string, string] } {
    return { id: `${this.deviceId}.${part}`, nodes: [`${this.deviceId}:${a}`, `${this.deviceId}:${b}`] };
  }
}
