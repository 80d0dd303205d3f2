import { Groups } from "../circuit/groups.ts";
import { type Wire as Fact, isJunction, type Strip } from "../record/made.ts";
import type { Place, Railway } from "../record/schemas.ts";
import { type Laid, type LaidEnd, type Link, neededLinks, plannedLinks, usualMetres } from "./lay.ts";
import { alongOf } from "./places.ts";
import type { Shelf } from "./shelf.ts";
import { type Strand, screwEnd } from "./strands.ts";
import { factEnds, farEnd, linkOf, type Passage, type Run, screwIdOf, type Wire, type WireEnd } from "./wire.ts";

/** A link with the fact that it is. */
export interface StrandLink extends Link {
  fact: Fact | null;
  /** Another fact joins the same two ends already. */
  again?: boolean;
}

/** A strand with the passage that it got, and all its links and wires. */
export interface Woven {
  strand: Strand;
  passage: Passage | null;
  links: StrandLink[];
  wires: Wire[];
  /** All its wires have their numbers from the record. */
  isRecorded: boolean;
}

/** The links of a strand: the facts that serve it, and what is needed beside them. */
export function linksOf(
  railway: Railway,
  { ends, topology, taps }: Strand,
  passage: Passage | null,
  facts: readonly Fact[],
  shelf: Shelf,
): StrandLink[] {
  const used = new Set<Strip>();
  const tapAt: Laid["tapAt"] = (kind, terminals): WireEnd => {
    const known = terminals.flatMap(({ key }) => taps.get(key) ?? []);
    const strip = known.find((each) => each.kind === kind && !used.has(each)) ?? shelf.newJunction(kind);
    used.add(strip);
    return screwEnd({ strip, way: 1 });
  };
  const planned = plannedLinks(railway, { ends, passage, topology, tapAt });
  if (facts.length === 0) return planned.map((link) => ({ ...link, fact: null }));
  const firm = facts.map((fact) => linkOfFact(railway, fact, ends, shelf));
  const asPlanned = new Map(planned.map((link) => [linkOf(link.from.key, link.to.key, link.core), link]));
  const seen = new Set<string>();
  for (const link of firm) {
    const name = linkOf(link.from.key, link.to.key, link.core);
    // what is made as planned is for the same turnout's sake
    link.turnoutId = asPlanned.get(name)?.turnoutId ?? link.turnoutId;
    if (seen.has(name)) link.again = true;
    seen.add(name);
  }
  const there = firm.map(({ from, to }) => ({ from: from.key, to: to.key }));
  const needed = neededLinks(planned, there).map((link): StrandLink => ({ ...link, fact: null }));
  return useful(straightened([...firm, ...needed], shelf));
}

/** Links of which a trunk goes past a place without a splice when nothing has to hang on it there. */
function straightened(links: StrandLink[], shelf: Shelf): StrandLink[] {
  const at = new Map<string, StrandLink[]>();
  for (const link of links)
    for (const { key, of } of [link.from, link.to]) if (!of) at.set(key, [...(at.get(key) ?? []), link]);
  let all = links;
  for (const [key, own] of at) {
    const strip = shelf.strip(screwIdOf(key));
    if (!strip || !isJunction(strip)) continue;
    // those at a splice may have become one with what is beyond the next
    const [before, beyond, ...more] = all.filter((link) => link.from.key === key || link.to.key === key);
    if (own.length !== 2 || !before || !beyond || more.length > 0) continue;
    if (before.fact || beyond.fact || !before.isTrunk || !beyond.isTrunk) continue;
    const metres = Math.round((before.metres + beyond.metres) * 1000) / 1000;
    const whole = { ...beyond, from: farEnd(before, key), to: farEnd(beyond, key), metres };
    all = all.filter((link) => link !== before && link !== beyond).concat(whole);
  }
  return all;
}

/**
 * Those of a net's links that are of use: what reaches no terminal of it is not, nor what ends at a screw where nothing
 * goes on.
 */
function useful(links: StrandLink[]): StrandLink[] {
  for (let left = links; ; ) {
    const wiresAt = new Map<string, number>();
    for (const { from, to } of left)
      for (const { key, of } of [from, to]) wiresAt.set(key, (wiresAt.get(key) ?? 0) + (of ? 2 : 1));
    const isStub = ({ key }: WireEnd) => wiresAt.get(key) === 1;
    const next = left.filter(({ from, to }) => !isStub(from) && !isStub(to));
    if (next.length === left.length) return reaching(left);
    left = next;
  }
}

function reaching(links: StrandLink[]): StrandLink[] {
  const groups = new Groups();
  for (const { from, to } of links) groups.join(from.key, to.key);
  const number = groups.numbered();
  const ends = links.flatMap(({ from, to }) => [from, to]);
  const reached = new Set(ends.flatMap(({ key, of }) => (of ? [number.get(key)] : [])));
  return links.filter(({ from }) => reached.has(number.get(from.key)));
}

function linkOfFact(railway: Railway, fact: Fact, ends: readonly LaidEnd[], shelf: Shelf): StrandLink {
  const { from, to } = factEnds(fact);
  const cable = shelf.cable(fact.cableId ?? "");
  const endAt = (
    key: string | null,
  ): { end: WireEnd; place: Place | undefined; laid: LaidEnd | undefined; along: number } => {
    const laid = ends.find(({ at }) => at.key === key);
    // a tail is joined to its motor before this is fitted
    const isTail = cable?.tail === true && shelf.isMotor(laid?.device.id ?? "");
    if (laid)
      return { end: isTail ? { ...laid.at, work: "bench" } : laid.at, place: laid.device.place, laid, along: 0 };
    const [id = "", way = ""] = (key ?? "").split("/");
    const strip = shelf.strip(id);
    const end = strip
      ? screwEnd({ strip, way: Number(way) })
      : { key: key ?? "", name: key ?? "", of: null, place: "layout" as const, work: "underneath" as const };
    return { end, place: strip?.place, laid: undefined, along: strip ? alongOf(strip) : 0 };
  };
  const [a, b] = [endAt(from), endAt(to)];
  const run: Run = a.place === b.place ? (a.place ?? "layout") : "cable";
  const laid = [b.laid, a.laid].flatMap((each) => each ?? []);
  const owner = laid.find(({ end }) => end.turnoutId !== null) ?? ends.find(({ end }) => end.turnoutId !== null);
  const along = Math.max(a.along, b.along);
  const usual = () =>
    run === "cable" && cable ? shelf.metresOf(cable, along) : usualMetres(railway, run, laid, along);
  return {
    from: a.end,
    to: b.end,
    run,
    metres: fact.metres ?? cable?.metres ?? usual(),
    turnoutId: owner?.end.turnoutId ?? null,
    isTrunk: false,
    core: cable ? { cableId: cable.id, cable: cable.label, number: fact.core ?? 0 } : null,
    fact,
  };
}

/** Links with those taken over that were laid just so before. */
export function asLaid(links: StrandLink[], before: readonly StrandLink[]): StrandLink[] {
  if (before.length === 0) return links;
  const nameOf = ({ from, to, core, fact }: StrandLink) => `${linkOf(from.key, to.key, core)} ${fact?.id}`;
  let known: Map<string, StrandLink> | undefined;
  return links.map((link, place) => {
    // most stand where they stood
    let was = before[place];
    if (!was || !isBetweenSame(was, link)) {
      known ??= new Map(before.map((each) => [nameOf(each), each]));
      was = known.get(nameOf(link));
    }
    const isSame =
      was?.metres === link.metres &&
      was.fact === link.fact &&
      was.turnoutId === link.turnoutId &&
      was.from.key === link.from.key &&
      was.from.name === link.from.name &&
      was.to.name === link.to.name &&
      was.from.work === link.from.work &&
      was.to.work === link.to.work &&
      was.core?.cable === link.core?.cable &&
      was.isTrunk === link.isTrunk &&
      was.again === link.again;
    return was && isSame ? was : link;
  });
}

/** Whether two links are the same fact, or none, between the same ends by the same core. */
function isBetweenSame(a: StrandLink, b: StrandLink): boolean {
  return (
    a.from.key === b.from.key &&
    a.to.key === b.to.key &&
    a.fact?.id === b.fact?.id &&
    a.core?.cableId === b.core?.cableId &&
    a.core?.number === b.core?.number
  );
}
