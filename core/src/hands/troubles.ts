import { type DeviceType, numbered } from "../catalogue/deviceType.ts";
import { protectionOf } from "../catalogue/protection.ts";
import { traitsOf } from "../catalogue/traits.ts";
import type { OperatingPoint } from "../circuit/solution.ts";
import type { DeviceState } from "../readings/kit.ts";
import type { Member } from "../readings/piece.ts";

/** What goes wrong electrically in a state. */
export type TroubleKind =
  /** A supply gives more than it shuts down from, or as much as it can. */
  | "short"
  /** A supply gives more than it is rated for. */
  | "supply"
  /** An output gives more than it may. */
  | "output"
  /** A wire carries more than it may for long. */
  | "wire"
  /** A coil is energised for longer than it bears. */
  | "coil"
  /** Both coils of a motor are energised. */
  | "coils"
  /** A lamp takes more than it is rated for. */
  | "lamp"
  /** A contact carries more than it may for long. */
  | "contact"
  /** A resistor turns more into heat than it bears. */
  | "heat"
  /** What is switched off is kept half alive by something else. */
  | "back-feed";

export interface Trouble {
  kind: TroubleKind;
  /** The device, or the name of the wire in the circuit. */
  id: string;
  /** Output of the device, coil of the motor, lead of the lamp, contact, the figure that says what a resistor bears; null for the device as a whole. */
  part: string | null;
  /** Amps that flow, and that may; volts of what is fed back; watts of what is heated. */
  amps: number;
  limit: number;
}

/** A solved state of devices and wires. */
export interface Solved {
  members: readonly Member[];
  states: readonly DeviceState[];
  point: OperatingPoint;
  /** What each wire bears, amps, by its name in the circuit. */
  bears: ReadonlyMap<string, number>;
  /** Factor from a current's peak, in which alternating supplies are solved, to its effective value, by a node it flows at. */
  effective: (node: string) => number;
}

/** Currents that differ by less than this share are the same one. */
const ALIKE = 1e-6;

/** Heat that a coil bears for as long as a finger holds its control, watts (common practice). */
const HELD_WATTS = 2;

/** More than this over a limit is over it. */
const MARGIN = 1 + 1e-6;

/** All that goes wrong in a solved state. */
export function troublesIn({ members, states, point, bears, effective }: Solved): Trouble[] {
  const found: Trouble[] = [];
  const isHeld = isHeldBySomebody(members, states);
  for (const [place, member] of members.entries()) {
    const state = states[place] as DeviceState;
    found.push(...ofSupply(member, point, effective), ...ofOutputs(member, state, point));
    found.push(...ofCoils(member, point, isHeld, effective), ...ofLamp(member, point));
    found.push(...ofContacts(member, point, effective));
  }
  // a supply that shuts down burns no wire
  if (found.some(({ kind }) => kind === "short")) return found.filter(({ kind }) => kind !== "contact");
  for (const [id, limit] of bears) {
    const flows = Math.abs(point.amps(id) ?? 0) * effective(id.slice(0, id.indexOf(">")));
    if (flows > limit * MARGIN) found.push({ kind: "wire", id, part: null, amps: flows, limit });
  }
  return found;
}

/** Whether a finger holds a control that springs back. */
function isHeldBySomebody(members: readonly Member[], states: readonly DeviceState[]): boolean {
  return members.some(({ type }, place) => type.family === "control" && !type.maintained && states[place]?.made);
}

function ofSupply({ device, type }: Member, point: OperatingPoint, effective: Solved["effective"]): Trouble[] {
  if (type.family !== "supply") return [];
  const { ratedAmps, tripAmps } = type.figures;
  const { fuse } = protectionOf(type);
  const flows =
    Math.abs(point.prospective.amps(`${device.id}.inside`) ?? 0) * effective(`${device.id}:${traitsOf(type).power[0]}`);
  const over = (kind: "short" | "supply", limit: number): Trouble[] =>
    flows > limit * MARGIN ? [{ kind, id: device.id, part: null, amps: flows, limit }] : [];
  const short = tripAmps ? over("short", tripAmps.value) : [];
  return short.length > 0 || !ratedAmps
    ? short
    : over("supply", Math.min(ratedAmps.value, fuse ?? Number.POSITIVE_INFINITY));
}

/** The rating of a device's contacts, and their names; none for what has none or says none. */
export const contactsOf = ofType((type): { rated: number; parts: string[] } | null => {
  const { contactAmps, ratedAmps } = type.figures;
  if (type.contactSets > 0)
    return contactAmps
      ? { rated: contactAmps.value, parts: numbered(type.contactSets).flatMap((set) => [`S${set}n`, `S${set}r`]) }
      : null;
  if (!ratedAmps || (type.family !== "control" && type.family !== "lock")) return null;
  // one of two poles, of several, a position of a rotary switch, or a side
  const names = type.terminals.map(({ name }) => name).filter((name) => !name.endsWith("C"));
  return { rated: ratedAmps.value, parts: type.poles ? numbered(type.poles).map(String) : names };
});

/** What a type comes to, worked out once for it. */
function ofType<T>(make: (type: DeviceType) => T): (type: DeviceType) => T {
  const known = new WeakMap<DeviceType, { made: T }>();
  return (type) => {
    const before = known.get(type);
    if (before) return before.made;
    const made = make(type);
    known.set(type, { made });
    return made;
  };
}

function ofContacts({ device, type }: Member, point: OperatingPoint, effective: Solved["effective"]): Trouble[] {
  const contacts = contactsOf(type);
  if (!contacts) return [];
  const { rated, parts } = contacts;
  return parts.flatMap((part): Trouble[] => {
    const flows = Math.abs(point.amps(`${device.id}.${part}`) ?? 0);
    if (flows <= rated * MARGIN) return [];
    const amps = flows * effective(`${device.id}:${type.poles ? `${part}C` : part}`);
    return amps > rated * MARGIN ? [{ kind: "contact", id: device.id, part, amps, limit: rated }] : [];
  });
}

/** Resistors of a type, by the figure that says what each bears: their names in the circuit, and the figure of their ohms. */
const RESISTORS: Readonly<Record<string, { ohms: string; parts: (type: DeviceType) => string[] }>> = {
  chargeWatts: { ohms: "chargeOhms", parts: () => ["charge"] },
  resistorWatts: { ohms: "resistorOhms", parts: ({ leads }) => (leads ?? []).slice(0, 2).map((l) => `${l}.resistor`) },
  commonWatts: { ohms: "commonOhms", parts: () => ["common"] },
  firstWatts: { ohms: "firstOhms", parts: ({ pieces }) => numbered(pieces ?? 0).map((piece) => `${piece}.first`) },
  secondWatts: { ohms: "secondOhms", parts: ({ pieces }) => numbered(pieces ?? 0).map((piece) => `${piece}.second`) },
};

/** The resistors of a type that say what they bear, watts, with their ohms. */
const resistorsOf = ofType((type) =>
  Object.entries(RESISTORS).flatMap(([figure, { ohms, parts }]) => {
    const [rated, value] = [type.figures[figure]?.value, type.figures[ohms]?.value];
    return rated === undefined || value === undefined
      ? []
      : parts(type).map((part) => ({ part, figure, rated, value }));
  }),
);

/** What a resistor bears for the seconds that a finger holds a control, by its rating (IEC 60115-1, short-time overload, 2.5 times the volts). */
const SHORT_OVERLOAD = 6.25;

/**
 * Resistors that turn more into heat than they bear, over both half cycles.
 * @param points solved, one for each half cycle that differs
 */
export function heatIn(
  { members, states, effective }: Pick<Solved, "members" | "states" | "effective">,
  points: readonly OperatingPoint[],
): Trouble[] {
  const isHeld = isHeldBySomebody(members, states);
  return members.flatMap(({ device, type }) =>
    resistorsOf(type).flatMap(({ part, figure, rated, value }): Trouble[] => {
      const limit = rated * (isHeld ? SHORT_OVERLOAD : 1);
      const id = `${device.id}.${part}`;
      const mean = points.reduce((sum, point) => sum + (point.amps(id) ?? 0) ** 2, 0) / points.length;
      if (mean * value <= limit * MARGIN) return [];
      const watts = mean * value * effective(`${device.id}:${type.terminals[0]?.name ?? ""}`) ** 2;
      return watts > limit * MARGIN ? [{ kind: "heat", id: device.id, part: figure, amps: watts, limit }] : [];
    }),
  );
}

/** Parts of an output through which a lasting current flows. */
const THROUGH = {
  pair: ["A+", "A−", "B+", "B−"],
  servo: ["+"],
  sink: ["L"],
  coil: [],
  contact: [],
  matrix: [],
} as const;

function ofOutputs({ device, type }: Member, { outputs, on }: DeviceState, point: OperatingPoint): Trouble[] {
  const limit = type.figures.outputAmps?.value;
  if (limit === undefined) return [];
  if (!type.drives)
    return signalOutputs(type).flatMap((part): Trouble[] => {
      const flows = Math.abs(point.amps(`${device.id}.${part}`) ?? 0);
      return flows > limit * MARGIN ? [{ kind: "output", id: device.id, part, amps: flows, limit }] : [];
    });
  const parts = THROUGH[type.drives];
  return [...new Set([...outputs.keys(), ...(type.drives === "sink" ? on : [])])].flatMap((way): Trouble[] => {
    const flows = Math.max(0, ...parts.map((part) => Math.abs(point.amps(`${device.id}.${way}${part}`) ?? 0)));
    return flows > limit * MARGIN ? [{ kind: "output", id: device.id, part: String(way), amps: flows, limit }] : [];
  });
}

/** Outputs to 0 V of what tells others something: zones of a detector, sides of a touch button. */
function signalOutputs(type: DeviceType): string[] {
  if (type.zones) return numbered(type.zones).map((zone) => `O${zone}`);
  return traitsOf(type).asks === "signal" ? ["N", "R"] : [];
}

function ofCoils(
  { device, type }: Member,
  point: OperatingPoint,
  isHeld: boolean,
  effective: Solved["effective"],
): Trouble[] {
  if (traitsOf(type).movedBy !== "pulse") return [];
  const { restAmps, coilOhms } = type.figures;
  const scale = effective(`${device.id}:C`);
  const [normal, reverse] = ["N", "R"].map((coil) => Math.abs(point.amps(`${device.id}.${coil}`) ?? 0) * scale);
  const flows = Math.max(normal ?? 0, reverse ?? 0);
  const rest = restAmps?.value ?? 0;
  const limit = isHeld ? Math.max(rest, Math.sqrt(HELD_WATTS / (coilOhms?.value ?? 1))) : rest;
  const found: Trouble[] = [];
  // two in a row carry one current, whatever the last digits say
  const coil = (normal ?? 0) >= (reverse ?? 0) * (1 - ALIKE) ? "N" : "R";
  if (flows > limit * MARGIN) found.push({ kind: "coil", id: device.id, part: coil, amps: flows, limit });
  const lesser = Math.min(normal ?? 0, reverse ?? 0);
  // coils in series across an output are another mistake, and carry one current
  if (lesser > rest * MARGIN) found.push({ kind: "coils", id: device.id, part: null, amps: lesser, limit: rest });
  return found;
}

function ofLamp({ device, type }: Member, point: OperatingPoint): Trouble[] {
  const rated = type.figures.ratedAmps?.value;
  if (type.family !== "lamp" || !type.leads || rated === undefined) return [];
  return type.leads.slice(0, 2).flatMap((lead): Trouble[] => {
    const flows = point.amps(`${device.id}.${lead}`) ?? 0;
    return flows > rated * MARGIN ? [{ kind: "lamp", id: device.id, part: lead, amps: flows, limit: rated }] : [];
  });
}
