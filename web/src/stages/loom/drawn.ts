import {
  type Cable,
  coreEnds,
  coresOf,
  find,
  type Loom,
  list,
  placeWords,
  type RailwayRecord,
  type Strip,
  screwIdOf,
  type Wire,
} from "@alderman/core";

/** A name for a cable or strip that is drawn: the two may have the same identifier. */
export function drawnName(thing: Cable | Strip): string {
  return `${"cores" in thing ? "cable" : "strip"} ${thing.id}`;
}

/** The named thing; when there is none, the first cable, or strip. */
export function drawnOf({ cables, strips }: Loom, name: string): Cable | Strip | undefined {
  const all = [...cables, ...strips.filter(({ kind }) => kind === "screws")];
  return all.find((each) => drawnName(each) === name) ?? all[0];
}

/** All cables, and all strips but splices, as they are found by typing. */
export function drawnOptions(record: RailwayRecord, loom: Loom) {
  const strips = new Map(loom.strips.map(({ id, label }) => [id, label]));
  const labelAt = ({ of, key }: Wire["from"]) =>
    (of ? find(record, "device", of.deviceId)?.label : strips.get(screwIdOf(key))) ?? "";
  return [
    ...loom.cables.map((cable) => ({
      value: drawnName(cable),
      text: `${cable.label}, ${joinsOf(loom, cable, labelAt)}`,
    })),
    ...loom.strips.flatMap((strip) =>
      strip.kind !== "screws"
        ? []
        : [{ value: drawnName(strip), text: `${strip.label}, ${placeWords(record, strip)}` }],
    ),
  ];
}

/** What a cable joins. @example "P1 to K1", "tail of L2 and L3" */
function joinsOf(loom: Loom, cable: Cable, labelAt: (end: Wire["from"]) => string): string {
  const ends = [...coresOf(loom, cable.id).values()].map((wire) => coreEnds(cable, wire));
  const names = (side: "near" | "far") => list([...new Set(ends.map((each) => labelAt(each[side])))]);
  if (ends.length === 0) return "not joined";
  return cable.tail ? `tail of ${names("far")}` : `${names("near")} to ${names("far")}`;
}
