import type { Cable, Loom, Strip } from "@alderman/core";

/** A name for a cable or strip that is drawn: the two may have the same identifier. */
export function drawnName(thing: Cable | Strip): string {
  return `${"cores" in thing ? "cable" : "strip"} ${thing.id}`;
}

/** The named thing; when there is none, the first cable, or strip. */
export function drawnOf({ cables, strips }: Loom, name: string): Cable | Strip | undefined {
  const all = [...cables, ...strips.filter(({ kind }) => kind === "screws")];
  return all.find((each) => drawnName(each) === name) ?? all[0];
}
