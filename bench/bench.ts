// npm run bench: what is claimed of speed, measured as ratios within one run. Nothing here passes or fails.
import { execFileSync } from "node:child_process";
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { Derived, edit, openRailwayFile, writeCell } from "@alderman/core";
import { operatingPoint } from "../core/src/circuit/operatingPoint.ts";
import { toSpice } from "../core/src/circuit/spice.ts";

const demo = openRailwayFile(readFileSync(new URL("../samples/skerrin-ferry.json", import.meta.url), "utf8"));

/** Median milliseconds of a piece of work over several runs, the first ones left out. */
function measure(runs: number, work: () => void): number {
  const times: number[] = [];
  for (let run = 0; run < runs + 3; run++) {
    const began = performance.now();
    work();
    if (run >= 3) times.push(performance.now() - began);
  }
  return times.sort((a, b) => a - b)[Math.floor(times.length / 2)] ?? Number.NaN;
}

function line(what: string, value: string): void {
  process.stdout.write(`${what.padEnd(68)} ${value}\n`);
}

const changed = writeCell(demo, "l1", "run", "2.7");
if (!changed) throw new Error("The bench's edit changes nothing.");
const edited = edit(demo, changed.edits).record;
const derive = measure(15, () => void new Derived(edited).loom);
const findings = measure(15, () => void new Derived(edited).findings);
line("Skerrin Ferry: an edit to its nets and wires, median", `${derive.toFixed(1)} ms`);
line("Skerrin Ferry: an edit to its findings, median", `${findings.toFixed(1)} ms`);

const circuitry = new Derived(demo).circuitry;
const netlists = ["cd1:+", "d1:+", "lp1:G"].map((key) =>
  circuitry.netlist(key, { asked: {}, moment: "rest", acting: null, off: false }),
);
const ours = measure(30, () => {
  for (const netlist of netlists) operatingPoint(netlist);
});
const folder = mkdtempSync(join(tmpdir(), "bench-"));
try {
  const repeats = 50;
  for (const [index, netlist] of netlists.entries()) {
    const control = `.control\nrepeat ${repeats}\nop\nend\nquit\n.endc\n.end\n`;
    writeFileSync(join(folder, `${index}.cir`), toSpice(netlist).text + control);
    writeFileSync(join(folder, `${index}-none.cir`), `${toSpice(netlist).text}.control\nquit\n.endc\n.end\n`);
  }
  const run = (suffix: string) =>
    measure(3, () => {
      for (const index of netlists.keys())
        execFileSync("ngspice", ["-b", `${index}${suffix}.cir`], { cwd: folder, stdio: "pipe" });
    });
  // the same circuits in one process each, the process's own start taken off
  const theirs = (run("") - run("-none")) / repeats;
  line(
    `Operating points of its ${netlists.length} pieces: ours against ngspice, same run`,
    `${ours.toFixed(2)} ms / ${theirs.toFixed(2)} ms = ${(ours / theirs).toFixed(1)} times ngspice's time`,
  );
} finally {
  rmSync(folder, { recursive: true, force: true });
}
