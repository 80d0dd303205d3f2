import * as z from "zod/mini";
import { Id, Label, Name, Order, Way, When } from "./fields.ts";
import { Position } from "./schemas.ts";

/** How a diode matrix is built: as few diodes as can be, a diode at each link, or buttons that feed one another's wires. */
export const CONSTRUCTIONS = ["fewest", "full", "cascaded"] as const;
export type ConstructionKind = (typeof CONSTRUCTIONS)[number];

/** A way for trains that is set as one: what it is called, as "Road 4". */
export const Route = z.strictObject({ id: Id, label: Label, name: Name, order: Order });
export type Route = z.infer<typeof Route>;

/** A turnout of a route, and how it has to lie. */
export const RouteTurnout = z.strictObject({ id: Id, routeId: Id, turnoutId: Id, to: Position });
export type RouteTurnout = z.infer<typeof RouteTurnout>;

/** What asks for a route: a button, one pole of it, a position of a rotary switch, or a macro of a board. */
export const RouteControl = z.strictObject({
  id: Id,
  routeId: Id,
  deviceId: Id,
  /** Pole of a button, position of a rotary switch, number of a macro; null for a button of one pole. */
  way: z.nullable(Way),
  /** The button that has to be held as well: that of the entry, or the one that fires what a rotary switch has chosen. */
  throughId: z.nullable(Id),
});
export type RouteControl = z.infer<typeof RouteControl>;

/** Terminals of a diode board, as they are named in the catalogue. */
const Terminal = z
  .string()
  .check(z.regex(/^(I\d{1,2}|\d{1,2}[NR])$/, "must be a terminal of a diode board, as I4 or 2N"));

/** A diode or a plain wire that lies on a diode board, as its owner put it there. */
export const BoardPart = z.strictObject({
  id: Id,
  deviceId: Id,
  from: Terminal,
  to: Terminal,
  with: z.enum(["diode", "wire"]),
  /** The band of the diode is at the terminal that it is named from. */
  turned: z.boolean(),
  /** When it was soldered; null while it is only kept as the owner wants it. */
  madeAt: z.nullable(When),
});
export type BoardPart = z.infer<typeof BoardPart>;
