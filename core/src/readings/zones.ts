import { assignmentsOfRole } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { endKey } from "../schematic/nets.ts";
import { railsOfZone } from "../schematic/recipes/blockFeed.ts";
import type { Schematic } from "../schematic/schematic.ts";

/** The zones of a detector that watch blocks. */
export interface ZonesInUse {
  /** By zone the terminal that feeds the block's other rail: an axle lies between it and the zone. */
  rails: ReadonlyMap<number, string>;
  /** Zones behind which lamps hang between the rails at a turnout, so that they may tell a train where none stands. */
  lit: readonly number[];
}

/** The zones that watch blocks, by their detector. */
export function zonesInUse(record: RailwayRecord, { watched, threads }: Schematic): Map<string, ZonesInUse> {
  const lit = new Set(
    threads.flatMap(({ frogs, lamps }) =>
      frogs.flatMap(({ device, turnout }) =>
        lamps.some(({ from }) => from.device.id === device.id)
          ? (watched.get(turnout.id) ?? []).map(({ deviceId, way }) => `${deviceId} ${way}`)
          : [],
      ),
    ),
  );
  const rails = new Map<string, Map<number, string>>();
  for (const zone of assignmentsOfRole(record, "block")) {
    const fed = railsOfZone(record, zone);
    if (!fed) continue;
    const own = rails.get(zone.deviceId) ?? new Map<number, string>();
    rails.set(zone.deviceId, own.set(zone.way, endKey(fed.other)));
  }
  return new Map(
    [...rails].map(([id, own]) => [id, { rails: own, lit: [...own.keys()].filter((way) => lit.has(`${id} ${way}`)) }]),
  );
}
