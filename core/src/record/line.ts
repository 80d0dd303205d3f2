import * as z from "zod/mini";
import { Id, Name } from "./fields.ts";

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
});
export type Spot = z.infer<typeof Spot>;

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

/** Something about a place of the line that its track does not say. */
export const Mark = z.discriminatedUnion("what", [End, Gap, Slip]);
export type Mark = z.infer<typeof Mark>;
export type MarkOf<W extends Mark["what"]> = Extract<Mark, { what: W }>;
