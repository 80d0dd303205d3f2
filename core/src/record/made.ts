import * as z from "zod/mini";
import { GAUGES } from "../units/gauge.ts";
import { WIRE_COLOUR_CODES } from "../units/wireColours.ts";
import { Id, Label, Metres, Name, Text, When } from "./fields.ts";
import { PURPOSE_NAMES } from "./purposes.ts";
import { CABLE_COLOURS, Place, TOPOLOGIES } from "./schemas.ts";

/** When something was done; null until it was. */
const Done = z.nullable(When);

/** Ways of a strip of screw terminals. */
const Ways = z.int().check(z.gte(1), z.lte(64));

/** A strip of screw terminals at the panel or under the layout, a splice or a block; proposed until it is kept or fixed. */
export const Strip = z.strictObject({
  id: Id,
  label: Label,
  /** A splice joins all wires at its one way, as a dropper to its trunk; so does a block, a strip whose ways are all linked. */
  kind: z.enum(["screws", "splice", "block"]),
  place: Place,
  ways: Ways,
  /** What a pin bears, amps, when it is a plug and its socket; null for screws. */
  pinAmps: z.nullable(z.number().check(z.gte(0.1, "must be 0.1 to 100 A"), z.lte(100, "must be 0.1 to 100 A"))),
  /** The zone that it serves, or null for any. */
  zoneId: z.nullable(Id),
  /** Where it is along the trunk line from the boards, metres; null for beside the boards or amid the turnouts of its zone. */
  runMetres: z.nullable(Metres),
  /** Under the layout, but at its edge, where it is reached from in front. */
  front: z.boolean(),
  /** The owner keeps it as it is. */
  kept: z.boolean(),
  fixedAt: Done,
  note: Name,
});
export type Strip = z.infer<typeof Strip>;

/** A cable from the panel to the layout, or the tail of a motor. Gauge, length and colours are as the railway says until they are facts of this one. */
export const Cable = z.strictObject({
  id: Id,
  label: Label,
  cores: z.int().check(z.gte(2), z.lte(64)),
  gauge: z.nullable(z.enum(GAUGES)),
  metres: z.nullable(Metres),
  colours: z.nullable(z.enum(CABLE_COLOURS)),
  /** From a strip or boards to one motor or two, joined to these at the bench; not from the panel to the layout. */
  tail: z.boolean(),
  /** The zone to whose strips it goes, or null for those beside the boards. */
  zoneId: z.nullable(Id),
  kept: z.boolean(),
  laidAt: Done,
  note: Name,
});
export type Cable = z.infer<typeof Cable>;

/** Whether all that ends at a strip is joined there: a splice or a block. */
export function isJunction({ kind }: Pick<Strip, "kind">): boolean {
  return kind !== "screws";
}

/** A strip of which nothing is done yet. */
export function newStrip(id: string, label: string, kind: Strip["kind"], place: Place, ways: number): Strip {
  return {
    ...{ id, label, kind, place, ways, pinAmps: null, zoneId: null, runMetres: null, front: false },
    ...{ kept: false, fixedAt: null, note: "" },
  };
}

/** A cable of which nothing is done yet, and nothing said of its own. */
export function newCable(id: string, label: string, cores: number): Cable {
  return {
    ...{ id, label, cores, gauge: null, metres: null, colours: null, tail: false, zoneId: null },
    ...{ kept: false, laidAt: null, note: "" },
  };
}

/** How the net of a terminal is laid, where it is not as in its zone or the railway. */
export const Laying = z.strictObject({
  id: Id,
  deviceId: Id,
  terminal: Text.check(z.minLength(1), z.maxLength(12)),
  topology: z.enum(TOPOLOGIES),
});
export type Laying = z.infer<typeof Laying>;

/**
 * A colour by the owner's custom: of wires for a purpose, or of the lead that a device has at a terminal; one of the two.
 */
export const Custom = z.strictObject({
  id: Id,
  purpose: z.nullable(z.enum(PURPOSE_NAMES)),
  deviceId: z.nullable(Id),
  terminal: z.nullable(Text.check(z.minLength(1), z.maxLength(12))),
  colour: z.enum(WIRE_COLOUR_CODES),
});
export type Custom = z.infer<typeof Custom>;

/** What is on the shelf of something that is needed, and what is known of buying it. */
export const Stock = z.strictObject({
  id: Id,
  /** What it is, as needs are named: "type:stall-motor", "wire:RD:0.5 mm2". */
  thing: Text.check(z.minLength(1), z.maxLength(80)),
  /** Pieces, or metres of what is counted by length, at the moment `at`: what was built in since is used up. */
  have: z.number().check(z.gte(0, "must be 0 to 100000"), z.lte(100_000, "must be 0 to 100000")),
  /** Price of a piece or a metre, in the railway's currency; null for the rough one. */
  price: z.nullable(z.number().check(z.gte(0, "must be 0 to 100000"), z.lte(100_000, "must be 0 to 100000"))),
  supplier: Name,
  at: When,
});
export type Stock = z.infer<typeof Stock>;

/** What is written beside a terminal of a device, by which an end is known when the device has gone. */
const Terminal = z.nullable(Text.check(z.minLength(1), z.maxLength(40)));

/**
 * A wire by its two ends, each a terminal of a device, a screw of a strip, or loose. It is proposed until the owner keeps
 * it or something of it is done; then colour, gauge and length are its own.
 */
export const Wire = z.strictObject({
  id: Id,
  /** What its flags say: 17 is W17. A number is given to one wire only. */
  number: z.int().check(z.gte(1), z.lte(99_999)),
  fromDeviceId: z.nullable(Id),
  fromTerminal: Terminal,
  fromStripId: z.nullable(Id),
  fromWay: z.nullable(Ways),
  toDeviceId: z.nullable(Id),
  toTerminal: Terminal,
  toStripId: z.nullable(Id),
  toWay: z.nullable(Ways),
  /** The core of a cable that it is, or null. */
  cableId: z.nullable(Id),
  core: z.nullable(Ways),
  colour: z.nullable(z.enum(WIRE_COLOUR_CODES)),
  gauge: z.nullable(z.enum(GAUGES)),
  metres: z.nullable(Metres),
  /** The owner keeps it as it is. */
  kept: z.boolean(),
  cutAt: Done,
  labelledAt: Done,
  fromJoinedAt: Done,
  toJoinedAt: Done,
  testedAt: Done,
  /** Taken out: its number is not given to another wire as long as this is known. */
  outAt: Done,
  note: Name,
});
export type Wire = z.infer<typeof Wire>;

/** The work on a wire, in its order; each is a field that holds when it was done. */
export const WIRE_STEPS = ["cutAt", "labelledAt", "fromJoinedAt", "toJoinedAt", "testedAt"] as const;
export type WireStep = (typeof WIRE_STEPS)[number];

/** proposed: may change with every edit. kept: locked by the owner. made: something of it was done. out: no longer there. */
export type Standing = "proposed" | "kept" | "made" | "out";

/** How far a wire is a fact. */
export function standingOfWire(wire: Wire): Standing {
  const { outAt, cutAt, labelledAt, fromJoinedAt, toJoinedAt, testedAt, kept } = wire;
  if (outAt !== null) return "out";
  if (cutAt ?? labelledAt ?? fromJoinedAt ?? toJoinedAt ?? testedAt) return "made";
  return kept ? "kept" : "proposed";
}

/** A wire whose end was at something that is removed: a proposed one goes with it, any other stays with a loose end. */
export function withoutEnd(end: "from" | "to"): (wire: Wire, removed: { label?: string }) => Wire | null {
  return (wire, { label }) => {
    if (standingOfWire(wire) === "proposed") return null;
    const { fromTerminal, fromWay, fromJoinedAt, toTerminal, toWay, toJoinedAt } = wire;
    const [terminal, way, joinedAt] =
      end === "from" ? [fromTerminal, fromWay, fromJoinedAt] : [toTerminal, toWay, toJoinedAt];
    const was = [label, terminal ?? way].filter((part) => part !== undefined && part !== null).join("-");
    const loose =
      end === "from"
        ? { fromDeviceId: null, fromTerminal: was.slice(0, 40), fromStripId: null, fromWay: null, fromJoinedAt: null }
        : { toDeviceId: null, toTerminal: was.slice(0, 40), toStripId: null, toWay: null, toJoinedAt: null };
    // what was joined is there, whatever else was written down of it
    return { ...wire, ...loose, cutAt: wire.cutAt ?? joinedAt };
  };
}

/** A core whose cable is removed: a proposed wire goes with it, any other is a single wire from then on. */
export function withoutCable(wire: Wire): Wire | null {
  return standingOfWire(wire) === "proposed" ? null : { ...wire, cableId: null, core: null };
}
