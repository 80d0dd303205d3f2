import { alongOf } from "../line/runs.ts";
import { assignmentsOfRole } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { Strip } from "../record/made.ts";
import { wiresByEnd, wiresByNet } from "./reach.ts";
import { farEnd, type Loom, screwKey, type Wire } from "./wire.ts";

/** A wire from a strip to a turnout, and how far along the trunk line that is, metres. */
export interface Hanging {
  wire: Wire;
  run: number;
}

/** Wires from a strip to turnouts whose nets serve that turnout only: what goes past several may begin at any of them. */
export function hangingOn(record: RailwayRecord, loom: Loom, strip: Strip): Hanging[] {
  const stands = new Map(
    [...assignmentsOfRole(record, "motor"), ...assignmentsOfRole(record, "frog")].map(({ deviceId, turnoutId }) => [
      deviceId,
      turnoutId,
    ]),
  );
  const turnoutAt = ({ of }: Wire["from"]) => (of ? stands.get(of.deviceId) : undefined);
  const at = wiresByEnd(loom);
  return Array.from({ length: strip.ways }, (_, index) => screwKey(strip.id, index + 1)).flatMap((key) =>
    (at.get(key) ?? []).flatMap((wire): Hanging[] => {
      const turnoutId = turnoutAt(farEnd(wire, key));
      if (turnoutId === undefined) return [];
      const ends = (wiresByNet(loom).get(wire.net) ?? []).flatMap(({ from, to }) => [from, to]);
      if (ends.some((end) => (turnoutAt(end) ?? turnoutId) !== turnoutId)) return [];
      const run = alongOf(record, turnoutId);
      return [{ wire, run }];
    }),
  );
}
