import { Groups } from "../circuit/groups.ts";
import { type Wire as Fact, standingOfWire } from "../record/made.ts";
import type { Shelf } from "./shelf.ts";
import { factEnds, type IdleWhy, isScrew } from "./wire.ts";

/** A wire that is a fact and serves nothing. */
export interface Idle {
  fact: Fact;
  why: IdleWhy;
}

/** What the record's wires say of nets: which screws and cores are whose, and which wires serve nothing. */
export interface Claims {
  /** Net of a terminal or screw, by its name in the circuit; undefined for what belongs to none. */
  netOf: (name: string) => string | undefined;
  /** Whether wires that are there join two names. */
  isTied: (a: string, b: string) => boolean;
  /** Wires that are facts and contradict nothing. */
  firm: readonly Fact[];
  idle: readonly Idle[];
  /** Proposed wires that join nothing else than the plan does, by their links. */
  proposed: ReadonlyMap<string, Fact>;
}

/** Names that are joined, each group with the net that it is part of. */
class Labelled {
  private readonly groups = new Groups();
  /** Net of each group that has one, by its number. */
  private readonly nets = new Map<number, string>();
  private readonly met = new Set<string>();

  constructor(private readonly netOf: (name: string) => string | undefined) {}

  net(name: string): string | undefined {
    return this.nets.get(this.numberOf(name));
  }

  isTied(a: string, b: string): boolean {
    return this.numberOf(a) === this.numberOf(b);
  }

  /** Joins two names, unless that would make one of two nets. @returns whether it could */
  join(a: string, b: string): boolean {
    const [one, other] = [this.net(a), this.net(b)];
    if (one !== undefined && other !== undefined && one !== other) return false;
    this.groups.join(a, b);
    const net = one ?? other;
    if (net !== undefined) this.nets.set(this.groups.numberOf(a), net);
    return true;
  }

  private numberOf(name: string): number {
    const number = this.groups.numberOf(name);
    if (this.met.has(name)) return number;
    this.met.add(name);
    const net = this.netOf(name);
    if (net !== undefined) this.nets.set(number, net);
    return number;
  }
}

/** Marks a terminal that no net has; no net is called so. */
const DEAD = " dead";

/**
 * Holds the record's wires against the nets. Wires that are made come first, then kept ones, then proposals; of two that
 * contradict each other the earlier holds.
 * @param planned net of a terminal, by its name in the circuit
 */
export function claimsOf(
  facts: readonly Fact[],
  shelf: Shelf,
  planned: (terminal: string) => string | undefined,
): Claims {
  const groups = new Labelled((name) => (isScrew(name) ? undefined : (planned(name) ?? `${DEAD}${name}`)));
  const byStanding = { made: [] as Fact[], kept: [] as Fact[], proposed: [] as Fact[], out: [] as Fact[] };
  for (const fact of facts) byStanding[standingOfWire(fact)].push(fact);
  const isDead = (name: string) => groups.net(name)?.startsWith(DEAD) ?? false;
  const firm: Fact[] = [];
  const idle: Idle[] = [];
  for (const fact of [...byStanding.made, ...byStanding.kept]) {
    const { from, to } = factEnds(fact);
    if (from === null || to === null) idle.push({ fact, why: "loose" });
    else if (isDead(from) || isDead(to)) idle.push({ fact, why: "dead" });
    else if (!groups.join(from, to)) idle.push({ fact, why: "apart" });
    else firm.push(fact);
  }
  const proposed = new Map<string, Fact>();
  const isThere = (name: string) => (isScrew(name) ? shelf.has(name) : !isDead(name));
  for (const fact of byStanding.proposed) {
    const { from, to, link } = factEnds(fact);
    if (from === null || to === null || link === null || !isThere(from) || !isThere(to)) continue;
    if (fact.cableId !== null && !shelf.cable(fact.cableId)) continue;
    if (groups.join(from, to)) proposed.set(link, fact);
  }
  return {
    netOf: (name) => (isDead(name) ? undefined : groups.net(name)),
    isTied: (a, b) => groups.isTied(a, b),
    ...{ firm, idle, proposed },
  };
}
