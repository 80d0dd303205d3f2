import { edit } from "../catalogue/edit.ts";
import { traitsOf } from "../catalogue/traits.ts";
import { Derived } from "../derive.ts";
import { commonsOf, layNet, layZone } from "../loom/laying.ts";
import type { WorkPlace } from "../loom/places.ts";
import { progressOf } from "../loom/progress.ts";
import { reachFrom, wiresByNet } from "../loom/reach.ts";
import { screwKey } from "../loom/wire.ts";
import { stateFor } from "../readings/threadReading.ts";
import type { EditGroup } from "../record/edits.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { isJunction, type Stock } from "../record/made.ts";
import { TOPOLOGIES, type Topology } from "../record/schemas.ts";
import { endKey, type Net } from "../schematic/nets.ts";
import { needsOf } from "../stock/needs.ts";
import { stockLines } from "../stock/stock.ts";

/** Nets laid in one way: what it takes, and what arrives at their far ends. */
export interface LaidAs {
  topology: Topology;
  /** They are laid so now. */
  present: boolean;
  /** Wire to be cut, metres. */
  metres: number;
  splices: number;
  blocks: number;
  joints: Record<WorkPlace, number>;
  /** What wire, blocks and what joints take cost, all of it, in the railway's currency. */
  cost: number;
  /** Most ohms of wire from the first terminal of a net to another one of it, and what is written there. */
  farthest: { ohms: number; name: string };
  /** The weakest pulse of coils on them, joules, and whose it is; null where no coil hangs on them. */
  weakest: { joules: number; label: string } | null;
}

/**
 * A net laid as star, chain, bus and blocks, each derived and solved as if nothing of it were made.
 * @param id of the net
 * @returns one for each topology; empty when there is no such net
 */
export function compareLayings(before: Derived, id: string): LaidAs[] {
  const net = before.schematic.nets.find((each) => each.id === id);
  return net ? compared(before, [net], (record, topology) => layNet(record, net, topology)) : [];
}

/**
 * All commons of pulses of a zone laid in each way, as if nothing of them were made and nothing said of one by itself.
 * @returns one for each topology; empty when no commons serve this zone alone
 */
export function compareLayingsIn(before: Derived, zoneId: string): LaidAs[] {
  const nets = commonsOf(before.record, before.schematic.nets, zoneId);
  return nets.length === 0 ? [] : compared(before, nets, (record, topology) => layZone(record, zoneId, topology));
}

function compared(
  before: Derived,
  nets: readonly Net[],
  lay: (record: RailwayRecord, topology: Topology) => EditGroup | null,
): LaidAs[] {
  const own = new Set(wiresOf(before, nets).map((wire) => wire.id));
  const bare = { ...before.record, wires: before.record.wires.filter((wire) => !own.has(wire.id)) };
  const ends = new Set(nets.flatMap((net) => net.ends.map(endKey)));
  // what is said of one net by itself would stand in the way of what is said of its zone
  const open = nets.length > 1 ? { ...bare, layings: bare.layings.filter((each) => !ends.has(endKey(each))) } : bare;
  const now = wiresOf(new Derived(bare, before), nets);
  return TOPOLOGIES.map((topology): LaidAs => {
    const group = lay(open, topology);
    const derived = new Derived(group ? edit(open, group.edits).record : open, before);
    const wires = wiresOf(derived, nets);
    const { bench, front, underneath } = progressOf(wires);
    const names = new Map(wires.flatMap(({ from, to }) => [from, to]).map(({ key, name }) => [key, name]));
    const [far = "", ohms = 0] =
      nets
        .flatMap((net) => [...reachFrom(derived.loom, endKey(net.ends[0] as Net["ends"][number]))])
        .sort((a, b) => b[1] - a[1])[0] ?? [];
    const used = new Set(wires.flatMap(({ from, to }) => [from, to]).flatMap(({ of, key }) => (of ? [] : [key])));
    const strips = derived.loom.strips.filter((strip) => isJunction(strip) && used.has(screwKey(strip.id, 1)));
    const needs = needsOf({
      record: { ...derived.record, devices: [], zones: [] },
      loom: { ...derived.loom, wires, cables: [], strips },
      schematic: { threads: [] },
    });
    const cost = stockLines({ ...derived.record, stocks: ownPrices(derived.record) }, needs);
    return {
      topology,
      present: wires.length === now.length && wires.every(({ element }, index) => element === now[index]?.element),
      metres: wires.reduce((sum, { cutMetres, core }) => (core ? sum : sum + cutMetres), 0),
      splices: strips.filter(({ kind }) => kind === "splice").length,
      blocks: strips.filter(({ kind }) => kind === "block").length,
      joints: { bench: bench.of, front: front.of, underneath: underneath.of },
      cost: cost.reduce((sum, line) => sum + line.sum, 0),
      farthest: { ohms, name: names.get(far) ?? far },
      weakest: nets.flatMap((net) => weakestOf(derived, net) ?? []).sort((a, b) => a.joules - b.joules)[0] ?? null,
    };
  });
}

/** What the owner pays for things, with none of them on the shelf. */
function ownPrices({ stocks }: RailwayRecord): Stock[] {
  return stocks.map((stock) => ({ ...stock, have: 0 }));
}

function wiresOf({ loom }: Derived, nets: readonly Net[]) {
  return nets.flatMap(({ id }) => wiresByNet(loom).get(id) ?? []);
}

/** The coil on a net that gets least when its turnout is thrown. */
function weakestOf({ circuitry, schematic }: Derived, net: Net): LaidAs["weakest"] {
  const devices = new Set(net.ends.map(({ deviceId }) => deviceId));
  const pulses = schematic.threads.flatMap((thread) =>
    thread.motors.flatMap((motor) => {
      if (!devices.has(motor.device.id) || traitsOf(motor.type).movedBy !== "pulse" || !thread.control) return [];
      return (["N", "R"] as const).flatMap((position) => {
        const coil = motor.assignment.crossed ? (position === "N" ? "R" : "N") : position;
        const pulse = circuitry.pulse(motor.device.id, coil, stateFor(thread, position, "throwing"));
        return pulse && pulse.joules > 0 ? [{ joules: pulse.joules, label: motor.device.label }] : [];
      });
    }),
  );
  return pulses.sort((a, b) => a.joules - b.joules)[0] ?? null;
}
