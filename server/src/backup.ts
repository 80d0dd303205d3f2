// npm run backup and npm run restore: the database as a whole, without the interface.
import { join, resolve } from "node:path";
import { parseArgs } from "node:util";
import { HOUSE } from "./house.ts";
import { BackupError, listBackups, putBack } from "./store/backups.ts";
import { DataFolderError, makeFolder } from "./store/database.ts";
import { Keeper } from "./store/keeper.ts";
import { FolderTakenError, takeFolder } from "./store/lock.ts";

const [what, ...given] = process.argv.slice(2);

/** Runs one of the two; @returns what to print */
function run(): string {
  const { values, positionals } = parseArgs({
    args: given,
    options: { data: { type: "string" }, demo: { type: "boolean", default: false } },
    allowPositionals: true,
  });
  const folder = resolve(HOUSE, values.data ?? process.env.ALDERMAN_DATA ?? (values.demo ? "data/demo" : "data/own"));
  if (what === "make") {
    const keeper = new Keeper(folder);
    try {
      const { name, bytes } = keeper.backUp();
      return `${join(folder, "backups", name)}, ${(bytes / 1000).toFixed(0)} kB, read over and sound.`;
    } finally {
      keeper.close();
    }
  }
  const [name] = positionals;
  if (name === undefined) {
    const lines = listBackups(folder).map(({ name: each, bytes }) => `${each}  ${(bytes / 1000).toFixed(0)} kB`);
    return lines.length === 0
      ? `There are no backups in ${join(folder, "backups")}.`
      : `Say which one, as in: npm run restore -- ${listBackups(folder)[0]?.name}\n${lines.join("\n")}`;
  }
  makeFolder(folder);
  const letGo = takeFolder(folder);
  try {
    const replaced = putBack(folder, name);
    return `${name} is the database of ${folder} now.${replaced ? ` What was there is kept as ${replaced}.` : ""}`;
  } finally {
    letGo();
  }
}

try {
  process.stdout.write(`${run()}\n`);
} catch (error) {
  const isForeseen =
    error instanceof BackupError ||
    error instanceof DataFolderError ||
    error instanceof FolderTakenError ||
    (error instanceof Error && "code" in error && String(error.code).startsWith("ERR_PARSE_ARGS"));
  if (!isForeseen) throw error;
  process.stderr.write(`${error.message}\n`);
  process.exitCode = 1;
}
