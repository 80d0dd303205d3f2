import * as z from "zod/mini";
import { Edit } from "./edits.ts";
import { KIND_ENTRIES, KINDS, type Kind, type RailwayRecord } from "./kinds.ts";
import { Railway } from "./schemas.ts";

// What server and interface tell each other about a railway; docs/http.md says when.

/** Identifier of a group of edits, made by whoever sends it: the stamp of the revision that it makes. */
export const Stamp = z.string().check(z.regex(/^[A-Za-z0-9-]{1,64}$/, "must be 1 to 64 letters, digits or hyphens"));

/** A record as it is sent: its lists, and the railway's own fields. */
export const RecordMessage = z.strictObject({
  railway: Railway,
  ...Object.fromEntries(KIND_ENTRIES.map(([, { list, schema }]) => [list, z.array(schema)])),
}) as unknown as z.ZodMiniType<RailwayRecord>;

/** A railway in the list. */
export const Summary = z.object({
  id: z.string(),
  name: z.string(),
  revision: z.int().check(z.gte(0)),
  turnouts: z.int().check(z.gte(0)),
  /** Things left open: noted by hand, or seen in the record. */
  openEnds: z.int().check(z.gte(0)),
  /** ISO 8601. */
  changedAt: z.string(),
  /** Why it cannot be read; null when it can. */
  problem: z.nullable(z.string()),
});
export type Summary = z.infer<typeof Summary>;

/** What undo and redo would do next, in words; null when there is nothing. */
export const Turns = z.object({ undo: z.nullable(z.string()), redo: z.nullable(z.string()) });
export type Turns = z.infer<typeof Turns>;

/** A state of a railway: the number of its revision, and the stamp of the group that made it (of revision 0: the railway's identifier). */
export const Version = z.object({ revision: z.int().check(z.gte(0)), stamp: z.string() });
export type Version = z.infer<typeof Version>;

/** A railway as it is opened. */
export const OpenRailway = z.object({ id: z.string(), ...Version.shape, record: RecordMessage, ...Turns.shape });
export type OpenRailway = z.infer<typeof OpenRailway>;

/** Where a group comes from: by hand, or turned back; a plan is what follows of the loom for the groups before it, where that takes a while. */
export const Origin = z.enum(["edit", "undo", "redo", "plan"]);
export type Origin = z.infer<typeof Origin>;

/** What a window is answered after its group was applied: the revision that it made. */
export const Applied = z.object({
  ...Version.shape,
  words: z.string(),
  origin: Origin,
  ...Turns.shape,
  /** What follows from the edits of strips, cables and wires that are proposed. */
  proposed: z.array(Edit),
});
export type Applied = z.infer<typeof Applied>;

/** What all open windows are told after a group was applied. */
export const Change = z.object({
  ...Version.shape,
  words: z.string(),
  origin: Origin,
  ...Turns.shape,
  edits: z.array(Edit),
});
export type Change = z.infer<typeof Change>;

/** Fields that a window had set and did not keep, since another one had set them otherwise: told to the others. */
export const Clash = z.object({
  /** Identifier of what it did. */
  by: Stamp,
  words: z.string().check(z.maxLength(200)),
  things: z
    .array(
      z.object({
        kind: z.enum(Object.keys(KINDS) as [Kind, ...Kind[]]),
        id: z.string().check(z.maxLength(64)),
        fields: z.record(z.string().check(z.regex(/^[A-Za-z]{1,40}$/)), z.unknown()),
      }),
    )
    .check(z.minLength(1), z.maxLength(200)),
});
export type Clash = z.infer<typeof Clash>;

/** A group that a window has missed. */
export const MissedChange = z.object({ ...Version.shape, words: z.string(), origin: Origin, edits: z.array(Edit) });
export type MissedChange = z.infer<typeof MissedChange>;

/** One row of the history: what was done, with what follows from it. */
export const HistoryRow = z.object({
  revision: z.int().check(z.gte(1)),
  words: z.string(),
  origin: z.enum(["edit", "undo", "redo"]),
  /** Revision of the group that an undo or redo is about. */
  about: z.nullable(z.int()),
  /** ISO 8601. */
  at: z.string(),
});
export type HistoryRow = z.infer<typeof HistoryRow>;

/** How much the history of a railway holds: groups, how many of them are packed, and bytes of all. */
export const HistorySize = z.object({ groups: z.number(), packed: z.number(), bytes: z.number() });
export type HistorySize = z.infer<typeof HistorySize>;

/** What is told with a refusal. */
export const Refusal = z.object({
  error: z.object({
    message: z.string(),
    /** The server's history is not the one that the window knows: a backup was put back, or the window is of other data. */
    diverged: z.optional(z.boolean()),
  }),
});
