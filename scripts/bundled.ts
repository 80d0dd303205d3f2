import { mkdirSync, mkdtempSync, rmSync } from "node:fs";
import { join } from "node:path";
import { build } from "esbuild";
import { HOUSE } from "../server/src/house.ts";

/**
 * A program in one file, as interface and server are built: it starts within a fraction of the time that its sources take, and what
 * translates sources while one develops gives every small function its name anew each time it is made, a fifth of the time of what
 * makes many. The file stands where SQLite is found.
 */
export async function bundled(source: string): Promise<{ file: string; remove: () => void }> {
  const cache = join(HOUSE, "node_modules/.cache");
  mkdirSync(cache, { recursive: true });
  const folder = mkdtempSync(join(cache, "bundled-"));
  const file = join(folder, "program.mjs");
  await build({
    ...{ entryPoints: [source], outfile: file, logLevel: "warning" },
    ...{ bundle: true, platform: "node", format: "esm", external: ["better-sqlite3"] },
    // the server finds the house from where its sources stand
    define: { "import.meta.dirname": JSON.stringify(join(HOUSE, "server/src")) },
  });
  return { file, remove: () => rmSync(folder, { recursive: true, force: true }) };
}
