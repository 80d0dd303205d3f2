import { deflateRawSync, inflateRawSync } from "node:zlib";
import type { Edit, HistoryRow, HistorySize, Origin } from "@alderman/core";
import type Database from "better-sqlite3";

/** One group of edits as it was applied. */
export interface HistoryGroup extends Omit<HistoryRow, "origin"> {
  origin: Origin;
  /** Identifier of the group. */
  stamp: string;
  edits: Edit[];
  inverses: Edit[];
}

/** The latest groups of a railway, which are kept as they are: those that somebody may undo, or that a window may have missed. */
export const NOT_PACKED = 200;
/** Groups that are packed at a time, some milliseconds' work. */
const PACKED_AT_ONCE = 50;

/** A group's edits as its row holds them: as two texts, or both packed. */
interface Held {
  edits: string;
  inverses: string;
  packed: Buffer | null;
}

const packed = ({ edits, inverses }: Pick<Held, "edits" | "inverses">): Buffer =>
  deflateRawSync(`${edits.length} ${edits}${inverses}`);

function unpacked(row: Held): Pick<Held, "edits" | "inverses"> {
  if (row.packed === null) return row;
  const text = inflateRawSync(row.packed).toString("utf8");
  const from = text.indexOf(" ") + 1;
  const to = from + Number.parseInt(text, 10);
  return { edits: text.slice(from, to), inverses: text.slice(to) };
}

/** Puts what is packed back into columns of its own, as migrations of the history expect it. */
export function unpackAll(database: Database.Database): void {
  const put = database.prepare(
    "UPDATE history SET edits = ?, inverses = ?, packed = NULL WHERE railway_id = ? AND revision = ?",
  );
  const next = database.prepare("SELECT * FROM history WHERE packed IS NOT NULL LIMIT 100");
  for (;;) {
    const rows = next.all() as (Held & { railway_id: string; revision: number })[];
    if (rows.length === 0) return;
    for (const row of rows) {
      const { edits, inverses } = unpacked(row);
      put.run(edits, inverses, row.railway_id, row.revision);
    }
  }
}

/** Statements of the history, prepared once. */
export function historyStatements(database: Database.Database) {
  const append = database.prepare(
    `INSERT INTO history (railway_id, revision, stamp, words, origin, about, edits, inverses, at) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?)`,
  );
  const one = database.prepare("SELECT * FROM history WHERE railway_id = ? AND revision = ?");
  const plansAfter = database.prepare(
    "SELECT * FROM history WHERE railway_id = ? AND about = ? AND origin = 'plan' ORDER BY revision",
  );
  const stamped = database.prepare("SELECT * FROM history WHERE railway_id = ? AND stamp = ?");
  const since = database.prepare("SELECT * FROM history WHERE railway_id = ? AND revision > ? ORDER BY revision");
  const stampOf = database.prepare("SELECT stamp FROM history WHERE railway_id = ? AND revision = ?").pluck();
  const wordsOf = database.prepare("SELECT words FROM history WHERE railway_id = ? AND revision = ?").pluck();
  const light = database.prepare(
    "SELECT revision, origin, about FROM history WHERE railway_id = ? AND revision > ? ORDER BY revision",
  );
  const latest = database.prepare(
    `SELECT revision, words, origin, about, at FROM history WHERE railway_id = ? AND revision < ? AND origin <> 'plan' ORDER BY revision DESC LIMIT ?`,
  );
  const notPacked = database.prepare(
    "SELECT revision, edits, inverses FROM history WHERE railway_id = ? AND packed IS NULL AND revision <= ? ORDER BY revision LIMIT ?",
  );
  const pack = database.prepare(
    "UPDATE history SET edits = '', inverses = '', packed = ? WHERE railway_id = ? AND revision = ?",
  );
  const size = database.prepare(
    `SELECT count(*) AS groups, count(packed) AS packed,
            coalesce(sum(octet_length(edits) + octet_length(inverses) + coalesce(octet_length(packed), 0)), 0) AS bytes
     FROM history WHERE railway_id = ?`,
  );
  const full = (row: unknown): HistoryGroup => {
    const {
      railway_id,
      edits: _edits,
      inverses: _inverses,
      packed: _packed,
      ...rest
    } = row as HistoryRow & Held & { railway_id: string; stamp: string };
    const { edits, inverses } = unpacked(row as Held);
    return { ...rest, edits: JSON.parse(edits), inverses: JSON.parse(inverses) };
  };
  return {
    append: (railwayId: string, group: HistoryGroup) =>
      append.run(
        railwayId,
        group.revision,
        group.stamp,
        group.words,
        group.origin,
        group.about,
        JSON.stringify(group.edits),
        JSON.stringify(group.inverses),
        group.at,
      ),
    /** A group and the plans about it, in their order; none when there is no such group. */
    withPlans: (railwayId: string, revision: number): HistoryGroup[] => {
      const row = one.get(railwayId, revision);
      return row === undefined ? [] : [row, ...plansAfter.all(railwayId, revision)].map(full);
    },
    /** The group with a stamp, when it was applied already. */
    stamped: (railwayId: string, stamp: string): HistoryGroup | undefined => {
      const row = stamped.get(railwayId, stamp);
      return row === undefined ? undefined : full(row);
    },
    since: (railwayId: string, revision: number): HistoryGroup[] => since.all(railwayId, revision).map(full),
    latest: (railwayId: string, before: number, most: number) => latest.all(railwayId, before, most) as HistoryRow[],
    /** Packs some of the groups that are older than the latest. @param revision of the latest */
    packOld: (railwayId: string, revision: number) => {
      const rows = notPacked.all(railwayId, revision - NOT_PACKED, PACKED_AT_ONCE) as (Held & { revision: number })[];
      for (const row of rows) pack.run(packed(row), railwayId, row.revision);
    },
    size: (railwayId: string) => size.get(railwayId) as HistorySize,
    stampOf: (railwayId: string, revision: number) => stampOf.get(railwayId, revision) as string | undefined,
    wordsOf: (railwayId: string, revision: number) => wordsOf.get(railwayId, revision) as string | undefined,
    /** What turned what back, after a revision. */
    turnsAfter: (railwayId: string, revision: number) => light.all(railwayId, revision) as Turn[],
  };
}

/** A group as far as undo and redo go. */
type Turn = Pick<HistoryGroup, "revision" | "origin" | "about">;

/** Revisions that can be undone and redone, the next one last. */
export interface Stacks {
  undo: readonly number[];
  redo: readonly number[];
}

export const NO_STACKS: Stacks = { undo: [], redo: [] };

/** The stacks after some more groups: an edit clears what could be redone, and a plan goes with the edit that it is about. */
export function turned(stacks: Stacks, turns: readonly Turn[]): Stacks {
  if (turns.length === 0) return stacks;
  const undo = [...stacks.undo];
  let redo = [...stacks.redo];
  for (const { origin, revision } of turns) {
    if (origin === "edit") {
      undo.push(revision);
      redo = [];
    } else if (origin === "undo") redo.push(undo.pop() ?? 0);
    else if (origin === "redo") undo.push(redo.pop() ?? 0);
  }
  return { undo, redo };
}
