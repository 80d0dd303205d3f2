import * as z from "zod/mini";
import { Id, Name, Way, When } from "./fields.ts";

/** Places between finger and lamp where normal can turn into reverse. */
export const SENSE_LINKS = [
  "label",
  "control",
  "input",
  "inputs",
  "event",
  "setting",
  "end-points",
  "leads",
  "mounting",
  "linkage",
  "contact",
  "frog",
  "lamp",
] as const;
export type SenseLink = (typeof SENSE_LINKS)[number];

/** From what a thing is known, the weakest first. */
export const KNOWN_FROM = ["assumed", "drawn", "seen", "heard", "metered"] as const;
export type KnownFrom = (typeof KNOWN_FROM)[number];

/** What is known of one place where normal can turn into reverse. A place without an entry is assumed not to. */
export const Sense = z.strictObject({
  id: Id,
  link: z.enum(SENSE_LINKS),
  deviceId: Id,
  /** Output, input or contact set of the device; null where it has none to choose from. */
  way: z.nullable(Way),
  /** Whether it turns; false for what the assignments say themselves: leads, mounting, frog, lamp. */
  inverts: z.boolean(),
  known: z.enum(KNOWN_FROM),
  /** Times that it was turned round here. */
  flips: z.int().check(z.gte(0), z.lte(1000)),
  note: Name,
  at: When,
});
export type Sense = z.infer<typeof Sense>;

/** How far a fact can be relied on. */
export const STANDINGS = ["heard", "read", "measured"] as const;

/** Something that the plan rests on, and how far it can be relied on: a figure of an own type, or anything about a type or device. */
export const Fact = z.strictObject({
  id: Id,
  text: Name.check(z.minLength(1, "must not be empty")),
  standing: z.enum(STANDINGS),
  typeId: z.nullable(Id),
  /** The figure of the type that it is about, or null. */
  figure: z.nullable(z.string().check(z.maxLength(40))),
  deviceId: z.nullable(Id),
  /** Where it was heard or read, or how it was measured. */
  source: Name,
  at: When,
});
export type Fact = z.infer<typeof Fact>;

export const DEBT_KINDS = ["open end", "undecided", "awaited"] as const;

/** Something left open, noted by hand. */
export const Debt = z.strictObject({
  id: Id,
  kind: z.enum(DEBT_KINDS),
  text: Name.check(z.minLength(1, "must not be empty")),
  /** What waits for it. */
  blocks: Name,
  turnoutId: z.nullable(Id),
  done: z.boolean(),
  at: When,
});
export type Debt = z.infer<typeof Debt>;

/** Most characters of one picture: about 90 kB. */
export const MOST_PICTURE = 120_000;

/** A small picture of a turnout or a device, as a data address of a JPEG. */
export const Photo = z.strictObject({
  id: Id,
  turnoutId: z.nullable(Id),
  deviceId: z.nullable(Id),
  caption: Name,
  picture: z
    .string()
    .check(
      z.maxLength(MOST_PICTURE, `must have at most ${MOST_PICTURE} characters`),
      z.regex(/^data:image\/jpeg;base64,[A-Za-z0-9+/]+={0,2}$/, "is no JPEG picture"),
    ),
  at: When,
});
export type Photo = z.infer<typeof Photo>;
