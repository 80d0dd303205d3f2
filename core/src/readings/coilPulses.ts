import type { DeviceType } from "../catalogue/deviceType.ts";
import type { Element } from "../circuit/elements.ts";
import { Latest } from "../circuit/latest.ts";
import { PulseCircuits, type PulseCurve, type Pulses, pulseCurve, pulseThrough, type Ran } from "./pulse.ts";
import type { RailwayState } from "./states.ts";

/** Pulses that are kept, of some kilobytes each: those of a club's railway and of some edits before. */
const MOST_PULSES = 4_000;

/** Throws that are kept for each element that conducts last: those of a motor by its controls, and of some edits before. */
const MOST_THROUGH = 16;

/** What coils of a railway get when they are thrown. */
export class CoilPulses {
  /** Pulses by the circuit through which they went: an edit that is undone finds them there. */
  private readonly ran: Latest<Ran>;
  /** The same by the elements that conducted, under the last of them: most throws after an edit go through what they went through before. */
  private readonly through: WeakMap<Element, { elements: readonly Element[]; pulses: Pulses }[]>;

  /** Circuits through which pulses are followed that are not known yet. */
  private readonly circuits: PulseCircuits;

  /**
   * @param typeOf the type of a device
   * @param conducting elements that conduct in the first instant of a state in the piece that holds a coil; null where nothing holds it
   * @param previous those of the same railway before an edit
   */
  constructor(
    private readonly typeOf: (deviceId: string) => DeviceType | undefined,
    private readonly conducting: (coil: string, state: RailwayState) => readonly Element[] | null,
    previous?: CoilPulses,
  ) {
    this.ran = previous?.ran ?? new Latest(MOST_PULSES);
    this.circuits = previous?.circuits ?? new PulseCircuits();
    this.through = previous?.through ?? new WeakMap();
  }

  /** What each coil gets that is thrown with one, by its name in the circuit; null where nothing holds it. */
  thrownWith(coil: string, state: RailwayState): Pulses | null {
    const elements = this.conducting(coil, state);
    const last = elements?.at(-1);
    if (!elements || !last) return elements && NONE;
    const known = this.through.get(last) ?? [];
    this.through.set(last, known);
    const same = known.find((each) => isSame(each.elements, elements));
    if (same) return same.pulses;
    const { key, run, named } = pulseThrough(
      elements.map((each) => this.withStore(each)),
      this.moveAmps,
      this.circuits,
    );
    const pulses = named(this.ran.at(key, run));
    known.push({ elements, pulses });
    if (known.length > MOST_THROUGH) known.shift();
    return pulses;
  }

  /** The same from another capacitor. @param farads of all discharge units that take part */
  thrownFrom(farads: number, coil: string, state: RailwayState): Pulses {
    const elements = this.charged(coil, state) ?? [];
    const others = elements.map((each) => (each.kind === "capacitor" ? { ...each, farads } : each));
    const { run, named } = pulseThrough(others, this.moveAmps, this.circuits);
    return named(run());
  }

  /** The pulse through time; null where nothing holds the coil. @param stop seconds that are shown */
  curve(coil: string, state: RailwayState, stop: number): PulseCurve | null {
    const elements = this.charged(coil, state);
    return elements && pulseCurve(elements, stop);
  }

  /** What conducts, with the charged source and contact that stand for a capacitor in its first instant as the capacitor. */
  private charged(coil: string, state: RailwayState): Element[] | null {
    return this.conducting(coil, state)?.map((element) => this.withStore(element)) ?? null;
  }

  private withStore(element: Element): Element {
    const { kind, id, nodes } = element;
    if (kind !== "voltage" || !id.endsWith(STORE)) return element;
    const farads = this.typeOf(ownerOf(id))?.figures.farads?.value ?? 0;
    return { kind: "capacitor", id, nodes, farads, volts: element.volts };
  }

  /** Least current that moves the slug of a coil, by the coil's name. */
  private readonly moveAmps = (id: string): number => this.typeOf(ownerOf(id))?.figures.moveAmps?.value ?? 0;
}

const NONE: Pulses = new Map();

/** Whether two lists hold the same objects. */
function isSame(a: readonly Element[], b: readonly Element[]): boolean {
  return a.length === b.length && a.every((each, index) => each === b[index]);
}

/** End of the name of the source that stands for a device's capacitor. */
const STORE = ".capacitor";

/** The device to which an element belongs. */
const ownerOf = (id: string) => id.slice(0, id.indexOf("."));
