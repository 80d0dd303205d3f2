import * as z from "zod/mini";
import { Id, Label, Name } from "./fields.ts";

/** Steps of the lattice that a line may reach from its middle. */
export const MOST_STEPS = 10_000;
const Step = z
  .int()
  .check(
    z.gte(-MOST_STEPS, `must be at most ${MOST_STEPS} steps`),
    z.lte(MOST_STEPS, `must be at most ${MOST_STEPS} steps`),
  );

/** A point of the lattice: steps to the right and down. */
export const Point = z.tuple([Step, Step]);
export type Point = z.infer<typeof Point>;

/**
 * A stretch of track as it was laid: straight from point to point, in the eight directions of the lattice. What it means
 * follows from where stretches meet.
 */
export const Track = z.strictObject({
  id: Id,
  points: z
    .array(Point)
    .check(z.minLength(2, "must have two points at least"), z.maxLength(500, "must have at most 500 points")),
  /** Out of sight: in a tunnel, behind the scenery. */
  hidden: z.boolean(),
});
export type Track = z.infer<typeof Track>;

/** Where a turnout of the record lies on the line. */
export const Spot = z.strictObject({
  id: Id,
  turnoutId: Id,
  x: Step,
  y: Step,
  /** Of a slip or three-way turnout, which has two motors: the second of them. */
  second: z.boolean(),
  /** The owner calls the leg normal that the geometry does not. */
  turned: z.boolean(),
  /** Its blades feed the frog and the inner rails behind it; else they are fed through, or by a contact for the frog. */
  powerRouting: z.boolean(),
});
export type Spot = z.infer<typeof Spot>;

/** What is drawn of the baseboard itself: its edge, a section that is lifted out, the line along which cables run. */
export const Outline = z.strictObject({
  id: Id,
  what: z.enum(["baseboard", "lift-out", "trunk"]),
  points: z
    .array(Point)
    .check(z.minLength(2, "must have two points at least"), z.maxLength(500, "must have at most 500 points")),
});
export type Outline = z.infer<typeof Outline>;

const at = { id: Id, x: Step, y: Step };

/** Where track ends: at a buffer, or leading on to somewhere. */
const End = z.strictObject({
  ...at,
  what: z.literal("end"),
  name: Name.check(z.minLength(1, "must not be empty")),
  buffer: z.boolean(),
});

/** Rails that are parted, between two neighbouring points; left and right as seen from the first to the second. */
const Gap = z.strictObject({
  ...at,
  what: z.literal("gap"),
  toX: Step,
  toY: Step,
  rails: z.enum(["both", "left", "right"]),
});

/** A crossing whose blades lead from one track to the other, at one of its acute sides or at both. */
const Slip = z.strictObject({ ...at, what: z.literal("slip"), slip: z.enum(["single", "double"]), other: z.boolean() });

/** A step of track, from one point to its neighbour. */
const onStep = { ...at, toX: Step, toY: Step };

/** The name of the block that a step belongs to: all track around it as far as the next gaps. */
const Block = z.strictObject({ ...onStep, what: z.literal("block"), name: Label });

/** Where a spot sensor looks at the track. */
const Sensor = z.strictObject({ ...onStep, what: z.literal("sensor"), name: Label, deviceId: z.nullable(Id) });

/** A signal for trains that go from the first point to the second. */
const Signal = z.strictObject({ ...onStep, what: z.literal("signal"), name: Label, deviceId: z.nullable(Id) });

/** Where wires join the rails, and which side of the bus the left one gets, as seen from the first point to the second. */
const Feeder = z.strictObject({
  ...onStep,
  what: z.literal("feeder"),
  leftGets: z.enum(["J", "K"]),
  rails: z.enum(["both", "left", "right"]),
});

/** Where a board stands; metres along and across the baseboard, where they were measured, count before the drawing. */
const Stand = z.strictObject({
  ...at,
  what: z.literal("stand"),
  deviceId: Id,
  alongMetres: z.nullable(z.number().check(z.gte(-500, "must be within 500 m"), z.lte(500, "must be within 500 m"))),
  acrossMetres: z.nullable(z.number().check(z.gte(-500, "must be within 500 m"), z.lte(500, "must be within 500 m"))),
});

/** Something about a place of the line that its track does not say. */
export const Mark = z.discriminatedUnion("what", [End, Gap, Slip, Block, Sensor, Signal, Feeder, Stand]);
export type Mark = z.infer<typeof Mark>;
export type MarkOf<W extends Mark["what"]> = Extract<Mark, { what: W }>;
