import { accessSync, chmodSync, constants, existsSync, mkdirSync, readdirSync, readFileSync, statSync } from "node:fs";
import { join } from "node:path";
import Database from "better-sqlite3";
import { HOUSE } from "../house.ts";
import { damageOf, databaseFile, isOurs, listBackups, makeBackup } from "./backups.ts";
import { unpackAll } from "./history.sql.ts";

/** Something the owner can put right about the folder or file that holds the data. */
export class DataFolderError extends Error {
  override readonly name = "DataFolderError";
}

const MIGRATIONS = join(HOUSE, "server/src/store/migrations");

/**
 * Opens the database in a folder, makes it when there is none, and brings an older one up to date after a backup.
 *
 * @throws {DataFolderError} when the folder cannot be written, or its database is not ours or of a newer version
 */
export function openDatabase(folder: string): Database.Database {
  makeFolder(folder);
  const file = databaseFile(folder);
  let database: Database.Database | undefined;
  try {
    if (existsSync(file) && statSync(file).size > 0) requireOwn(file, folder);
    database = connect(file);
    // nobody else's business
    chmodSync(file, 0o600);
    // a migration may make tables anew that others refer to
    database.pragma("foreign_keys = OFF");
    migrate(database, folder);
    lookThrough(database);
    database.pragma("foreign_keys = ON");
    return database;
  } catch (error) {
    database?.close();
    if (error instanceof DataFolderError) throw error;
    throw new DataFolderError(
      `The database ${file} cannot be opened (${codeOf(error)}). Nothing in it was changed. Choose another folder with --data, or put a backup in its place: ${wayBack(folder)}.`,
    );
  }
}

/**
 * Lets the database find out how its rows are spread. Without that it looks for what refers to a row in all of its railway's
 * instead of by the index of that column, and a group of a thousand devices takes seconds.
 *
 * Source: SQLite, "ANALYZE" and "The SQLite Query Optimizer Overview".
 */
export function lookThrough(database: Database.Database): void {
  database.exec("ANALYZE");
}

/** Connects to a database so that what is acknowledged is on disk, and references are checked. */
export function connect(file: string): Database.Database {
  const database = new Database(file);
  database.pragma("journal_mode = WAL");
  database.pragma("synchronous = FULL");
  database.pragma("foreign_keys = ON");
  return database;
}

/** Makes the folder that holds the data, for its owner alone, when there is none. @throws {DataFolderError} when it cannot be written */
export function makeFolder(folder: string): void {
  try {
    mkdirSync(folder, { recursive: true, mode: 0o700 });
    accessSync(folder, constants.W_OK);
  } catch (error) {
    throw new DataFolderError(
      `The data folder ${folder} cannot be written (${codeOf(error)}). Choose another with --data, or change its permissions.`,
    );
  }
}

/** Looks at a database before anything is written: one that is not ours, newer than this program or damaged is left alone. */
function requireOwn(file: string, folder: string): void {
  const database = new Database(file, { readonly: true, fileMustExist: true });
  try {
    if (!isOurs(database))
      throw new DataFolderError(
        `${file} is a database of another program. Nothing in it was changed; choose another folder with --data.`,
      );
    requireKnownVersion(database, folder);
    const [damage] = damageOf(database, false);
    if (damage)
      throw new DataFolderError(
        `The database ${file} is damaged: ${damage}. Nothing in it was changed; put a backup in its place: ${wayBack(folder)}.`,
      );
  } finally {
    database.close();
  }
}

/** How the latest backup is put back, as a command; or that there is none. */
export function wayBack(folder: string): string {
  const [latest] = listBackups(folder);
  return latest ? `npm run restore -- --data ${folder} ${latest.name}` : "there is none in its folder backups";
}

/** The version from which on what was done long ago is packed. */
const PACKS_HISTORY = 18;

const migrations = () =>
  readdirSync(MIGRATIONS)
    .filter((name) => /^\d{3}-.*\.sql$/.test(name))
    .sort();

function requireKnownVersion(database: Database.Database, folder: string): void {
  if ((database.pragma("user_version", { simple: true }) as number) <= migrations().length) return;
  throw new DataFolderError(
    `The database in ${folder} was written by a newer version of this program. Use that version, or choose another folder with --data.`,
  );
}

/**
 * Runs the numbered migrations that the database has not had, each in a transaction of its own. Foreign keys are not
 * enforced meanwhile, so that a table may be built anew while others refer to it; they are checked before each is done.
 */
function migrate(database: Database.Database, folder: string): void {
  const files = migrations();
  requireKnownVersion(database, folder);
  const version = database.pragma("user_version", { simple: true }) as number;
  if (version === files.length) return;
  if (version > 0) makeBackup(database, folder, "before-update");
  database.pragma("foreign_keys = OFF");
  // migrations read the history as text
  if (version >= PACKS_HISTORY) database.transaction(() => unpackAll(database))();
  for (const [index, name] of files.entries()) {
    if (index < version) continue;
    const sql = readFileSync(join(MIGRATIONS, name), "utf8");
    database.transaction(() => {
      database.exec(sql);
      const broken = database.pragma("foreign_key_check") as { table: string }[];
      if (broken.length > 0) throw new Error(`${name} breaks keys of ${broken[0]?.table}`);
      database.pragma(`user_version = ${index + 1}`);
    })();
  }
}

function codeOf(error: unknown): string {
  return error instanceof Error && "code" in error ? String(error.code) : String(error);
}
