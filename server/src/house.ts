import { type ChildProcess, type ForkOptions, fork } from "node:child_process";
import { basename, extname, join, resolve } from "node:path";

/** Folder that holds core, server and web: two levels above the server's sources, and above what is built of them. */
export const HOUSE = resolve(import.meta.dirname, "../..");

const isBuilt = extname(import.meta.filename) !== ".ts";

/**
 * Starts another program of the server, as this one was started: from its source, or as it is built.
 * @param name its source without the ending, from the sources' folder
 */
export function startBeside(name: string, args: readonly string[], options: ForkOptions): ChildProcess {
  const file = isBuilt ? `${basename(name)}.js` : `${name}.ts`;
  return fork(join(import.meta.dirname, file), args, { execArgv: isBuilt ? [] : ["--import", "tsx"], ...options });
}
