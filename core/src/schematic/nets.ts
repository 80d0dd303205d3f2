import type { WireColour } from "../units/wireColours.ts";

/** A terminal of a device. */
export interface End {
  deviceId: string;
  terminal: string;
}

/** What a net is for; decides its colour, and whether a meter reads it as AC. */
export type Purpose =
  | "ac-1"
  | "ac-2"
  | "dc-plus"
  | "dc-zero"
  | "track-j"
  | "track-k"
  | "pulse-plus"
  | "pulse-return"
  | "to-normal"
  | "to-reverse"
  | "lamp-normal"
  | "lamp-reverse"
  | "lamp-common"
  | "sensor"
  | "lock"
  | "ask-normal"
  | "ask-reverse"
  | "ask-other"
  | "frog"
  | "servo-signal"
  | "bus-high"
  | "bus-low"
  | "pin";

/** The railway's colour dictionary: one colour, one meaning. */
export const PURPOSES: Record<Purpose, { about: string; colour: WireColour }> = {
  "ac-1": { about: "AC supply", colour: "BN" },
  "ac-2": { about: "AC supply, other side", colour: "GY" },
  "dc-plus": { about: "plus of a DC supply", colour: "RD" },
  "dc-zero": { about: "0 V of a DC supply", colour: "BK" },
  "track-j": { about: "track bus J", colour: "PK" },
  "track-k": { about: "track bus K", colour: "TQ" },
  "pulse-plus": { about: "pulse to the controls", colour: "VT" },
  "pulse-return": { about: "common return of the coils", colour: "WH" },
  "to-normal": { about: "throws to normal", colour: "BU" },
  "to-reverse": { about: "throws to reverse", colour: "OG" },
  "lamp-normal": { about: "lamp at normal", colour: "GN" },
  "lamp-reverse": { about: "lamp at reverse", colour: "YE" },
  "lamp-common": { about: "common of a lamp, before its resistors", colour: "WHBK" },
  sensor: { about: "what a sensor at the throw bar tells", colour: "WHPK" },
  lock: { about: "lock-out of controls", colour: "WHTQ" },
  "ask-normal": { about: "input that asks for normal", colour: "WHBU" },
  "ask-reverse": { about: "input that asks for reverse", colour: "WHOG" },
  "ask-other": { about: "input that asks for the other position", colour: "WHVT" },
  frog: { about: "frog", colour: "WHRD" },
  "servo-signal": { about: "signal of a servo", colour: "WHYE" },
  "bus-high": { about: "control bus, high", colour: "WHGN" },
  "bus-low": { about: "control bus, low", colour: "WHBN" },
  pin: { about: "pin of a controller", colour: "WHGY" },
};

/** Terminals that are joined by wire. `ends` are in the order in which the wire visits them. */
export interface Net {
  purpose: Purpose;
  ends: (End & { turnoutId: string | null })[];
}

/** A numbered output, input, zone or pole as it is written, as "D1-3"; the device alone when it has no number. */
export function wayName(label: string, way: number | null): string {
  return way === null ? label : `${label}-${way}`;
}

/**
 * What is written beside a device's terminal.
 * @example terminalName("D1", "2A") // "D1-2A"
 * @example terminalName("CD1", "+") // "CD1+"
 */
export function terminalName(label: string, terminal: string): string {
  return /^[+−~]/.test(terminal) ? `${label}${terminal}` : `${label}-${terminal}`;
}

/** A terminal's name within the circuit. */
export function endKey(end: End): string {
  return `${end.deviceId}:${end.terminal}`;
}

/** Collects joins between terminals and merges those that share one. */
export class Joiner {
  private readonly nets: Net[] = [];
  private readonly netOf = new Map<string, Net>();

  /** Joins terminals in the given order for a turnout, or for no single one (null). The first join of a net names its purpose. */
  join(purpose: Purpose, turnoutId: string | null, ends: readonly End[]): void {
    const keys = ends.map(endKey);
    let net: Net | undefined;
    for (const key of keys) {
      net = this.netOf.get(key);
      if (net) break;
    }
    if (!net) {
      net = { purpose, ends: [] };
      this.nets.push(net);
    }
    for (let index = 0; index < ends.length; index++) {
      const key = keys[index] as string;
      const other = this.netOf.get(key);
      if (other === net) continue;
      if (other) this.merge(net, other);
      else {
        const { deviceId, terminal } = ends[index] as End;
        net.ends.push({ deviceId, terminal, turnoutId });
        this.netOf.set(key, net);
      }
    }
  }

  /** The nets with at least two terminals, in the order of their first join. */
  result(): Net[] {
    return this.nets.filter((net) => net.ends.length > 1);
  }

  private merge(net: Net, other: Net): void {
    net.ends.push(...other.ends);
    for (const end of other.ends) this.netOf.set(endKey(end), net);
    this.nets.splice(this.nets.indexOf(other), 1);
  }
}
