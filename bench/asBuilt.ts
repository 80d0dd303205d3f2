import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { pathToFileURL } from "node:url";
import { build } from "esbuild";

/**
 * A part of the bench compiled into one file, as the interface is. What loads sources while one develops gives every small
 * function its name anew each time it is made, which takes a fifth of the time of what makes many.
 * @param file beside this one
 */
export async function asBuilt<T>(file: string): Promise<T> {
  const folder = mkdtempSync(join(tmpdir(), "alderman-bench-"));
  try {
    const outfile = join(folder, "part.mjs");
    const entryPoints = [new URL(file, import.meta.url).pathname];
    await build({ entryPoints, outfile, bundle: true, platform: "node", format: "esm", logLevel: "warning" });
    return (await import(pathToFileURL(outfile).href)) as T;
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}
