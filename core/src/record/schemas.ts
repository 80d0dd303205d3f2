import * as z from "zod/mini";
import { GAUGES } from "../units/gauge.ts";
import { Id, Label, Metres, Name, Note, Order, Text, Way, When } from "./fields.ts";

export const Position = z.enum(["N", "R"]);
export type Position = z.infer<typeof Position>;

/**
 * How a net is laid under the layout. star: a wire of its own from one point to each place. chain: from place to place. bus:
 * a trunk of thick wire past all places, with a short dropper to each.
 */
export const TOPOLOGIES = ["star", "chain", "bus", "blocks"] as const;
export type Topology = (typeof TOPOLOGIES)[number];

/**
 * In what order the cores of a cable are coloured. signal: as usual for signal cables. pairs: as network cable of four
 * twisted pairs. ribbon: as flat cable, which repeats the ten colours of the resistor code.
 */
export const CABLE_COLOURS = ["signal", "pairs", "ribbon"] as const;
export type CableColours = (typeof CABLE_COLOURS)[number];

/**
 * Where new strips under the layout are put. boards: all beside the boards. zones: those of a net that serves one zone only
 * among the turnouts of that zone.
 */
export const STRIP_PLACES = ["boards", "zones"] as const;
export type StripPlaces = (typeof STRIP_PLACES)[number];

/** Which core a net gets. number: the first that is free. role: one of the colour that its purpose has in other cables. */
export const CORES_BY = ["number", "role"] as const;
export type CoresBy = (typeof CORES_BY)[number];

/**
 * How motors are joined. wires: each terminal by a single wire. one: a motor by a cable of its own, its tail, which is joined
 * to it at the bench. two: two motors of a zone share a tail.
 */
export const MOTOR_TAILS = ["wires", "one", "two"] as const;
export type MotorTails = (typeof MOTOR_TAILS)[number];

/** What belongs to the railway as a whole. Lengths in metres, one way. */
export const Railway = z.strictObject({
  name: Name.check(z.minLength(1, "must not be empty")),
  units: z.enum(["metric", "imperial"]),
  /** 0, or 4 when the command station counts accessory addresses from raw 0. */
  addressShift: z.union([z.literal(0), z.literal(4)]),
  wireGauge: z.enum(GAUGES),
  cableGauge: z.enum(GAUGES),
  /** Ways of one terminal strip, and cores of one cable. */
  stripWays: z.int().check(z.gte(2), z.lte(24)),
  cableCores: z.int().check(z.gte(2), z.lte(16)),
  cableColours: z.enum(CABLE_COLOURS),
  /** Share of the ways of a strip and of the cores of a cable that is left free for later. */
  spareShare: z.number().check(z.gte(0, "must be 0 to 0.5"), z.lte(0.5, "must be 0 to 0.5")),
  /** Cable between the panel's strip and the strip under the layout. */
  cableMetres: Metres,
  /** Wire from the strip or board under the layout to a motor, when the turnout states none. */
  runMetres: Metres,
  /** How commons of pulses are laid, and feeders of track and supplies, where zone and net say nothing else. */
  commons: z.enum(TOPOLOGIES),
  feeders: z.enum(TOPOLOGIES),
  busGauge: z.enum(GAUGES),
  stripsAt: z.enum(STRIP_PLACES),
  /** Longest wire from a strip among turnouts to one of them. */
  reachMetres: Metres,
  coresBy: z.enum(CORES_BY),
  motorTails: z.enum(MOTOR_TAILS),
  /** Cores of the tail of a motor. */
  tailCores: z.int().check(z.gte(2), z.lte(16)),
  /** From one turnout to the next along the trunk line, at least. */
  spacingMetres: Metres,
  /** How diode boards of route buttons are built, where nothing lies on them yet. */
  matrixBy: z.enum(["fewest", "full", "cascaded"]),
  /** What a step of the line diagram is on the baseboard. */
  stepMetres: z.number().check(z.gte(0.005, "must be 0.005 to 5 m"), z.lte(5, "must be 0.005 to 5 m")),
  /** How many times smaller than the original: 87.1 is H0. */
  scale: z.number().check(z.gte(1, "must be 1 to 500"), z.lte(500, "must be 1 to 500")),
  /** How fast trains run, as the original would, km/h. */
  trainKmh: z.number().check(z.gte(1, "must be 1 to 500 km/h"), z.lte(500, "must be 1 to 500 km/h")),
  /** The longest train, as it stands on the layout. */
  trainMetres: z.number().check(z.gte(0.05, "must be 0.05 to 100 m"), z.lte(100, "must be 0.05 to 100 m")),
  /** Wire from a control or lamp to its panel strip, and at least from a strip among turnouts to one of them. */
  tailMetres: Metres,
  /** More to cut at each end than is laid. */
  slackMetres: z.number().check(z.gte(0, "must be 0 to 1 m"), z.lte(1, "must be 0 to 1 m")),
  /** Single wire on a new reel. */
  reelMetres: z.number().check(z.gte(1, "must be 1 to 1000 m"), z.lte(1000, "must be 1 to 1000 m")),
  /** What prices are told in. */
  currency: Text.check(z.minLength(1, "must not be empty"), z.maxLength(8, "must have at most 8 characters")),
  note: Note,
});
export type Railway = z.infer<typeof Railway>;

export const Zone = z.strictObject({
  id: Id,
  label: Label,
  name: Name,
  order: Order,
  /** How commons of pulses are laid in this zone; null as in the railway. */
  commons: z.nullable(z.enum(TOPOLOGIES)),
  /** Plastic rail joints at its ends, where its rails have feeds of their own. */
  plasticJoints: z.int().check(z.gte(0, "must be 0 to 99"), z.lte(99, "must be 0 to 99")),
});
export type Zone = z.infer<typeof Zone>;

export const HANDS = ["left", "right", "wye", "unknown"] as const;

export const Turnout = z.strictObject({
  id: Id,
  label: Label,
  name: Name,
  hand: z.enum(HANDS),
  zoneId: z.nullable(Id),
  /** The other end of a crossover which leads this one, or null. */
  movesWith: z.nullable(Id),
  runMetres: z.nullable(Metres),
  order: Order,
  note: Note,
});
export type Turnout = z.infer<typeof Turnout>;

/** Something that is set in a device itself, as its leaflet says. */
const OwnSetting = z.strictObject({
  name: Label,
  about: Name,
  factory: Text.check(z.maxLength(40, "must have at most 40 characters")),
  range: Text.check(z.maxLength(80, "must have at most 80 characters")),
  /** Where it is kept: the number of a variable, a jumper, a switch, a menu entry; "" when nobody has said. */
  number: Text.check(z.maxLength(24, "must have at most 24 characters")),
});

/** How the switches of a node say its number: what one that is on stands for, bit 0 first, and what is added. */
const OwnSwitches = z.strictObject({
  onMeans: z.array(z.union([z.literal(0), z.literal(1)])).check(z.minLength(1), z.maxLength(12)),
  offset: z.int().check(z.gte(0, "must be 0 to 65535"), z.lte(65_535, "must be 0 to 65535")),
});

/** Colour of a lamp, in the owner's words. */
export const Colour = z
  .string()
  .check(
    z.maxLength(16, "must have at most 16 characters"),
    z.regex(/^[a-z][a-z -]*$/, "must be a colour in small letters, as red or warm white"),
  );

/** An owner's own device type: a catalogue type with what its leaflet says otherwise. */
export const OwnType = z.strictObject({
  id: Id,
  basedOn: Id,
  name: Name.check(z.minLength(1, "must not be empty")),
  /** SI units, by the figure's name. */
  figures: z.record(z.string().check(z.regex(/^[a-z][A-Za-z]{0,39}$/, "is no name of a figure")), z.number()),
  /** What is printed beside its terminals, by the catalogue's name of each. */
  printed: z.record(
    Text.check(z.minLength(1), z.maxLength(12)),
    Text.check(z.minLength(1, "must not be empty"), z.maxLength(12)),
  ),
  settings: z.array(OwnSetting).check(z.maxLength(60, "must be at most 60")),
  /** As they were found by a number that was read; null as in the catalogue. */
  switches: z.nullable(OwnSwitches),
  /** What comes with it in the box. */
  box: Text.check(z.maxLength(500, "must have at most 500 characters")),
  /** Colours of a lamp, lit at normal and lit at reverse; null for the catalogue's. */
  colours: z.nullable(z.tuple([Colour, Colour])),
});
export type OwnType = z.infer<typeof OwnType>;

/** What an own type says that differs from the catalogue's in figures only. */
export const PLAIN_TYPE: Pick<OwnType, "printed" | "settings" | "switches" | "box" | "colours"> = {
  ...{ printed: {}, settings: [], box: "" },
  ...{ switches: null, colours: null },
};

export const Place = z.enum(["panel", "layout"]);
export type Place = z.infer<typeof Place>;

export const Device = z.strictObject({
  id: Id,
  typeId: Id,
  label: Label,
  place: Place,
  /** Wire along the trunk line from where supplies and boards stand together to where it stands; null for one that stands there. */
  runMetres: z.nullable(Metres),
  note: Note,
});
export type Device = z.infer<typeof Device>;

/** What a device does for a turnout or for another device. */
export const Assignment = z.discriminatedUnion("role", [
  z.strictObject({
    id: Id,
    role: z.literal("motor"),
    deviceId: Id,
    turnoutId: Id,
    /** The two leads are exchanged at the motor. */
    crossed: z.boolean(),
    /** The motor's make or side of mounting moves the blades the other way. */
    opposite: z.boolean(),
  }),
  z.strictObject({
    id: Id,
    role: z.literal("driver"),
    deviceId: Id,
    /** Output of a decoder; null for a driver without numbered outputs. */
    way: z.nullable(Way),
    motorId: Id,
  }),
  z.strictObject({
    id: Id,
    role: z.literal("control"),
    deviceId: Id,
    turnoutId: Id,
    /**
     * Zone of a detector, output of a decoder, or the one pole of a toggle that commands; null for a control without
     * numbered ways, and for a toggle that reverses with both its poles.
     */
    way: z.nullable(Way),
    /** The one position it asks for, or null when it asks for either, or for the other one at each press. */
    to: z.nullable(Position),
    /** Labelled for the other line: its normal asks for the turnout's reverse. */
    inverse: z.boolean(),
    /**
     * It has one contact or level that the turnout follows: reverse while it is made, normal while it is not; the other way
     * round when inverse.
     */
    follows: z.boolean(),
  }),
  z.strictObject({
    id: Id,
    role: z.literal("lamp"),
    deviceId: Id,
    turnoutId: Id,
    /** What lights it: a motor or relay with a contact, a frog, a driver, a sensor at the throw bar. */
    fromId: Id,
    /** Contact set, relay or output of that; null when it has none to choose from. */
    way: z.nullable(Way),
    /** The lamp's two leads are exchanged. */
    crossed: z.boolean(),
    /** Position at which the throw bar covers the sensor that lights it; null when none does. */
    coveredAt: z.nullable(Position),
  }),
  z.strictObject({
    id: Id,
    role: z.literal("frog"),
    /** The frog, with the two stock rails beside it. */
    deviceId: Id,
    turnoutId: Id,
    /** What feeds it: a motor or relay with a contact, or a polarity unit; null for a frog that stays dead. */
    fromId: z.nullable(Id),
    way: z.nullable(Way),
    /** The two rails are exchanged at the contact. */
    crossed: z.boolean(),
  }),
  /** A control, or one zone, output or pole of it, is read by a board with numbered inputs, from this input on. */
  z.strictObject({
    id: Id,
    role: z.literal("input"),
    deviceId: Id,
    way: Way,
    controlId: Id,
    controlWay: z.nullable(Way),
  }),
  /** A detector's zone watches an isolated stretch, in the feed of one of its rails. */
  z.strictObject({
    id: Id,
    role: z.literal("block"),
    deviceId: Id,
    way: Way,
    /** What the owner calls the stretch. */
    block: Label,
    rail: z.enum(["J", "K"]),
  }),
  /** A piece of a resistor board lies in the common lead of a lamp. */
  z.strictObject({ id: Id, role: z.literal("resistor"), deviceId: Id, way: Way, lampId: Id }),
  /** A key switch, a relay's contact or a board's setting decides whether a control is listened to. */
  z.strictObject({
    id: Id,
    role: z.literal("lock"),
    deviceId: Id,
    /** Contact set of a relay; null for a key switch, and for a setting. */
    way: z.nullable(Way),
    controlId: Id,
    controlWay: z.nullable(Way),
  }),
  z.strictObject({ id: Id, role: z.literal("supply"), deviceId: Id, toDeviceId: Id }),
  z.strictObject({ id: Id, role: z.literal("commands"), deviceId: Id, toDeviceId: Id }),
  z.strictObject({
    id: Id,
    role: z.literal("address"),
    deviceId: Id,
    way: Way,
    address: z.int().check(z.gte(0), z.lte(65535)),
  }),
]);
export type Assignment = z.infer<typeof Assignment>;
export type Role = Assignment["role"];
export type AssignmentOf<R extends Role> = Extract<Assignment, { role: R }>;

/** One recorded test: what was expected, what was read or seen, and the chain of things it depended on. */
export const TestResult = z.strictObject({
  id: Id,
  turnoutId: Id,
  step: z.string().check(z.minLength(1), z.maxLength(60)),
  position: z.nullable(Position),
  unit: z.enum(["V", "ohm", "mA", "diode", "seen"]),
  expected: z.nullable(z.number()),
  low: z.nullable(z.number()),
  high: z.nullable(z.number()),
  read: z.nullable(z.number()),
  seen: z.nullable(z.string().check(z.maxLength(40))),
  verdict: z.enum(["passed", "failed", "no-change"]),
  instrument: Name,
  note: Note,
  at: When,
  /** Name of each link in the chain, and what it was at the time. */
  chain: z.record(z.string().check(z.minLength(1), z.maxLength(80)), z.string().check(z.maxLength(200))),
});
export type TestResult = z.infer<typeof TestResult>;

/** A reading taken by hand beside the meter: where, in which state, what was expected and what the meter said. */
export const Reading = z.strictObject({
  id: Id,
  /** Terminals under the probes, as named in the circuit. */
  red: z.string().check(z.minLength(1), z.maxLength(80)),
  black: z.string().check(z.minLength(1), z.maxLength(80)),
  /** What is written beside them. */
  redName: z.string().check(z.minLength(1), z.maxLength(60)),
  blackName: z.string().check(z.minLength(1), z.maxLength(60)),
  range: z.enum(["V", "ohm", "mA", "diode"]),
  /** Turnout that was looked at, as it stood, and the moment; null when none was. */
  turnoutId: z.nullable(Id),
  position: z.nullable(Position),
  moment: z.enum(["rest", "throwing", "held"]),
  /** SI units; null where the meter should have shown open. */
  expected: z.nullable(z.number()),
  low: z.nullable(z.number()),
  high: z.nullable(z.number()),
  read: z.number(),
  agrees: z.boolean(),
  at: When,
});
export type Reading = z.infer<typeof Reading>;

/** A finding which the owner keeps, with the reason. It counts again when its cause is no longer the same. */
export const Acceptance = z.strictObject({
  id: Id,
  rule: Id,
  subject: z.string().check(z.minLength(1), z.maxLength(80)),
  cause: z.string().check(z.maxLength(400)),
  reason: Name.check(z.minLength(1, "must not be empty")),
  at: When,
});
export type Acceptance = z.infer<typeof Acceptance>;
