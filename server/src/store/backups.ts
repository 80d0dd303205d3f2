import {
  chmodSync,
  closeSync,
  copyFileSync,
  existsSync,
  fsyncSync,
  mkdirSync,
  openSync,
  readdirSync,
  renameSync,
  rmSync,
  statSync,
} from "node:fs";
import { join } from "node:path";
import Database from "better-sqlite3";

/** Why a backup was made: each day, before its form was brought up to date, at somebody's wish, or before another took its place. */
export type BackupKind = "daily" | "before-update" | "asked" | "replaced";

/** A backup as it is listed. */
export interface Backup {
  /** Name of its file in the folder of backups. */
  name: string;
  kind: BackupKind;
  /** When it was made, ISO 8601. */
  at: string;
  bytes: number;
}

/** A backup, or the database, that cannot be used; says why. */
export class BackupError extends Error {
  override readonly name = "BackupError";
}

const NAME = /^alderman-(daily|before-update|asked|replaced)-(\d{4}-\d{2}-\d{2})T(\d{2})-(\d{2})-(\d{2})-(\d{3})Z\.db$/;
const DAY = 24 * 3600 * 1000;
/** Daily ones that are kept: one of each of so many days, and then of so many weeks. */
const DAYS = 7;
const WEEKS = 4;
/** Of those before an update, and of those that another took the place of, so many. */
const OTHERS = 5;

export const databaseFile = (folder: string) => join(folder, "alderman.db");

export const backupsFolder = (folder: string) => join(folder, "backups");

const nameOf = (kind: BackupKind, at: Date) => `alderman-${kind}-${at.toISOString().replaceAll(/[:.]/g, "-")}.db`;

/** All backups of a folder, the latest first. */
export function listBackups(folder: string): Backup[] {
  const backups = backupsFolder(folder);
  if (!existsSync(backups)) return [];
  return readdirSync(backups)
    .flatMap((name): Backup[] => {
      const parts = NAME.exec(name);
      if (!parts) return [];
      const [, kind, date, hours, minutes, seconds, thousandths] = parts;
      const at = `${date}T${hours}:${minutes}:${seconds}.${thousandths}Z`;
      return [{ name, kind: kind as BackupKind, at, bytes: statSync(join(backups, name)).size }];
    })
    .sort(latestFirst);
}

/**
 * Writes a backup of an open database, reads it over, and only then gives it its name.
 *
 * @throws {BackupError} when what was written is not sound; {Error} with SQLite's code when it cannot be written
 */
export function makeBackup(database: Database.Database, folder: string, kind: BackupKind, now = new Date()): Backup {
  const backups = backupsFolder(folder);
  mkdirSync(backups, { recursive: true, mode: 0o700 });
  const name = nameOf(kind, now);
  const file = join(backups, name);
  const partial = `${file}.partial`;
  try {
    database.prepare("VACUUM INTO ?").run(partial);
    chmodSync(partial, 0o600);
    requireSound(partial);
    syncFile(partial);
    renameSync(partial, file);
  } finally {
    rmSync(partial, { force: true });
  }
  return { name, kind, at: now.toISOString(), bytes: statSync(file).size };
}

/** Makes the day's backup when there is none of the last day, and clears away what need not be kept. @returns it, or null */
export function backUpDaily(database: Database.Database, folder: string, now = new Date()): Backup | null {
  // one of a day to come was made while the clock was wrong, and says nothing of today
  const age = ({ at }: Backup) => now.getTime() - Date.parse(at);
  const latest = listBackups(folder).find((backup) => backup.kind === "daily" && age(backup) >= 0);
  if (latest && age(latest) < DAY) return null;
  const made = makeBackup(database, folder, "daily", now);
  clearAway(folder, now);
  return made;
}

/** Removes backups that need not be kept by the rule: one a day for a week, one a week for four; those made at a wish stay. */
export function clearAway(folder: string, now = new Date()): void {
  const kept = new Set(toKeep(listBackups(folder), now).map(({ name }) => name));
  const gone = listBackups(folder).filter(({ name }) => !kept.has(name));
  for (const { name } of gone)
    for (const end of ["", LOG, SHARED]) rmSync(join(backupsFolder(folder), `${name}${end}`), { force: true });
}

/** Which of some backups are kept, the latest first: the latest of each of the last days, and the first of each week before. */
export function toKeep(backups: readonly Backup[], now: Date): Backup[] {
  const sorted = [...backups].sort(latestFirst);
  const today = dayOf(now.toISOString());
  const daily = sorted.filter(({ kind }) => kind === "daily");
  const recent = daily.filter(({ at }) => today - dayOf(at) < DAYS);
  const latestOfDay = new Map(recent.toReversed().map((backup) => [dayOf(backup.at), backup]));
  // the first of a week stays the first, whatever has gone meanwhile
  const older = daily.filter((backup) => !recent.includes(backup));
  const firstOfWeek = new Map(older.map((backup) => [Math.floor(dayOf(backup.at) / 7), backup]));
  const kept = new Set<Backup>([...latestOfDay.values(), ...[...firstOfWeek.values()].slice(0, WEEKS)]);
  for (const kind of ["before-update", "replaced"] as const)
    for (const backup of sorted.filter((each) => each.kind === kind).slice(0, OTHERS)) kept.add(backup);
  return sorted.filter((backup) => backup.kind === "asked" || kept.has(backup));
}

/** Days since 1970 of a time, ISO 8601. */
const dayOf = (at: string) => Math.floor(Date.parse(at) / DAY);

const latestFirst = (a: Backup, b: Backup) => b.at.localeCompare(a.at) || b.name.localeCompare(a.name);

/**
 * Puts a backup in the place of the database, which is kept as a backup of its own. The database must not be open.
 *
 * @param name of a backup in the folder, or a file elsewhere
 * @returns the name under which what was there is kept; null when there was nothing
 * @throws {BackupError} when the backup is not there or not sound; nothing is changed then
 */
export function putBack(folder: string, name: string, now = new Date()): string | null {
  const own = NAME.test(name) ? join(backupsFolder(folder), name) : name;
  if (!existsSync(own)) throw new BackupError(`There is no backup ${name}.`);
  requireSound(own);
  const file = databaseFile(folder);
  let replaced: string | null = null;
  if (existsSync(file)) {
    mkdirSync(backupsFolder(folder), { recursive: true, mode: 0o700 });
    replaced = nameOf("replaced", now);
    // as it is, even where it cannot be read
    copyDatabase(file, join(backupsFolder(folder), replaced));
  }
  copyDatabase(own, file);
  return replaced;
}

/** Puts what was replaced in its place again, as it was. The database must not be open. */
export function takeBack(folder: string, replaced: string): void {
  copyDatabase(join(backupsFolder(folder), replaced), databaseFile(folder));
}

/** Copies a database that is not open, with what its log holds; the old one is there until the new one takes its name. */
function copyDatabase(from: string, to: string): void {
  const logs = existsSync(`${from}${LOG}`);
  for (const end of logs ? ["", LOG] : [""]) {
    copyFileSync(`${from}${end}`, `${to}.new${end}`);
    chmodSync(`${to}.new${end}`, 0o600);
    syncFile(`${to}.new${end}`);
  }
  // a log belongs to its own database only
  for (const end of [LOG, SHARED]) rmSync(`${to}${end}`, { force: true });
  renameSync(`${to}.new`, to);
  if (logs) renameSync(`${to}.new${LOG}`, `${to}${LOG}`);
}

/** End of the name of a database's log, in which the latest edits may be after a crash. */
const LOG = "-wal";
/** End of the name of what its readers share while it is open. */
const SHARED = "-shm";

/** What SQLite says of values rather than of pages. */
const OF_VALUES = /^(CHECK constraint failed|NULL value|NUMERIC value|TEXT value)/;

/** What is wrong with an open database, in SQLite's words; empty when it is sound. @param full looks at indexes and keys as well */
export function damageOf(database: Database.Database, full: boolean): string[] {
  const told = database.pragma(full ? "integrity_check(20)" : "quick_check(20)") as Record<string, string>[];
  const lines = told.flatMap((row) => Object.values(row)).filter((line) => line !== "ok");
  // a value that may not stand there makes one railway unreadable, and nothing else
  if (!full) return lines.filter((line) => !OF_VALUES.test(line));
  const keys = database.pragma("foreign_key_check") as { table: string; rowid: number }[];
  return [...lines, ...keys.slice(0, 20).map(({ table, rowid }) => `row ${rowid} of ${table} refers to nothing`)];
}

/** Refuses a file that is not a database of this program, or is damaged. @throws {BackupError} */
export function requireSound(file: string): void {
  let database: Database.Database | undefined;
  try {
    database = new Database(file, { readonly: true, fileMustExist: true });
    if (!isOurs(database)) throw new BackupError(`${file} is no database of this program.`);
    const [first] = damageOf(database, false);
    if (first) throw new BackupError(`${file} is damaged: ${first}.`);
  } catch (error) {
    if (error instanceof BackupError) throw error;
    throw new BackupError(`${file} cannot be read: ${error instanceof Error ? error.message : error}.`);
  } finally {
    database?.close();
  }
}

/** Whether a database holds this program's tables, or nothing at all. */
export function isOurs(database: Database.Database): boolean {
  const tables = database
    .prepare("SELECT name FROM sqlite_master WHERE type = 'table' AND name NOT LIKE 'sqlite_%'")
    .pluck()
    .all() as string[];
  const version = database.pragma("user_version", { simple: true }) as number;
  return tables.length === 0 || (version > 0 && tables.includes("railway"));
}

function syncFile(file: string): void {
  const handle = openSync(file, "r+");
  try {
    fsyncSync(handle);
  } finally {
    closeSync(handle);
  }
}
