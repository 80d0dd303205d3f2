import * as z from "zod/mini";

/** Text in whole characters: a half of a pair (a lone surrogate) can be neither shown nor kept. */
export const Text = z
  .string()
  .check(z.regex(/^[^\p{Cs}\0]*$/u, "must be whole characters: half of one is in it; type it anew"));

/** Identifier of a thing within its railway: lower-case letters, digits and hyphens. */
export const Id = z
  .string()
  .check(z.regex(/^[a-z0-9][a-z0-9-]{0,39}$/, "must be 1 to 40 lower-case letters, digits or hyphens"));

/** Characters that a label may have. */
export const LABEL_LENGTH = 24;

/** What people call a thing: short, visible characters, no blanks at the ends. */
export const Label = z.string().check(
  z.minLength(1, "must not be empty"),
  z.maxLength(LABEL_LENGTH, `must have at most ${LABEL_LENGTH} characters`),
  // joiners belong to emoji and to Persian, Arabic and Indic words
  z.regex(
    /^[^\s\p{C}]((?:[^\p{C}]|[\u200c\u200d])*[^\s\p{C}])?$/u,
    "must not begin or end with a blank or hold control characters",
  ),
);

/** Characters that a name may have. */
export const NAME_LENGTH = 80;

export const Name = z
  .string()
  .check(
    z.maxLength(NAME_LENGTH, `must have at most ${NAME_LENGTH} characters`),
    z.regex(/^(?:[^\p{C}]|[\u200c\u200d])*$/u, "must not hold control characters"),
  );
export const Note = Text.check(z.maxLength(2000, "must have at most 2000 characters"));
export const Order = z.int().check(z.gte(0), z.lte(1_000_000));
/** A length, one way. */
export const Metres = z.number().check(z.gte(0.05, "must be 0.05 to 200 m"), z.lte(200, "must be 0.05 to 200 m"));
/** UTC, ISO 8601. */
export const When = z.iso.datetime();
/** Number of an output, input, zone or contact set. */
export const Way = z.int().check(z.gte(1), z.lte(64));
