import type { Edit, HistoryRow } from "@alderman/core";
import type Database from "better-sqlite3";

/** One group of edits as it was applied. */
export interface HistoryGroup extends HistoryRow {
  /** Identifier of the group. */
  stamp: string;
  edits: Edit[];
  inverses: Edit[];
}

/** Statements of the history, prepared once. */
export function historyStatements(database: Database.Database) {
  const append = database.prepare(
    `INSERT INTO history (railway_id, revision, stamp, words, origin, about, edits, inverses, at) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?)`,
  );
  const one = database.prepare("SELECT * FROM history WHERE railway_id = ? AND revision = ?");
  const stamped = database.prepare("SELECT * FROM history WHERE railway_id = ? AND stamp = ?");
  const since = database.prepare("SELECT * FROM history WHERE railway_id = ? AND revision > ? ORDER BY revision");
  const stampOf = database.prepare("SELECT stamp FROM history WHERE railway_id = ? AND revision = ?").pluck();
  const wordsOf = database.prepare("SELECT words FROM history WHERE railway_id = ? AND revision = ?").pluck();
  const light = database.prepare(
    "SELECT revision, origin, about FROM history WHERE railway_id = ? AND revision > ? ORDER BY revision",
  );
  const latest = database.prepare(
    `SELECT revision, words, origin, about, at FROM history WHERE railway_id = ? AND revision < ? ORDER BY revision DESC LIMIT ?`,
  );
  const full = (row: unknown): HistoryGroup => {
    const { railway_id, edits, inverses, ...rest } = row as Omit<HistoryGroup, "edits" | "inverses"> & {
      railway_id: string;
      edits: string;
      inverses: string;
    };
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
    one: (railwayId: string, revision: number): HistoryGroup | undefined => {
      const row = one.get(railwayId, revision);
      return row === undefined ? undefined : full(row);
    },
    /** The group with a stamp, when it was applied already. */
    stamped: (railwayId: string, stamp: string): HistoryGroup | undefined => {
      const row = stamped.get(railwayId, stamp);
      return row === undefined ? undefined : full(row);
    },
    since: (railwayId: string, revision: number): HistoryGroup[] => since.all(railwayId, revision).map(full),
    latest: (railwayId: string, before: number, most: number) => latest.all(railwayId, before, most) as HistoryRow[],

    stampOf: (railwayId: string, revision: number) => stampOf.get(railwayId, revision) as string | undefined,
    wordsOf: (railwayId: string, revision: number) => wordsOf.get(railwayId, revision) as string | undefined,
    /** What turned what back, after a revision. */
    turnsAfter: (railwayId: string, revision: number) => light.all(railwayId, revision) as Turn[],
  };
}

/** A group as far as undo and redo go. */
type Turn = Pick<HistoryRow, "revision" | "origin" | "about">;

/** Revisions that can be undone and redone, the next one last. */
export interface Stacks {
  undo: readonly number[];
  redo: readonly number[];
}

export const NO_STACKS: Stacks = { undo: [], redo: [] };

/** The stacks after some more groups: an edit clears what could be redone. */
export function turned(stacks: Stacks, turns: readonly Turn[]): Stacks {
  if (turns.length === 0) return stacks;
  const undo = [...stacks.undo];
  let redo = [...stacks.redo];
  for (const { origin, revision } of turns) {
    if (origin === "edit") {
      undo.push(revision);
      redo = [];
    } else if (origin === "undo") redo.push(undo.pop() ?? 0);
    else undo.push(redo.pop() ?? 0);
  }
  return { undo, redo };
}
