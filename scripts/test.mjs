// npm test: installs what is missing, then static checks, unit and reference tests, and browser tests.
// The last line says how many tests passed, failed and were skipped; any failed check counts as a failed test.
import { spawnSync } from "node:child_process";
import { existsSync, mkdirSync, readFileSync, rmSync } from "node:fs";
import { join } from "node:path";
import { failedPages, failedUnits } from "./failed.mjs";
import { buildWeb, built, HOUSE, installPackages } from "./prepare.mjs";

/** Debian packages that tests need, by the program each brings. */
const PROGRAMS = { chromium: "chromium", ngspice: "ngspice" };

const has = (program) => spawnSync("which", [program], { stdio: "ignore" }).status === 0;

function installPrograms() {
  const missing = Object.keys(PROGRAMS).filter((program) => !has(program));
  if (missing.length === 0) return;
  const packages = missing.map((program) => PROGRAMS[program]);
  if (process.getuid?.() !== 0 || !has("apt-get")) {
    process.stderr.write(
      `Tests need ${missing.join(" and ")}. Install them first, on Debian: sudo apt-get install ${packages.join(" ")}\n`,
    );
    process.exit(1);
  }
  process.stderr.write(`Installing ${packages.join(" and ")} ...\n`);
  const env = { ...process.env, DEBIAN_FRONTEND: "noninteractive" };
  for (const args of [
    ["update", "-qq"],
    ["install", "-y", "-qq", ...packages],
  ]) {
    if (spawnSync("apt-get", args, { stdio: ["ignore", "ignore", 2], env }).status !== 0) process.exit(1);
  }
}

/** Runs a step; its output goes to standard error so that the counts stand alone at the end. */
function step(title, command, args) {
  const began = Date.now();
  process.stderr.write(`\n== ${title}\n`);
  const { status } = spawnSync(command, args, { cwd: HOUSE, stdio: ["ignore", 2, 2] });
  process.stderr.write(
    `== ${title}: ${status === 0 ? "good" : "failed"}, ${((Date.now() - began) / 1000).toFixed(0)} s\n`,
  );
  return status === 0;
}

function read(name) {
  const file = join(HOUSE, "test-results", name);
  return existsSync(file) ? JSON.parse(readFileSync(file, "utf8")) : null;
}

installPackages();
installPrograms();
rmSync(join(HOUSE, "test-results"), { recursive: true, force: true });
mkdirSync(join(HOUSE, "test-results"));

const total = { passed: 0, failed: 0, skipped: 0 };
const checks = [
  step("types", "npm", ["run", "-s", "typecheck"]),
  step("lint and imports", "npm", ["run", "-s", "lint"]),
];
total.failed += checks.filter((good) => !good).length;

const unitGood = step("unit, reference and interface for programs", "npx", [
  "vitest",
  "run",
  "--reporter=dot",
  "--reporter=json",
  "--outputFile.json=test-results/unit.json",
]);
const unit = read("unit.json");
if (unit) {
  total.passed += unit.numPassedTests;
  total.failed += unit.numFailedTests;
  total.skipped += unit.numPendingTests + unit.numTodoTests;
}
if (!unitGood && !unit?.numFailedTests) total.failed++;

buildWeb();
built("main");
const browserGood = step("browser", "npx", ["playwright", "test"]);
// the JSON reporter writes to a file of its own, and the list goes to standard error
const browser = read("browser.json")?.stats;
if (browser) {
  total.passed += browser.expected + browser.flaky;
  total.failed += browser.unexpected;
  total.skipped += browser.skipped;
}
if (!browserGood && !browser?.unexpected) total.failed++;

for (const { name, why } of [...failedUnits(unit), ...failedPages(read("browser.json"))])
  process.stderr.write(`\nFailed: ${name}\n${why}\n`);
process.stdout.write(`${total.passed} passed, ${total.failed} failed, ${total.skipped} skipped\n`);
process.exit(total.failed === 0 ? 0 : 1);
