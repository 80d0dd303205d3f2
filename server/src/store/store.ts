import { randomBytes } from "node:crypto";
import { EventEmitter } from "node:events";
import {
  type Change,
  type Edit,
  type EditGroup,
  edit,
  type HistoryRow,
  type Kind,
  LISTS,
  type OpenRailway,
  openEnds,
  type RailwayRecord,
  recordError,
  type Summary,
  type Turns,
} from "@alderman/core";
import type Database from "better-sqlite3";
import { type HistoryGroup, historyStatements } from "./history.sql.ts";
import { recordStatements } from "./record.sql.ts";

/** The railway has moved on since the revision that an edit was made against. */
export class StaleError extends Error {
  override readonly name = "StaleError";
  constructor(readonly revision: number) {
    super("The railway was changed in another window since. Look at what it is now, then do this again.");
  }
}

/** There is no railway with the identifier. */
export class NoRailwayError extends Error {
  override readonly name = "NoRailwayError";
  constructor() {
    super("There is no such railway here. It may have been removed; go back to the list of railways.");
  }
}

/** Keeps railways and their history. Each group of edits is one transaction; when it returns, the edit is on disk. */
export class Store {
  /** Emits a railway's identifier with a `Change` after each group, and with null when it is removed. */
  readonly changes = new EventEmitter().setMaxListeners(0);
  private readonly records: ReturnType<typeof recordStatements>;
  private readonly history: ReturnType<typeof historyStatements>;
  private readonly cache = new Map<string, { revision: number; record: RailwayRecord }>();
  private readonly openCounts = new Map<string, { revision: number; count: number }>();
  private readonly listStatement: Database.Statement;
  private readonly revisionStatement: Database.Statement;
  private readonly advanceStatement: Database.Statement;
  private readonly removeStatement: Database.Statement;

  constructor(private readonly database: Database.Database) {
    this.records = recordStatements(database);
    this.history = historyStatements(database);
    this.listStatement = database.prepare(
      `SELECT id, name, revision, changed_at AS changedAt,
              (SELECT count(*) FROM turnout WHERE turnout.railway_id = railway.id) AS turnouts
       FROM railway ORDER BY changed_at DESC, id`,
    );
    this.revisionStatement = database.prepare("SELECT revision FROM railway WHERE id = ?").pluck();
    this.advanceStatement = database.prepare("UPDATE railway SET revision = ?, changed_at = ? WHERE id = ?");
    this.removeStatement = database.prepare("DELETE FROM railway WHERE id = ?");
  }

  list(): Summary[] {
    const rows = this.listStatement.all() as Omit<Summary, "openEnds">[];
    return rows.map((row) => ({ ...row, openEnds: this.openEndsOf(row) }));
  }

  /** Counted once for each revision: it asks for the whole record. */
  private openEndsOf({ id, revision }: { id: string; revision: number }): number {
    const known = this.openCounts.get(id);
    if (known?.revision === revision) return known.count;
    const count = openEnds(this.current(id).record).length;
    this.openCounts.set(id, { revision, count });
    return count;
  }

  /** Takes in a whole railway under a new identifier. */
  create(record: RailwayRecord): string {
    const id = `r${randomBytes(6).toString("hex")}`;
    this.database.transaction(() => {
      this.records.insertRailway(id, record.railway, new Date().toISOString());
      for (const kind of Object.keys(LISTS) as Kind[]) {
        for (const thing of record[LISTS[kind]]) this.records.insert(id, kind, thing);
      }
    })();
    return id;
  }

  /** @throws {NoRailwayError} */
  open(id: string): OpenRailway {
    const { revision, record } = this.current(id);
    return { id, revision, record, ...this.next(id) };
  }

  /**
   * Applies a group of edits made against a revision, in one transaction.
   *
   * @throws {NoRailwayError} | {StaleError} | {RecordError} nothing is changed then
   */
  apply(id: string, revision: number, group: EditGroup): Change {
    return this.commit(id, revision, "edit", null, group);
  }

  /** Undoes the latest group that was not undone yet. @throws {NoRailwayError} | {StaleError} | {RecordError} */
  undo(id: string, revision: number): Change {
    return this.turnBack(id, revision, "undo");
  }

  /** Does again the latest group that was undone. @throws {NoRailwayError} | {StaleError} | {RecordError} */
  redo(id: string, revision: number): Change {
    return this.turnBack(id, revision, "redo");
  }

  /** Groups applied after a revision, for a window to catch up. */
  since(id: string, revision: number): HistoryGroup[] {
    this.current(id);
    return this.history.since(id, revision);
  }

  /** Rows of the history before a revision, the latest first. */
  historyOf(id: string, before: number, most: number): HistoryRow[] {
    this.current(id);
    return this.history.latest(id, before, most);
  }

  remove(id: string): void {
    this.current(id);
    this.removeStatement.run(id);
    this.cache.delete(id);
    this.changes.emit(id, null);
  }

  private turnBack(id: string, revision: number, origin: "undo" | "redo"): Change {
    this.current(id);
    const about = this.history.stacks(id)[origin].at(-1);
    const group = about === undefined ? undefined : this.history.one(id, about);
    if (!group) throw recordError(`There is nothing to ${origin}.`);
    const edits = origin === "undo" ? group.inverses : group.edits;
    return this.commit(id, revision, origin, group.revision, { words: group.words, edits });
  }

  private commit(
    id: string,
    revision: number,
    origin: HistoryRow["origin"],
    about: number | null,
    { words, edits }: EditGroup,
  ): Change {
    const next = this.database
      .transaction(() => {
        const now = this.current(id);
        if (now.revision !== revision) throw new StaleError(now.revision);
        const edited = edit(now.record, edits);
        this.write(id, edits, edited.record);
        const at = new Date().toISOString();
        this.advanceStatement.run(revision + 1, at, id);
        this.history.append(id, { revision: revision + 1, words, origin, about, edits, inverses: edited.inverses, at });
        return { revision: revision + 1, record: edited.record };
      })
      .immediate();
    this.cache.set(id, next);
    const change: Change = { revision: next.revision, words, edits, ...this.next(id) };
    this.changes.emit(id, change);
    return change;
  }

  /** Writes the things that the edits touch as they stand in the new record: taken out first, so that labels can change hands. */
  private write(id: string, edits: readonly Edit[], record: RailwayRecord): void {
    const last = new Map<string, Edit>();
    for (const each of edits) {
      if (each.op === "railway") this.records.setRailway(id, record.railway);
      else last.set(`${each.kind}:${each.op === "put" ? each.value.id : each.id}`, each);
    }
    for (const each of last.values()) {
      if (each.op === "put") this.records.remove(id, each.kind, each.value.id);
      else if (each.op === "remove") this.records.remove(id, each.kind, each.id);
    }
    for (const each of last.values()) {
      if (each.op === "put") this.records.insert(id, each.kind as Kind, each.value as never);
    }
  }

  private current(id: string): { revision: number; record: RailwayRecord } {
    const revision = this.revisionStatement.get(id) as number | undefined;
    if (revision === undefined) throw new NoRailwayError();
    const cached = this.cache.get(id);
    if (cached?.revision === revision) return cached;
    const record = this.records.load(id);
    if (!record) throw new NoRailwayError();
    const loaded = { revision, record };
    this.cache.set(id, loaded);
    return loaded;
  }

  private next(id: string): Turns {
    const { undo, redo } = this.history.stacks(id);
    const words = (revision: number | undefined) =>
      revision === undefined ? null : (this.history.one(id, revision)?.words ?? null);
    return { undo: words(undo.at(-1)), redo: words(redo.at(-1)) };
  }
}
