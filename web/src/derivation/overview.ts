import type { Derived, Thread, Wire } from "@alderman/core";

/** What all screens share, as it comes from the worker. */
export type Overview = {
  -readonly [K in "loom" | "addresses" | "findings" | "loads" | "boards" | "complete"]: Derived[K];
} & {
  threads: Derived["schematic"]["threads"];
  nets: Derived["schematic"]["nets"];
};

/** What all screens share of what follows from a record. */
export function overviewOf(derived: Derived): Overview {
  const { loom, addresses, findings, loads, boards, complete, schematic } = derived;
  return { loom, addresses, findings, loads, boards, complete, threads: schematic.threads, nets: schematic.nets };
}

/** What of an overview is not as it was in the one sent before; wires and threads singly, by their place. */
export interface OverviewChange {
  whole: Partial<Overview>;
  wires: [number, Wire][];
  threads: [number, Thread][];
}

/** What has to be sent for the other side to have an overview, when it has the one before. */
export function changeOf(now: Overview, before: Overview | null): OverviewChange {
  if (!before) return { whole: now, wires: [], threads: [] };
  const { loom, threads, nets, ...rest } = now;
  const whole: Partial<Overview> = { ...rest };
  if (nets !== before.nets) whole.nets = nets;
  const sameWays = loom.ways === before.loom.ways && loom.wires.length === before.loom.wires.length;
  if (!sameWays) whole.loom = loom;
  const sameThreads = nets === before.nets && threads.length === before.threads.length;
  if (!sameThreads) whole.threads = threads;
  return {
    whole,
    wires: sameWays ? changed(loom.wires, before.loom.wires) : [],
    threads: sameThreads ? changed(threads, before.threads) : [],
  };
}

function changed<T>(now: readonly T[], before: readonly T[]): [number, T][] {
  return now.flatMap((each, index): [number, T][] => (each === before[index] ? [] : [[index, each]]));
}

/** The overview that a change makes of the one before. */
export function withChange(before: Overview | null, { whole, wires, threads }: OverviewChange): Overview {
  const next = { ...before, ...whole } as Overview;
  if (wires.length > 0) next.loom = { ...next.loom, wires: replaced(next.loom.wires, wires) };
  if (threads.length > 0) next.threads = replaced(next.threads, threads);
  return next;
}

function replaced<T>(list: readonly T[], changes: readonly [number, T][]): T[] {
  const copy = [...list];
  for (const [index, each] of changes) copy[index] = each;
  return copy;
}
