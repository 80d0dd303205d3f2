import { accessSync, constants, mkdirSync, readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";
import Database from "better-sqlite3";

/** Something the owner can put right about the folder or file that holds the data. */
export class DataFolderError extends Error {
  override readonly name = "DataFolderError";
}

const MIGRATIONS = new URL("./migrations/", import.meta.url);

/**
 * Opens the database in a folder, makes it when there is none, and brings an older one up to date after a backup.
 *
 * @throws {DataFolderError} when the folder cannot be written, or its database is not ours or of a newer version
 */
export function openDatabase(folder: string): Database.Database {
  const file = join(folder, "alderman.db");
  try {
    mkdirSync(folder, { recursive: true });
    accessSync(folder, constants.W_OK);
  } catch (error) {
    throw new DataFolderError(
      `The data folder ${folder} cannot be written (${codeOf(error)}). Choose another with --data, or change its permissions.`,
    );
  }
  let database: Database.Database | undefined;
  try {
    database = new Database(file);
    database.pragma("journal_mode = WAL");
    database.pragma("synchronous = FULL");
    migrate(database, folder);
    database.pragma("foreign_keys = ON");
    return database;
  } catch (error) {
    database?.close();
    if (error instanceof DataFolderError) throw error;
    throw new DataFolderError(
      `The database ${file} cannot be opened (${codeOf(error)}). Nothing in it was changed. Choose another folder with --data, or put a backup in its place.`,
    );
  }
}

/**
 * Runs the numbered migrations that the database has not had, each in a transaction of its own. Foreign keys are not
 * enforced meanwhile, so that a table may be built anew while others refer to it; they are checked before each is done.
 */
function migrate(database: Database.Database, folder: string): void {
  const files = readdirSync(MIGRATIONS)
    .filter((name) => /^\d{3}-.*\.sql$/.test(name))
    .sort();
  const version = database.pragma("user_version", { simple: true }) as number;
  if (version > files.length) {
    throw new DataFolderError(
      `The database in ${folder} was written by a newer version of this program. Use that version, or choose another folder with --data.`,
    );
  }
  if (version === files.length) return;
  if (version > 0) backUp(database, folder, version);
  database.pragma("foreign_keys = OFF");
  for (const [index, name] of files.entries()) {
    if (index < version) continue;
    const sql = readFileSync(new URL(name, MIGRATIONS), "utf8");
    database.transaction(() => {
      database.exec(sql);
      const broken = database.pragma("foreign_key_check") as { table: string }[];
      if (broken.length > 0) throw new Error(`${name} breaks keys of ${broken[0]?.table}`);
      database.pragma(`user_version = ${index + 1}`);
    })();
  }
}

function backUp(database: Database.Database, folder: string, version: number): void {
  const backups = join(folder, "backups");
  mkdirSync(backups, { recursive: true });
  const stamp = new Date().toISOString().replaceAll(/[:.]/g, "-");
  database.prepare("VACUUM INTO ?").run(join(backups, `alderman-v${version}-${stamp}.db`));
}

function codeOf(error: unknown): string {
  return error instanceof Error && "code" in error ? String(error.code) : String(error);
}
