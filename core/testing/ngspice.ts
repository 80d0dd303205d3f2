// Runs the general-purpose circuit simulator ngspice on the product's netlists.
import { execFileSync } from "node:child_process";
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { type Netlist, THERMAL_VOLTS } from "../src/circuit/elements.ts";
import { operatingPoint } from "../src/circuit/operatingPoint.ts";
import { toSpice } from "../src/circuit/toSpice.ts";

/**
 * Temperature at which ngspice, with its constants of CODATA 2014, has the thermal voltage that the exact SI constants of
 * 2019 give at 27 C; the 3e-7 between them would show as nanoamps behind a charging resistor.
 */
const CELSIUS = THERMAL_VOLTS / (1.38064852e-23 / 1.6021766208e-19) - 273.15;
/** Tightened beyond ngspice's defaults. */
export const OPTIONS = `.options temp=${CELSIUS} tnom=${CELSIUS} reltol=1e-7 abstol=1e-14 vntol=1e-8 gmin=1e-12 itl1=1000`;

/** Runs a control script in a folder with the given files; returns the lines it wrote to `out.txt`. */
export function runNgspice(files: Record<string, string>, control: string): string {
  const folder = mkdtempSync(join(tmpdir(), "ngspice-"));
  try {
    for (const [name, text] of Object.entries(files)) writeFileSync(join(folder, name), text);
    writeFileSync(join(folder, "run.cir"), `* run\n.control\nset numdgt=16\n${control}\nquit\n.endc\n.end\n`);
    execFileSync("ngspice", ["-b", "run.cir"], { cwd: folder, stdio: "pipe", maxBuffer: 1e9 });
    return readFileSync(join(folder, "out.txt"), "utf8");
  } finally {
    rmSync(folder, { recursive: true });
  }
}

/** Node voltages of several netlists at their operating points, by the nodes' own names, written with all digits. */
export function voltsByNgspice(netlists: readonly Netlist[]): Map<string, number>[] {
  const texts = netlists.map((netlist) => toSpice(netlist));
  const files = Object.fromEntries(
    texts.map(({ text, nodes }, index) => {
      const point = operatingPoint(netlists[index] as Netlist);
      // ngspice solves no part that nothing joins to 0 V, so such parts are tied to it
      const loose = [...nodes].filter(([name]) => !point.isGrounded(name));
      const ties = loose.map(([, number]) => `Rtie${number} ${number} 0 1e12\n`).join("");
      return [`${index}.cir`, text.replace(".op\n.end", `${ties}${OPTIONS}\n.end`)];
    }),
  );
  const control = texts.map(
    (_, index) => `source ${index}.cir\nop\necho circuit ${index} >> out.txt\nprint all >> out.txt`,
  );
  const blocks = runNgspice(files, control.join("\n"))
    .split(/^circuit \d+\s*$/m)
    .slice(1);
  return texts.map(({ nodes }, index) => {
    const values = new Map<number, number>();
    // ngspice writes the voltage of a numbered node as V(n)
    for (const [, number, value] of (blocks[index] ?? "").matchAll(/^v\((\d+)\) = (\S+)/gim))
      values.set(Number(number), Number(value));
    return new Map([...nodes].filter(([, n]) => n > 0).map(([name, n]) => [name, values.get(n) ?? Number.NaN]));
  });
}
