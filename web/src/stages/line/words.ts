import {
  type Block,
  deviceOf,
  find,
  metresPerSecond,
  type RailwayRecord,
  type SignalShown,
  wayName,
} from "@alderman/core";

/** What a signal shows, and why. */
export function signalWords(record: RailwayRecord, { aspect, cause, next, ends }: SignalShown): string {
  if (!cause) {
    if (aspect === "green") return "green";
    return `yellow: ${ends === "buffer" ? "the track ends at a buffer" : `${next?.name ?? "the next signal"} is red`}`;
  }
  switch (cause.why) {
    case "held":
      return "red: it is held";
    case "occupied":
      return `red: ${cause.block.name ?? "the track ahead"} is occupied`;
    case "blades":
      return `red: ${find(record, "turnout", cause.id)?.label ?? "a turnout"} lies for its other leg`;
    default:
      return "red: no track leads on";
  }
}

/** What watches a block. */
export function watchWords(record: RailwayRecord, { zones }: Pick<Block, "zones">): string {
  return zones.length === 0
    ? "nothing"
    : zones.map(({ deviceId, way, rail }) => `${wayName(deviceOf(record, deviceId).label, way)} in ${rail}`).join(", ");
}

/** Metres with the seconds that a train takes for them. */
export function metresAndSeconds({ railway }: RailwayRecord, metres: number): string {
  return `${metres.toFixed(2)} m, ${(metres / metresPerSecond(railway)).toFixed(1)} s`;
}
