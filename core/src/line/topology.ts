// The line as turnouts, ends and the links between them, whatever its shape: what routes, polarity and signals follow from.

/** By what a turnout is left or entered. */
export const LEGS = ["toe", "normal", "reverse"] as const;
export type Leg = (typeof LEGS)[number];
/** A position of a turnout: the leg to which its blades lie. */
export type Lie = Exclude<Leg, "toe">;

/** `"Y1.toe"`, `"Y1.normal"`, `"Y1.reverse"`, or an end's identifier. */
export type Port = string;

export interface Line {
  turnouts: readonly { id: string }[];
  ends: readonly string[];
  /** Track between two ports. A port has one link at most. */
  links: readonly (readonly [Port, Port])[];
  /** Of the links those within a three-way turnout or slip: there is no rail between its two pairs of blades. */
  within?: readonly (readonly [Port, Port])[];
  /** Pairs of turnouts that no train passes with both lying so: a single slip lacks one of its two curves. */
  barred?: readonly Barred[];
}

/** Two turnouts, and how they cannot both lie on one way. */
export interface Barred {
  first: string;
  second: string;
  lies: readonly [Lie, Lie];
}

/** The turnout and leg of a port; null for an end. */
export function turnoutPort(port: Port): { id: string; leg: Leg } | null {
  const at = port.lastIndexOf(".");
  const leg = LEGS.find((each) => each === port.slice(at + 1));
  return at > 0 && leg ? { id: port.slice(0, at), leg } : null;
}

export function portOf(id: string, leg: Leg): Port {
  return `${id}.${leg}`;
}

/** What is wrong with a line as it was given: where, and a sentence. */
export interface LineFault {
  path: (string | number)[];
  message: string;
}

/** The first fault of a line; null for one that can be worked with. */
export function faultOfLine({ turnouts, ends, links }: Line): LineFault | null {
  const ports = new Set<Port>();
  for (const [index, { id }] of turnouts.entries()) {
    if (ports.has(portOf(id, "toe")))
      return { path: ["turnouts", index, "id"], message: `Two turnouts are called ${id}.` };
    for (const leg of LEGS) ports.add(portOf(id, leg));
  }
  for (const [index, end] of ends.entries()) {
    if (ports.has(end)) return { path: ["ends", index], message: `The end ${end} has a name that something else has.` };
    ports.add(end);
  }
  const linked = new Set<Port>();
  for (const [index, link] of links.entries()) {
    for (const [side, port] of link.entries()) {
      const path = ["links", index, side];
      if (!ports.has(port)) return { path, message: `There is no turnout leg and no end called ${port}.` };
      if (linked.has(port)) return { path, message: `${port} has two links; it can have one.` };
      linked.add(port);
    }
  }
  return null;
}

/** What is at the other side of each port's link. */
export function linkedTo({ links }: Pick<Line, "links">): ReadonlyMap<Port, Port> {
  return new Map(links.flatMap(([a, b]) => [[a, b] as const, [b, a] as const]));
}

/** Legs by which a train that came in by one can leave. */
export function waysOn(leg: Leg): readonly Leg[] {
  return leg === "toe" ? ["normal", "reverse"] : ["toe"];
}
