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
  if (isOlder("web/dist/index.html", ["web", "core/src", "package-lock.json"])) {
    process.stderr.write("Building the interface ...\n");
    run("npm", ["run", "-s", "build", "-w", "web"]);
  }
}

/**
 * Builds the server's programs when there are none or a source is newer.
 * @param program its name, as in `server/src`
 * @returns what Node is to be given to run it
 */
export function built(program) {
  const file = `server/dist/${program}.js`;
  if (isOlder(file, ["server", "core/src", "package-lock.json"])) run("npm", ["run", "-s", "build", "-w", "server"]);
  // what goes wrong is told with the lines of the source
  return ["--enable-source-maps", join(HOUSE, file)];
}

/** Whether something built is not there, or older than any of its sources. */
function isOlder(file, sources) {
  const newest = Math.max(...sources.map((place) => newestIn(join(HOUSE, place))));
  return !existsSync(join(HOUSE, file)) || statSync(join(HOUSE, file)).mtimeMs <= newest;
}

function newestIn(place) {
  const stat = statSync(place);
  if (!stat.isDirectory()) return stat.mtimeMs;
  const names = readdirSync(place).filter((name) => name !== "node_modules" && name !== "dist");
  return Math.max(0, ...names.map((name) => newestIn(join(place, name))));
}
