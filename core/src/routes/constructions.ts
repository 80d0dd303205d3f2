import type { ConstructionKind } from "../record/routes.ts";
import { matrixOf, type Wish } from "./matrix.ts";

/** Something between two wires of the matrix: a diode lets current through from the first to the second. */
export interface Join {
  from: string;
  to: string;
  with: "wire" | "diode";
  /** A diode that lies the wrong way round, as it was built. */
  turned?: boolean;
}

export interface Construction {
  kind: ConstructionKind;
  joins: Join[];
  /** Wires of the matrix that are neither a button's nor a coil's: what several buttons want together hangs on them. */
  shared: string[];
  diodes: number;
  wires: number;
  /** Most diodes one after the other from a button to one of its coils. */
  mostDrops: number;
}

/** Where a coil hangs, when there is more than one board: wires of their own, which several buttons feed, lie on one. */
type BoardOf = (coil: string) => string;

const ONE_BOARD: BoardOf = () => "";

/** All three constructions for the same wishes. */
export function constructionsOf(wishes: readonly Wish[], boardOf?: BoardOf): Construction[] {
  return [
    constructionOf("fewest", wishes),
    constructionOf("full", wishes),
    constructionOf("cascaded", wishes, boardOf),
  ];
}

/** One of the constructions. @param boardOf where each coil hangs, when that is not one board for all */
export function constructionOf(
  kind: ConstructionKind,
  wishes: readonly Wish[],
  boardOf: BoardOf = ONE_BOARD,
): Construction {
  if (kind === "fewest") return fewest(wishes);
  return kind === "full" ? full(wishes) : cascaded(wishes, boardOf);
}

function fewest(wishes: readonly Wish[]): Construction {
  const { links, plain } = matrixOf(wishes);
  const wires = new Set(plain);
  return built(
    "fewest",
    links.map((link): Join => ({ from: link[0], to: link[1], with: wires.has(link) ? "wire" : "diode" })),
    [],
    wishes,
  );
}

function full(wishes: readonly Wish[]): Construction {
  const joins = wishes.flatMap(({ button, coils }) =>
    coils.map((coil): Join => ({ from: button, to: coil, with: "diode" })),
  );
  return built("full", joins, [], wishes);
}

/**
 * What several buttons want together is hung on a wire of its own, which each of them feeds through a diode; where it is the whole
 * of one of them, on that button's wire. Taken greedily, what saves most first. Then each diode becomes a plain wire where still
 * every button reaches its coils and no other. Fewer diodes, but some in a row.
 */
function cascaded(wishes: readonly Wish[], boardOf: BoardOf): Construction {
  const sets = new Map(wishes.map(({ button, coils }) => [button, new Set(coils)]));
  const shared: string[] = [];
  // a wire that several buttons feed lies on the board of what hangs on it
  const boards = new Map(wishes.flatMap(({ coils }) => coils.map((coil) => [coil, boardOf(coil)])));
  for (let best = mostShared(sets, boards); best; best = mostShared(sets, boards)) {
    const { common, owner } = best;
    const name = owner ?? freeName(sets, wishes, shared.length + 1);
    if (owner === null) {
      shared.push(name);
      sets.set(name, new Set(common));
      boards.set(name, boards.get([...common][0] ?? "") ?? "");
    }
    for (const [other, members] of sets) {
      if (other === name || ![...common].every((each) => members.has(each))) continue;
      for (const each of common) members.delete(each);
      members.add(name);
    }
  }
  const joins = [...sets].flatMap(([from, members]) => [...members].map((to): Join => ({ from, to, with: "diode" })));
  return built("cascaded", withWires(joins, wishes), shared, wishes);
}

function freeName(sets: ReadonlyMap<string, unknown>, wishes: readonly Wish[], number: number): string {
  const coils = new Set(wishes.flatMap((wish) => wish.coils));
  let name = `X${number}`;
  while (sets.has(name) || coils.has(name)) name += "'";
  return name;
}

/** The part that sets have in common whose own wire saves most diodes; null when none saves any. */
function mostShared(
  sets: ReadonlyMap<string, ReadonlySet<string>>,
  boards: ReadonlyMap<string, string>,
): { common: Set<string>; owner: string | null } | null {
  const all = [...sets];
  let best: { common: Set<string>; owner: string | null } | null = null;
  let most = 0;
  const commons = all.flatMap(([, one], index) =>
    all.slice(index + 1).flatMap(([, other]) => {
      const both = [...one].filter((each) => other.has(each));
      const places = [...new Set(both.map((each) => boards.get(each) ?? ""))];
      return places.length < 2
        ? [new Set(both)]
        : places.map((place) => new Set(both.filter((each) => (boards.get(each) ?? "") === place)));
    }),
  );
  for (const common of commons) {
    if (common.size < 2) continue;
    const having = all.filter(([, members]) => [...common].every((each) => members.has(each)));
    const owner = having.find(([, members]) => members.size === common.size)?.[0] ?? null;
    const before = having.length * common.size;
    const after = owner === null ? common.size + having.length : common.size + having.length - 1;
    if (before - after <= most) continue;
    most = before - after;
    best = { common, owner };
  }
  return best;
}

/** Diodes that may as well be wires, made so one after the other. */
function withWires(joins: readonly Join[], wishes: readonly Wish[]): Join[] {
  const now = joins.map((join) => ({ ...join }));
  for (const join of now) {
    join.with = "wire";
    if (!isExact(now, wishes)) join.with = "diode";
  }
  return now;
}

/** Whether every button reaches its coils and no other: through diodes forwards, along wires both ways. */
export function isExact(joins: readonly Join[], wishes: readonly Wish[]): boolean {
  const coils = new Set(wishes.flatMap((wish) => wish.coils));
  const on = waysOn(joins);
  return wishes.every((wish) => {
    const reached = [...reachOf(wish.button, on)].filter((each) => coils.has(each));
    return reached.length === wish.coils.length && wish.coils.every((each) => reached.includes(each));
  });
}

function waysOn(joins: readonly Join[]): Map<string, string[]> {
  const on = new Map<string, string[]>();
  const add = (from: string, to: string) => {
    const known = on.get(from);
    if (known) known.push(to);
    else on.set(from, [to]);
  };
  for (const { from, to, with: by } of joins) {
    add(from, to);
    if (by === "wire") add(to, from);
  }
  return on;
}

function reachOf(start: string, on: ReadonlyMap<string, readonly string[]>): Set<string> {
  const reached = new Set([start]);
  for (const at of reached) for (const next of on.get(at) ?? []) reached.add(next);
  return reached;
}

/** Every wire of the matrix that a button's current comes to. */
export function reachedFrom(button: string, joins: readonly Join[]): Set<string> {
  return reachOf(button, waysOn(joins));
}

function built(kind: ConstructionKind, joins: Join[], shared: string[], wishes: readonly Wish[]): Construction {
  const diodes = joins.filter((join) => join.with === "diode").length;
  const mostDrops = Math.max(0, ...wishes.map(({ button, coils }) => Math.max(...dropsTo(button, coils, joins))));
  return { kind, joins, shared, diodes, wires: joins.length - diodes, mostDrops };
}

/** Diodes in a row on the best way from a button to each of some coils. */
function dropsTo(button: string, coils: readonly string[], joins: readonly Join[]): number[] {
  const drops = new Map([[button, 0]]);
  const open = [button];
  for (let at = open.shift(); at !== undefined; at = open.shift()) {
    const so = drops.get(at) ?? 0;
    for (const { from, to, with: by } of joins) {
      const next = from === at ? to : to === at && by === "wire" ? from : null;
      const then = so + (by === "diode" ? 1 : 0);
      if (next === null || (drops.get(next) ?? Number.POSITIVE_INFINITY) <= then) continue;
      drops.set(next, then);
      open.push(next);
    }
  }
  return coils.map((coil) => drops.get(coil) ?? 0);
}
