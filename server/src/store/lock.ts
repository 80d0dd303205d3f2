import { join } from "node:path";
import Database from "better-sqlite3";

/** Another program has the folder. */
export class FolderTakenError extends Error {
  override readonly name = "FolderTakenError";
  constructor(folder: string) {
    super(
      `Another Alderman is at work on ${folder}. Use that one, end it first, or choose another folder with --data: two on one folder would not see each other's changes.`,
    );
  }
}

/**
 * Takes a folder for one program, until it is let go or the program ends in whatever way: the lock is one of the operating system's,
 * held through a small database of its own.
 *
 * @returns lets go of it
 * @throws {FolderTakenError} when another program has it
 */
export function takeFolder(folder: string): () => void {
  const lock = new Database(join(folder, "in-use.db"), { timeout: 0 });
  try {
    lock.pragma("locking_mode = EXCLUSIVE");
    lock.exec("BEGIN EXCLUSIVE");
  } catch (error) {
    lock.close();
    if (error instanceof Database.SqliteError && error.code.startsWith("SQLITE_BUSY"))
      throw new FolderTakenError(folder);
    throw error;
  }
  return () => {
    if (lock.open) lock.close();
  };
}
