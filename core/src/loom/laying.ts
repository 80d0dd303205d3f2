import { Draft } from "../equip/draft.ts";
import type { EditGroup } from "../record/edits.ts";
import { find, freshId } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { Purpose } from "../record/purposes.ts";
import type { Topology } from "../record/schemas.ts";
import { type End, endKey, type Net, terminalName } from "../schematic/nets.ts";

/** What a topology is called. */
export const TOPOLOGY_WORDS: Record<Topology, string> = {
  star: "a wire to each",
  chain: "from one to the next",
  bus: "a trunk with droppers",
  blocks: "from block to block, zone by zone",
};

const COMMONS: readonly Purpose[] = ["pulse-plus", "pulse-return"];
const FEEDERS: readonly Purpose[] = ["ac-1", "ac-2", "dc-plus", "dc-zero", "track-j", "track-k"];

/** The setting of the railway that says how nets for a purpose are laid; null for those that go from one to the next. */
export function usualLaying(purpose: Purpose): "commons" | "feeders" | null {
  if (COMMONS.includes(purpose)) return "commons";
  return FEEDERS.includes(purpose) ? "feeders" : null;
}

/** The net to be laid in a way of its own, or as its zone and the railway have it (null). */
export function layNet(record: RailwayRecord, net: Net, topology: Topology | null): EditGroup | null {
  const draft = new Draft(record);
  const ends = new Set(net.ends.map(endKey));
  const known = record.layings.filter((laying) => ends.has(endKey(laying)));
  for (const { id } of known) draft.remove("laying", id);
  const [first] = net.ends;
  if (topology !== null && first) {
    const { deviceId, terminal } = first;
    const id = freshId(draft.record, "laying", `${deviceId}-${terminal}`);
    draft.put("laying", { id, deviceId, terminal, topology });
  }
  if (draft.edits.length === 0) return null;
  const what = first ? netName(record, first) : "the net";
  return draft.group(`Laid ${what} ${topology === null ? "as usual" : `as ${TOPOLOGY_WORDS[topology]}`}`);
}

/** Commons of pulses of a zone to be laid in a way of their own, or as the railway has it (null). */
export function layZone(record: RailwayRecord, zoneId: string, commons: Topology | null): EditGroup | null {
  const zone = find(record, "zone", zoneId);
  if (!zone || zone.commons === commons) return null;
  const draft = new Draft(record);
  draft.put("zone", { ...zone, commons });
  const how = commons === null ? "as in the railway" : `as ${TOPOLOGY_WORDS[commons]}`;
  return draft.group(`Laid commons of ${zone.label} ${how}`);
}

/** Nets that are commons of pulses and serve turnouts of one zone only. */
export function commonsOf(record: RailwayRecord, nets: readonly Net[], zoneId: string): Net[] {
  return nets.filter(({ purpose, ends }) => {
    if (!COMMONS.includes(purpose)) return false;
    const zones = new Set(
      ends.flatMap(({ turnoutId }) => find(record, "turnout", turnoutId ?? "") ?? []).map((t) => t.zoneId),
    );
    return zones.size === 1 && zones.has(zoneId);
  });
}

/** Plastic rail joints at the ends of a zone, where its rails have feeds of their own. */
export function setPlasticJoints(record: RailwayRecord, zoneId: string, plasticJoints: number): EditGroup | null {
  const zone = find(record, "zone", zoneId);
  if (!zone || zone.plasticJoints === plasticJoints) return null;
  const draft = new Draft(record);
  draft.put("zone", { ...zone, plasticJoints });
  return draft.group(`Plastic rail joints of ${zone.label}: ${plasticJoints}`);
}

/** What a net is known by: its first terminal. */
export function netName(record: RailwayRecord, { deviceId, terminal }: End): string {
  return terminalName(find(record, "device", deviceId)?.label ?? deviceId, terminal);
}
