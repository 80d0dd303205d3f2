import { assignmentsOfRole } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { endKey } from "../schematic/nets.ts";
import { railsOfZone } from "../schematic/recipes/blockFeed.ts";
import type { Schematic } from "../schematic/schematic.ts";

/** A zone of a detector that watches a block. */
export interface ZoneInUse {
  /** The terminal that feeds the block's other rail: an axle lies between it and the zone. */
  rail: string;
  /** Lamps hang between the rails at a turnout behind it, so that it may tell a train where none stands. */
  lit: boolean;
}

/** The zones that watch blocks, by their detector and number. */
export function zonesInUse(
  record: RailwayRecord,
  { watched, threads }: Schematic,
): Map<string, Map<number, ZoneInUse>> {
  const lit = new Set(
    threads.flatMap(({ frogs, lamps }) =>
      frogs.flatMap(({ device, turnout }) =>
        lamps.some(({ from }) => from.device.id === device.id)
          ? (watched.get(turnout.id) ?? []).map(({ deviceId, way }) => `${deviceId} ${way}`)
          : [],
      ),
    ),
  );
  const zones = new Map<string, Map<number, ZoneInUse>>();
  for (const zone of assignmentsOfRole(record, "block")) {
    const rails = railsOfZone(record, zone);
    if (!rails) continue;
    const own = zones.get(zone.deviceId) ?? new Map<number, ZoneInUse>();
    own.set(zone.way, { rail: endKey(rails.other), lit: lit.has(`${zone.deviceId} ${zone.way}`) });
    zones.set(zone.deviceId, own);
  }
  return zones;
}
