import { pathToFileURL } from "node:url";
import { bundled } from "../scripts/bundled.ts";

/**
 * A part of the bench as it is built, not as its sources run.
 * @param file beside this one
 */
export async function asBuilt<T>(file: string): Promise<T> {
  const { file: built, remove } = await bundled(new URL(file, import.meta.url).pathname);
  try {
    return (await import(pathToFileURL(built).href)) as T;
  } finally {
    remove();
  }
}
