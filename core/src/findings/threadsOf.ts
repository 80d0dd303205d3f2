// Which threads something concerns. What runs through what is found out once for all threads, since many rules ask for it.
import type { Wire } from "../loom/wire.ts";
import { assignmentsOfDevice } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { devicesOfThread, type Thread } from "../schematic/thread.ts";

/** Places of the threads that each thing belongs to, by its identifier. */
type Places = ReadonlyMap<string, readonly number[]>;

const indexes = new WeakMap<readonly Thread[], { turnouts: Places; devices: Places }>();

function indexOf(threads: readonly Thread[]): { turnouts: Places; devices: Places } {
  const known = indexes.get(threads);
  if (known) return known;
  const index = {
    turnouts: placesBy(threads, ({ turnout, followers }) => [turnout, ...followers].map(({ id }) => id)),
    devices: placesBy(threads, devicesOfThread),
  };
  indexes.set(threads, index);
  return index;
}

function placesBy(threads: readonly Thread[], idsOf: (thread: Thread) => readonly string[]): Places {
  const index = new Map<string, number[]>();
  for (const [place, thread] of threads.entries()) {
    for (const id of idsOf(thread)) {
      const places = index.get(id);
      if (!places) index.set(id, [place]);
      else if (places.at(-1) !== place) places.push(place);
    }
  }
  return index;
}

/** The threads at some places, each once, in their order. */
function at(threads: readonly Thread[], places: readonly number[]): Thread[] {
  if (places.length === 1) return places.flatMap((place) => threads[place] ?? []);
  return [...new Set(places)].sort((a, b) => a - b).flatMap((place) => threads[place] ?? []);
}

const placesOf = (index: Places, ids: Iterable<string>) => [...ids].flatMap((id) => index.get(id) ?? []);

/** The threads that run through any of some devices, in their order. */
export function threadsWith(threads: readonly Thread[], ids: Iterable<string>): Thread[] {
  return at(threads, placesOf(indexOf(threads).devices, ids));
}

/** The threads that some turnouts belong to, as leaders or followers, in their order. */
export function threadsOfTurnouts(threads: readonly Thread[], ids: Iterable<string>): Thread[] {
  return at(threads, placesOf(indexOf(threads).turnouts, ids));
}

/** The threads for whose sake some wires are laid, or at whose devices they end, in their order. */
export function threadsOfWires(threads: readonly Thread[], wires: readonly Wire[]): Thread[] {
  const { turnouts, devices } = indexOf(threads);
  const ends = wires.flatMap(({ from, to }) => [from, to].flatMap(({ of }) => of?.deviceId ?? []));
  const sakes = wires.flatMap(({ turnoutId }) => turnoutId ?? []);
  return at(threads, [...placesOf(turnouts, sakes), ...placesOf(devices, ends)]);
}

/** The threads that hang on a supply: by what it feeds, by what it brings commands, or directly. */
export function threadsOn(record: RailwayRecord, threads: readonly Thread[], supplyId: string): Thread[] {
  const fed = assignmentsOfDevice(record, supplyId).flatMap((a) => {
    return (a.role === "supply" || a.role === "commands") && a.deviceId === supplyId ? [a.toDeviceId] : [];
  });
  return threadsWith(threads, [supplyId, ...fed]);
}
