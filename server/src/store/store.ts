import { randomBytes } from "node:crypto";
import { EventEmitter } from "node:events";
import {
  atOnce,
  type Change,
  type Clash,
  completed,
  completionOf,
  type Edit,
  type EditGroup,
  edit,
  find,
  type HistoryRow,
  type HistorySize,
  type Kind,
  LISTS,
  type OpenRailway,
  type Origin,
  openEnds,
  type Planned,
  type RailwayRecord,
  recordError,
  type Steps,
  type Summary,
  type Turns,
  type Version,
} from "@alderman/core";
import type Database from "better-sqlite3";
import { inTurns } from "../inTurns.ts";
import { UnreadableRowError } from "./codec.ts";
import { lookThrough } from "./database.ts";
import { type HistoryGroup, historyStatements, NO_STACKS, type Stacks, turned } from "./history.sql.ts";
import { type Current, Plans } from "./plans.ts";
import { Recent } from "./recent.ts";
import { recordStatements } from "./record.sql.ts";

/** The railway has moved on since the revision that an edit was made against. */
export class StaleError extends Error {
  override readonly name = "StaleError";
  constructor(readonly revision: number) {
    super("The railway was changed in another window since. Look at what it is now, then do this again.");
  }
}

/** The revision that an edit was made against is none of this railway's history: a backup was put back since, or more. */
export class DivergedError extends Error {
  override readonly name = "DivergedError";
  constructor(readonly revision: number) {
    super(
      "The file of this railway does not go on from what this window knows: an older one was put back, or another one in its place.",
    );
  }
}

/** There is no railway with the identifier. */
export class NoRailwayError extends Error {
  override readonly name = "NoRailwayError";
  constructor() {
    super("There is no such railway here. It may have been removed; go back to the list of railways.");
  }
}

/** What an edit was made against, and what it is to be called. */
export interface Base {
  revision: number;
  /** Stamp of that revision; not looked at when not said. */
  stamp?: string | undefined;
  /** Stamp of the revision that the group makes; a group whose stamp is known was applied before, and is not applied again. */
  makes?: string | undefined;
}

/** Railways whose records, and what follows from them, are kept at hand: as many as anybody works on at a time. */
const RAILWAYS_KEPT = 8;
/** Railways of fewer turnouts are planned along with each edit; larger ones, where that takes up to some seconds, afterwards. */
const LARGE = 300;
/** Railways of which it is kept what could be undone: a few numbers each. */
const STACKS_KEPT = 200;

/** Emitted by `changes` when another database has taken the place of the one before. */
export const OTHER_DATABASE = Symbol("another database");

/** Name under which `changes` emits what windows of a railway did not keep. */
export const clashesOf = (id: string) => `clash ${id}`;

/** Keeps railways and their history. Each group of edits is one transaction; when it returns, the edit is on disk. */
export class Store {
  /** Emits a railway's identifier with a `Change` after each group, and with null when it is removed. */
  readonly changes = new EventEmitter().setMaxListeners(0);
  private database!: Database.Database;
  private records!: ReturnType<typeof recordStatements>;
  private history!: ReturnType<typeof historyStatements>;
  private readonly cache = new Recent<Current>(RAILWAYS_KEPT);
  private readonly plans: Plans;
  /** What could be undone and redone of railways that were asked about, at a revision. */
  private readonly stacks = new Recent<Stacks & { revision: number }>(STACKS_KEPT);
  private listStatement!: Database.Statement;
  private countStatement!: Database.Statement;
  private revisionStatement!: Database.Statement;
  private advanceStatement!: Database.Statement;
  private removeStatement!: Database.Statement;

  /**
   * @param later does work in steps that nobody waits for
   * @param large turnouts from which on a railway is planned after its edits, not along with them
   */
  constructor(
    database: Database.Database,
    private readonly later: (steps: Steps<void>) => void = inTurns,
    large = LARGE,
  ) {
    this.plans = new Plans(RAILWAYS_KEPT, large);
    this.use(database);
  }

  /** Goes on with another database; whoever listens is let go, and asks anew. */
  use(database: Database.Database): void {
    this.database = database;
    for (const known of [this.cache, this.plans, this.stacks]) known.clear();
    this.records = recordStatements(database);
    this.history = historyStatements(database);
    this.listStatement = database.prepare(
      `SELECT id, name, revision, changed_at AS changedAt, open_ends AS openEnds,
              (SELECT count(*) FROM turnout WHERE turnout.railway_id = railway.id) AS turnouts
       FROM railway ORDER BY changed_at DESC, id`,
    );
    this.revisionStatement = database.prepare("SELECT revision FROM railway WHERE id = ?").pluck();
    this.advanceStatement = database.prepare(
      "UPDATE railway SET revision = ?, changed_at = ?, open_ends = NULL WHERE id = ?",
    );
    this.countStatement = database.prepare("UPDATE railway SET open_ends = ? WHERE id = ?");
    this.removeStatement = database.prepare("DELETE FROM railway WHERE id = ?");
    this.changes.emit(OTHER_DATABASE);
  }

  /** The file that holds the railways. */
  get file(): string {
    return this.database.name;
  }

  list(): Summary[] {
    const rows = this.listStatement.all() as (Omit<Summary, "openEnds" | "problem"> & { openEnds: number | null })[];
    return rows.map((row) => {
      try {
        return { ...row, openEnds: row.openEnds ?? this.countOpenEnds(row.id), problem: null };
      } catch (error) {
        // one that cannot be read takes nothing from the others
        if (!(error instanceof UnreadableRowError)) throw error;
        return { ...row, openEnds: 0, problem: error.message };
      }
    });
  }

  /** Counted once after each edit, since it asks for the whole record. */
  private countOpenEnds(id: string): number {
    const count = openEnds(this.current(id).record).length;
    this.countStatement.run(count, id);
    return count;
  }

  /** Takes in a whole railway under a new identifier, with what is proposed of its loom. */
  create(given: RailwayRecord): string {
    const record = inOrder(completed(given));
    const id = `r${randomBytes(6).toString("hex")}`;
    this.database.transaction(() => {
      this.records.insertRailway(id, record.railway, new Date().toISOString());
      for (const kind of Object.keys(LISTS) as Kind[]) {
        for (const thing of record[LISTS[kind]]) this.records.insert(id, kind, thing);
      }
      this.countStatement.run(openEnds(record).length, id);
    })();
    this.cache.set(id, { revision: 0, record });
    lookThrough(this.database);
    return id;
  }

  has(id: string): boolean {
    return this.revisionStatement.get(id) !== undefined;
  }

  /** @throws {NoRailwayError} */
  open(id: string): OpenRailway {
    const { revision, record } = this.current(id);
    return { id, revision, stamp: this.stampOf(id, revision), record, ...this.next(id) };
  }

  /** The same in steps: a large railway that is not at hand takes a while to be read. @throws {NoRailwayError} */
  *opening(id: string): Steps<OpenRailway> {
    const { database } = this;
    const revision = this.revisionOf(id);
    const steps = this.loading(id);
    // one that was edited or opened meanwhile is at hand
    const isUnread = () => this.cache.get(id)?.revision !== revision && this.revisionStatement.get(id) === revision;
    while (this.database === database && isUnread()) {
      const { done, value } = steps.next();
      if (done) this.cache.set(id, { revision, record: value });
      else yield;
    }
    return this.open(id);
  }

  /**
   * Plans a railway in steps: for the first edit after it was opened, which would otherwise wait for it, or after an edit that did
   * not. What is proposed then, and not yet in the record, is written down. Nothing when the railway is not at hand; ends when it is
   * edited meanwhile.
   */
  *planAhead(id: string): Steps<void> {
    const cached = this.cache.get(id);
    if (!cached) return;
    try {
      const planned = yield* this.plans.ahead(id, cached, () => this.cache.get(id) === cached);
      if (planned) yield* this.follow(id, cached, planned);
    } catch {
      // nobody waits for this: the next edit meets the same, and says so to who made it
    }
  }

  /**
   * Writes down what is proposed of the loom after the last edit, to be undone with it. While something could be redone that was done
   * on the record as it is, it is left to the next edit.
   */
  private *follow(id: string, cached: Current, planned: Planned): Steps<void> {
    const { revision, record } = cached;
    const { undo, redo } = this.stacksOf(id);
    const about = undo.at(-1);
    if (about === undefined || redo.length > 0) return;
    yield;
    const edits = completionOf(record, planned.loom);
    yield;
    if (edits.length === 0 || this.cache.get(id) !== cached) return;
    this.commit(id, { revision }, "plan", () => ({ about, edits, words: this.history.wordsOf(id, about) ?? "" }));
  }

  /**
   * Applies a group of edits made against a revision, in one transaction.
   *
   * @throws {NoRailwayError} | {StaleError} | {DivergedError} | {RecordError} nothing is changed then
   */
  apply(id: string, base: Base, group: EditGroup): Change {
    return this.commit(id, base, "edit", () => ({ about: null, ...group }));
  }

  /** Undoes the latest group that was not undone yet. @throws as `apply` */
  undo(id: string, base: Base): Change {
    return this.turnBack(id, base, "undo");
  }

  /** Does again the latest group that was undone. @throws as `apply` */
  redo(id: string, base: Base): Change {
    return this.turnBack(id, base, "redo");
  }

  /** Groups applied after a revision, for a window to catch up. @throws {NoRailwayError} | {DivergedError} */
  since(id: string, { revision, stamp }: Base): HistoryGroup[] {
    this.requireKnown(id, this.revisionOf(id), { revision, stamp });
    return this.history.since(id, revision);
  }

  /** Those of some stamps whose groups were applied. @throws {NoRailwayError} */
  applied(id: string, stamps: readonly string[]): string[] {
    this.revisionOf(id);
    return stamps.filter((stamp) => this.history.stamped(id, stamp) !== undefined);
  }

  /** Where a railway stands, and what undo and redo would do. @throws {NoRailwayError} */
  version(id: string): Version & Turns {
    const revision = this.revisionOf(id);
    return { revision, stamp: this.stampOf(id, revision), ...this.next(id) };
  }

  /** Stamp of a revision; of the first, before anything was edited, the railway's identifier. */
  private stampOf(id: string, revision: number): string {
    return revision === 0 ? id : (this.history.stampOf(id, revision) ?? id);
  }

  /** Refuses a base that is none of the railway's own revisions. */
  private requireKnown(id: string, now: number, { revision, stamp }: Base): void {
    const known = revision <= now && (stamp === undefined || this.stampOf(id, revision) === stamp);
    if (!known) throw new DivergedError(now);
  }

  /** Tells those who listen to a railway of what a window did not keep. @throws {NoRailwayError} */
  tellOfClash(id: string, clash: Clash): void {
    this.revisionOf(id);
    this.changes.emit(clashesOf(id), clash);
  }

  /** Rows of the history before a revision, the latest first. */
  historyOf(id: string, before: number, most: number): HistoryRow[] {
    this.revisionOf(id);
    return this.history.latest(id, before, most);
  }

  /** How much the history of a railway holds. @throws {NoRailwayError} */
  historySize(id: string): HistorySize {
    this.revisionOf(id);
    return this.history.size(id);
  }

  /** Everything that the database holds of a railway, row by row, whether it can be read or not. @throws {NoRailwayError} */
  rows(id: string): Record<string, unknown[]> {
    const rows = this.records.rows(id);
    if (!rows) throw new NoRailwayError();
    return rows;
  }

  remove(id: string): void {
    if (this.revisionStatement.get(id) === undefined) throw new NoRailwayError();
    this.removeStatement.run(id);
    this.cache.delete(id);
    this.plans.delete(id);
    this.stacks.delete(id);
    this.changes.emit(id, null);
  }

  private turnBack(id: string, base: Base, origin: "undo" | "redo"): Change {
    return this.commit(id, base, origin, () => {
      const about = this.stacksOf(id)[origin].at(-1);
      const groups = about === undefined ? [] : this.history.withPlans(id, about);
      const [group] = groups;
      if (!group) throw recordError(`There is nothing to ${origin}.`);
      const edits =
        origin === "undo" ? groups.reverse().flatMap(({ inverses }) => inverses) : groups.flatMap(({ edits }) => edits);
      return { about: group.revision, words: group.words, edits };
    });
  }

  /** Applies what `make` gives, unless a group of the same stamp was applied before. */
  private commit(
    id: string,
    { revision, stamp, makes = randomBytes(8).toString("hex") }: Base,
    origin: Origin,
    make: () => EditGroup & { about: number | null },
  ): Change {
    const before = this.history.stamped(id, makes);
    if (before) return this.changeOf(id, before);
    const next = this.database
      .transaction(() => {
        const now = this.current(id);
        this.requireKnown(id, now.revision, { revision, stamp });
        if (now.revision !== revision) throw new StaleError(now.revision);
        const { words, edits: given, about } = make();
        const edited = edit(now.record, given);
        const { edits, record, inverses, planned } = this.plans.along(id, given, edited);
        this.write(id, edits, now.record, record);
        const at = new Date().toISOString();
        this.advanceStatement.run(revision + 1, at, id);
        const group = { revision: revision + 1, stamp: makes, words, origin, about, edits, at };
        this.history.append(id, { ...group, inverses });
        this.history.packOld(id, group.revision);
        return { group, record, planned };
      })
      .immediate();
    const made = next.group.revision;
    this.cache.set(id, { revision: made, record: next.record });
    // a plan holds what was planned for the revision before it
    const planned = next.planned ?? (origin === "plan" ? this.plans.of(id) : null);
    if (planned) this.plans.keep(id, planned, made);
    const change = this.changeOf(id, next.group);
    this.changes.emit(id, change);
    if (!this.plans.isAt(id, made)) this.later(this.planAhead(id));
    return change;
  }

  private changeOf(id: string, { revision, stamp, words, origin, edits }: Omit<HistoryGroup, "inverses">): Change {
    return { revision, stamp, words, origin, edits, ...this.next(id) };
  }

  /**
   * Writes the things that the edits touch as they stand in the new record. Those whose labels or places may go to others are
   * taken out first; of the rest what changed is written over, so that nothing has to be looked for that refers to them.
   */
  private write(id: string, edits: readonly Edit[], before: RailwayRecord, record: RailwayRecord): void {
    const last = new Map<string, Exclude<Edit, { op: "railway" }>>();
    for (const each of edits) {
      if (each.op === "railway") this.records.setRailway(id, record.railway);
      else last.set(`${each.kind}:${each.op === "put" ? each.value.id : each.id}`, each);
    }
    const puts: (() => void)[] = [];
    for (const each of last.values()) {
      const { kind } = each;
      if (each.op === "remove") {
        this.records.remove(id, kind, each.id);
        continue;
      }
      const { value } = each;
      const old = find(before, kind, value.id);
      const differences = old && this.records.differences(kind, old, value);
      if (differences && !this.records.changesHands(kind, differences)) {
        puts.push(() => this.records.change(id, kind, value, differences));
        continue;
      }
      if (old) this.records.remove(id, kind, value.id);
      puts.push(() => this.records.put(id, kind, value));
    }
    for (const put of puts) put();
  }

  /** @throws {NoRailwayError} */
  private revisionOf(id: string): number {
    const revision = this.revisionStatement.get(id) as number | undefined;
    if (revision === undefined) throw new NoRailwayError();
    return revision;
  }

  private current(id: string): Current {
    const revision = this.revisionOf(id);
    const cached = this.cache.get(id);
    if (cached?.revision === revision) return cached;
    const loaded = { revision, record: atOnce(this.loading(id)) };
    this.cache.set(id, loaded);
    return loaded;
  }

  private *loading(id: string): Steps<RailwayRecord> {
    try {
      const record = yield* this.records.loading(id);
      if (record) return record;
    } catch (error) {
      // the list reads it again next time, and says what is wrong with it
      if (error instanceof UnreadableRowError) this.countStatement.run(null, id);
      throw error;
    }
    throw new NoRailwayError();
  }

  /** What could be undone and redone: read from the history once, and carried on with each group. */
  private stacksOf(id: string): Stacks {
    const revision = this.revisionOf(id);
    const known = this.stacks.get(id);
    const from = known && known.revision <= revision ? known : { revision: 0, ...NO_STACKS };
    const stacks = from.revision === revision ? from : turned(from, this.history.turnsAfter(id, from.revision));
    this.stacks.set(id, { ...stacks, revision });
    return stacks;
  }

  private next(id: string): Turns {
    const { undo, redo } = this.stacksOf(id);
    const words = (revision: number | undefined) =>
      revision === undefined ? null : (this.history.wordsOf(id, revision) ?? null);
    return { undo: words(undo.at(-1)), redo: words(redo.at(-1)) };
  }
}

/** A record with its lists in the order in which they are read. */
function inOrder(record: RailwayRecord): RailwayRecord {
  const lists = Object.values(LISTS).map((list) => [list, [...record[list]].sort((a, b) => (a.id < b.id ? -1 : 1))]);
  return { ...record, ...Object.fromEntries(lists) };
}
