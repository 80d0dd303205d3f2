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
 * contradict each other the one with the smaller number holds, which of a passage is the one nearer to the panel; but where one
 * wire alone stands against several, it is the one that is wrong.
 * @param planned net of a terminal, by its name in the circuit
 */
export function claimsOf(
  facts: readonly Fact[],
  shelf: Shelf,
  planned: (terminal: string) => string | undefined,
): Claims {
  const netAt = (name: string) => (isScrew(name) ? undefined : (planned(name) ?? `${DEAD}${name}`));
  const groups = new Labelled(netAt);
  const byStanding = { made: [] as Fact[], kept: [] as Fact[], proposed: [] as Fact[], out: [] as Fact[] };
  for (const fact of facts) byStanding[standingOfWire(fact)].push(fact);
  const isDead = (name: string) => groups.net(name)?.startsWith(DEAD) ?? false;
  const byNumber = (facts: Fact[]) => facts.sort((a, b) => a.number - b.number);
  const firm: Fact[] = [];
  const idle: Idle[] = [];
  const ordered = [...byNumber(byStanding.made), ...byNumber(byStanding.kept)];
  for (const fact of fewestApart(ordered, netAt)) {
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

/** Facts in an order in which as few as may be have to be left out for joining what is to be kept apart. */
function fewestApart(facts: readonly Fact[], netAt: (name: string) => string | undefined): readonly Fact[] {
  let best = facts;
  let fewest = countApart(facts, netAt);
  while (fewest > 1) {
    const last = best
      .map((fact) => {
        const order = [...best.filter((each) => each !== fact), fact];
        return { order, count: countApart(order, netAt) };
      })
      .reduce((least, each) => (each.count < least.count ? each : least));
    if (last.count >= fewest) return best;
    ({ order: best, count: fewest } = last);
  }
  return best;
}

/** How many of facts in an order would make one of two nets. */
function countApart(facts: readonly Fact[], netAt: (name: string) => string | undefined): number {
  const groups = new Labelled(netAt);
  let apart = 0;
  for (const fact of facts) {
    const { from, to } = factEnds(fact);
    if (from === null || to === null) continue;
    if ([from, to].some((name) => netAt(name)?.startsWith(DEAD))) continue;
    if (!groups.join(from, to)) apart++;
  }
  return apart;
}
