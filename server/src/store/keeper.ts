import type Database from "better-sqlite3";
import {
  type Backup,
  BackupError,
  backUpDaily,
  damageOf,
  listBackups,
  makeBackup,
  putBack,
  takeBack,
} from "./backups.ts";
import { makeFolder, openDatabase } from "./database.ts";
import { takeFolder } from "./lock.ts";
import { Store } from "./store.ts";

/** How often it is looked whether the day's backup is due, milliseconds. */
const LOOK_EVERY = 3600 * 1000;

/** Keeps a folder's database: opens it for one program alone, backs it up each day, checks it, puts backups back, closes it whole. */
export class Keeper {
  readonly store: Store;
  private database: Database.Database;
  private readonly letGo: () => void;
  private readonly timer: NodeJS.Timeout;

  /**
   * @param told is told what goes wrong with a backup that nobody asked for
   * @throws {DataFolderError} | {FolderTakenError} nothing is changed then
   */
  constructor(
    readonly folder: string,
    private readonly told: (error: unknown) => void = () => undefined,
  ) {
    makeFolder(folder);
    this.letGo = takeFolder(folder);
    try {
      this.database = openDatabase(folder);
    } catch (error) {
      this.letGo();
      throw error;
    }
    this.store = new Store(this.database);
    this.backUpDaily();
    this.timer = setInterval(() => this.backUpDaily(), LOOK_EVERY);
    this.timer.unref();
  }

  backups(): Backup[] {
    return listBackups(this.folder);
  }

  /** Makes a backup at somebody's wish. */
  backUp(): Backup {
    return makeBackup(this.database, this.folder, "asked");
  }

  /** What is wrong with the database; empty when it is sound. Looks at all of it. */
  check(): string[] {
    return damageOf(this.database, true);
  }

  /**
   * Puts a backup in the place of the database, which is kept as one, and goes on with it.
   *
   * @throws {BackupError} | {DataFolderError} what was there is in use again then
   */
  putBack(name: string): void {
    if (!this.backups().some((backup) => backup.name === name)) throw new BackupError(`There is no backup ${name}.`);
    this.database.close();
    let replaced: string | null = null;
    try {
      replaced = putBack(this.folder, name);
      this.database = openDatabase(this.folder);
    } catch (error) {
      if (replaced !== null) takeBack(this.folder, replaced);
      this.database = openDatabase(this.folder);
      throw error;
    } finally {
      this.store.use(this.database);
    }
  }

  /** Closes the database so that its one file holds everything, and lets go of the folder. */
  close(): void {
    clearInterval(this.timer);
    if (this.database.open) {
      this.database.pragma("wal_checkpoint(TRUNCATE)");
      this.database.close();
    }
    this.letGo();
  }

  private backUpDaily(): void {
    try {
      // what was never used is not worth a backup
      if (this.database.open && this.store.list().length > 0) backUpDaily(this.database, this.folder);
    } catch (error) {
      this.told(error);
    }
  }
}
