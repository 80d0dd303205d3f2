import { protectionOf } from "../catalogue/protection.ts";
import { traitsOf } from "../catalogue/traits.ts";
import type { OperatingPoint } from "../circuit/solution.ts";
import type { DeviceState } from "../readings/kit.ts";
import type { Member } from "../readings/pieces.ts";

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
  /** What is switched off is kept half alive by something else. */
  | "back-feed";

export interface Trouble {
  kind: TroubleKind;
  /** The device, or the name of the wire in the circuit. */
  id: string;
  /** Output of the device, coil of the motor, lead of the lamp; null for the device as a whole. */
  part: string | null;
  /** Amps that flow, and that may; volts of what is fed back. */
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

/** Heat that a coil bears for as long as a finger holds its control, watts (common practice). */
const HELD_WATTS = 2;

/** More than this over a limit is over it. */
const MARGIN = 1 + 1e-6;

/** All that goes wrong in a solved state. */
export function troublesIn({ members, states, point, bears, effective }: Solved): Trouble[] {
  const found: Trouble[] = [];
  const isHeld = members.some(
    ({ type }, place) => type.family === "control" && !type.maintained && states[place]?.made,
  );
  for (const [place, member] of members.entries()) {
    const state = states[place] as DeviceState;
    found.push(...ofSupply(member, point, effective), ...ofOutputs(member, state, point));
    found.push(...ofCoils(member, point, isHeld, effective), ...ofLamp(member, point));
  }
  // a supply that shuts down burns no wire
  if (found.some(({ kind }) => kind === "short")) return found;
  for (const [id, limit] of bears) {
    const flows = Math.abs(point.amps(id) ?? 0) * effective(id.slice(0, id.indexOf(">")));
    if (flows > limit * MARGIN) found.push({ kind: "wire", id, part: null, amps: flows, limit });
  }
  return found;
}

function ofSupply({ device, type }: Member, point: OperatingPoint, effective: Solved["effective"]): Trouble[] {
  if (type.family !== "supply") return [];
  const { ratedAmps, tripAmps } = type.figures;
  const { fuse } = protectionOf(type);
  const flows = Math.abs(point.amps(`${device.id}.inside`) ?? 0) * effective(`${device.id}:${traitsOf(type).power[0]}`);
  const over = (kind: "short" | "supply", limit: number): Trouble[] =>
    flows > limit * MARGIN ? [{ kind, id: device.id, part: null, amps: flows, limit }] : [];
  const short = tripAmps ? over("short", tripAmps.value) : [];
  return short.length > 0 || !ratedAmps
    ? short
    : over("supply", Math.min(ratedAmps.value, fuse ?? Number.POSITIVE_INFINITY));
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
  if (!type.drives || limit === undefined) return [];
  const parts = THROUGH[type.drives];
  return [...new Set([...outputs.keys(), ...(type.drives === "sink" ? on : [])])].flatMap((way): Trouble[] => {
    const flows = Math.max(0, ...parts.map((part) => Math.abs(point.amps(`${device.id}.${way}${part}`) ?? 0)));
    return flows > limit * MARGIN ? [{ kind: "output", id: device.id, part: String(way), amps: flows, limit }] : [];
  });
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
  const coil = (normal ?? 0) >= (reverse ?? 0) ? "N" : "R";
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
