// npm run campaign: what a year of bad luck does to the store, the server and two windows, in some minutes. It prints figures,
// and fails when something was lost or went wrong unforeseen. `npm run campaign -- --seed 7 --kills 100` does it otherwise.
import { spawnSync } from "node:child_process";
import { parseArgs } from "node:util";
import { fullDisk } from "./full.ts";
import { fuzz } from "./fuzz.ts";
import { kills } from "./kills.ts";
import { slowReaders } from "./slowReaders.ts";

const { values } = parseArgs({
  options: {
    seed: { type: "string", default: "1" },
    kills: { type: "string", default: "1000" },
    requests: { type: "string", default: "100000" },
    rounds: { type: "string", default: "200" },
    windows: { type: "string", default: "500" },
  },
});
const {
  seed,
  kills: killed,
  requests,
  rounds,
  windows,
} = Object.fromEntries(Object.entries(values).map(([name, text]) => [name, Number(text)])) as Record<
  keyof typeof values,
  number
>;

let failed = false;
/** Prints what came of one part of the campaign. */
async function report(what: string, work: () => object | Promise<object>): Promise<void> {
  const began = performance.now();
  const { problems = [], ...figures } = (await work()) as { problems?: string[]; lost?: number; left?: number };
  const seconds = ((performance.now() - began) / 1000).toFixed(0);
  process.stdout.write(`${what}, ${seconds} s: ${JSON.stringify(figures)}\n`);
  for (const problem of problems.slice(0, 10)) process.stdout.write(`  ${problem}\n`);
  if (problems.length > 0 || (figures.lost ?? 0) > 0 || (figures.left ?? 0) > 0) failed = true;
}

await report("A full disk", () => fullDisk(rounds, seed));
await report("Readers that do not read", () => slowReaders(100));
await report("Strange requests and files", () => fuzz(requests, seed));
await report("Two windows, answers slow, lost and refused", () => {
  const { status } = spawnSync("npx", ["vitest", "run", "web/src/session/sessions.test.ts", "-t", "both windows"], {
    cwd: new URL("../..", import.meta.url),
    env: { ...process.env, CAMPAIGN_RUNS: String(windows), PROPERTY_SEED: String(seed) },
    stdio: "ignore",
  });
  return { series: windows, problems: status === 0 ? [] : ["They did not agree: run the test by itself."] };
});
await report("Kills", () => kills(killed, seed));
process.exit(failed ? 1 : 0);
