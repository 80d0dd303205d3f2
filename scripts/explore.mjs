// npm run explore: tries all properties with new cases, round after round, and says what failed and by which seed;
// `npm run explore -- 20` does 20 rounds. A seed is tried again by PROPERTY_SEED=... npx vitest run FILE.
import { spawnSync } from "node:child_process";
import { existsSync, mkdtempSync, readdirSync, readFileSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { failedUnits } from "./failed.mjs";
import { HOUSE, installPackages } from "./prepare.mjs";

installPackages();
const rounds = Number(process.argv[2] ?? 5);
if (!Number.isInteger(rounds) || rounds < 1) {
  process.stderr.write(`How many rounds? ${process.argv[2]} is no whole number from 1.\n`);
  process.exit(2);
}

const files = ["core", "server", "web"].flatMap((place) =>
  readdirSync(join(HOUSE, place), { recursive: true })
    .filter((name) => /\.test\.tsx?$/.test(name) && !name.includes("node_modules"))
    .map((name) => join(place, name))
    .filter((file) => readFileSync(join(HOUSE, file), "utf8").includes("fc.assert")),
);
const folder = mkdtempSync(join(tmpdir(), "alderman-explore-"));
const out = join(folder, "unit.json");
let failures = 0;
try {
  for (let round = 1; round <= rounds; round++) {
    const seed = Math.floor(Math.random() * 2 ** 31);
    rmSync(out, { force: true });
    spawnSync("npx", ["vitest", "run", "--reporter=json", `--outputFile=${out}`, ...files], {
      cwd: HOUSE,
      stdio: "ignore",
      env: { ...process.env, PROPERTY_SEED: String(seed) },
    });
    if (!existsSync(out)) throw new Error("The tests could not be run: npx vitest run says why.");
    const report = JSON.parse(readFileSync(out, "utf8"));
    const failed = failedUnits(report);
    failures += failed.length;
    process.stdout.write(`Round ${round}, seed ${seed}: ${report.numPassedTests} passed, ${failed.length} failed\n`);
    for (const { name, why } of failed) process.stdout.write(`\nFailed: ${name}\n${why}\n\n`);
  }
} finally {
  rmSync(folder, { recursive: true, force: true });
}
process.exit(failures === 0 ? 0 : 1);
