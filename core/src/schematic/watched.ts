/** A zone of a detector that lies in the feed of one rail. */
export interface RailZone {
  deviceId: string;
  way: number;
  rail: "J" | "K";
}

/** Zones through which the rails at each turnout are fed, by the turnout's identifier: those of the block that it stands in. */
export type WatchedRails = ReadonlyMap<string, readonly RailZone[]>;

/** No turnout stands in a block that is watched. */
export const UNWATCHED: WatchedRails = new Map();

/** Whether the same rails are watched by the same zones. */
export function isWatchedAlike(a: WatchedRails, b: WatchedRails): boolean {
  if (a === b) return true;
  return (
    a.size === b.size &&
    [...a].every(([id, zones]) => {
      const others = b.get(id);
      return (
        others?.length === zones.length &&
        zones.every(({ deviceId, way, rail }, index) => {
          const other = others[index];
          return other?.deviceId === deviceId && other.way === way && other.rail === rail;
        })
      );
    })
  );
}
