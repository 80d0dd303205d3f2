// Installs and builds what is missing, so that each command works on a fresh clone.
import { spawnSync } from "node:child_process";
import { existsSync, readdirSync, readFileSync, statSync, writeFileSync } from "node:fs";
import { join, resolve } from "node:path";

export const HOUSE = resolve(import.meta.dirname, "..");

/** Runs a program in the house with its output shown; ends this one when it fails. */
export function run(command, args, options = {}) {
  const { status } = spawnSync(command, args, { cwd: HOUSE, stdio: ["ignore", 2, 2], ...options });
  if (status !== 0) {
    process.stderr.write(`${command} ${args.join(" ")} failed.\n`);
    process.exit(status ?? 1);
  }
}

/** Installs the packages of the lock file unless the same lock file was installed before. */
export function installPackages() {
  const lock = readFileSync(join(HOUSE, "package-lock.json"), "utf8");
  const mark = join(HOUSE, "node_modules", ".installed-lock");
  if (existsSync(mark) && readFileSync(mark, "utf8") === lock) return;
  process.stderr.write("Installing packages (a minute or two the first time) ...\n");
  run("npm", ["ci", "--no-audit", "--no-fund", "--loglevel=error"]);
  writeFileSync(mark, lock);
}

/** Builds the interface when there is none or a source is newer. */
export function buildWeb() {
  const built = join(HOUSE, "web/dist/index.html");
  const newest = Math.max(...["web", "core/src", "package-lock.json"].map((place) => newestIn(join(HOUSE, place))));
  if (existsSync(built) && statSync(built).mtimeMs > newest) return;
  process.stderr.write("Building the interface ...\n");
  run("npm", ["run", "-s", "build"]);
}

function newestIn(place) {
  const stat = statSync(place);
  if (!stat.isDirectory()) return stat.mtimeMs;
  const names = readdirSync(place).filter((name) => name !== "node_modules" && name !== "dist");
  return Math.max(0, ...names.map((name) => newestIn(join(place, name))));
}
