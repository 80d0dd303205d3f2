import { edit } from "../catalogue/edit.ts";
import { traitsOf } from "../catalogue/traits.ts";
import { Derived } from "../derive.ts";
import { layNet } from "../loom/laying.ts";
import type { WorkPlace } from "../loom/places.ts";
import { progressOf } from "../loom/progress.ts";
import { reachFrom, wiresByNet } from "../loom/reach.ts";
import { stateFor } from "../readings/threadReading.ts";
import { TOPOLOGIES, type Topology } from "../record/schemas.ts";
import { endKey, type Net } from "../schematic/nets.ts";

/** A net laid in one way: what it takes, and what arrives at its far end. */
export interface LaidAs {
  topology: Topology;
  /** It is laid so now. */
  present: boolean;
  /** Wire to be cut, metres. */
  metres: number;
  splices: number;
  joints: Record<WorkPlace, number>;
  /** Ohms of wire from its first terminal to the one farthest in ohms, and what is written there. */
  farthest: { ohms: number; name: string };
  /** The weakest pulse of coils on it, joules, and whose it is; null where no coil hangs on it. */
  weakest: { joules: number; label: string } | null;
}

/**
 * A net laid as star, chain and bus, each derived and solved as if nothing of it were made.
 * @param id of the net
 * @returns one for each topology; empty when there is no such net
 */
export function compareLayings(before: Derived, id: string): LaidAs[] {
  const net = before.schematic.nets.find((each) => each.id === id);
  if (!net) return [];
  const own = new Set(wiresOf(before, net).map((wire) => wire.id));
  const bare = { ...before.record, wires: before.record.wires.filter((wire) => !own.has(wire.id)) };
  const now = wiresOf(new Derived(bare, before), net);
  return TOPOLOGIES.map((topology): LaidAs => {
    const group = layNet(bare, net, topology);
    const derived = new Derived(group ? edit(bare, group.edits).record : bare, before);
    const wires = wiresOf(derived, net);
    const { bench, front, underneath } = progressOf(wires);
    const names = new Map(wires.flatMap(({ from, to }) => [from, to]).map(({ key, name }) => [key, name]));
    const [far = "", ohms = 0] =
      [...reachFrom(derived.loom, endKey(net.ends[0] as Net["ends"][number]))].sort((a, b) => b[1] - a[1])[0] ?? [];
    const splices = new Set(wires.flatMap(({ from, to }) => [from, to]).flatMap(({ of, key }) => (of ? [] : [key])));
    const known = new Map(derived.loom.strips.map((strip) => [`${strip.id}/1`, strip]));
    return {
      topology,
      present: wires.length === now.length && wires.every(({ element }, index) => element === now[index]?.element),
      metres: wires.reduce((sum, { cutMetres, core }) => (core ? sum : sum + cutMetres), 0),
      splices: [...splices].filter((key) => known.get(key)?.kind === "splice").length,
      joints: { bench: bench.of, front: front.of, underneath: underneath.of },
      farthest: { ohms, name: names.get(far) ?? far },
      weakest: weakestOf(derived, net),
    };
  });
}

function wiresOf({ loom }: Derived, { id }: Net) {
  return wiresByNet(loom).get(id) ?? [];
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
