import type { RailwayRecord } from "../record/kinds.ts";
import { type Wire as Fact, standingOfWire } from "../record/made.ts";
import type { Steps } from "../record/steps.ts";
import type { Net } from "../schematic/nets.ts";
import type { Schematic } from "../schematic/schematic.ts";
import { ohmsPerMetre } from "../units/gauge.ts";
import { cableMake, cutLength } from "./cables.ts";
import { colourOf, coreColour } from "./colours.ts";
import type { StrandLink, Woven } from "./links.ts";
import type { Shelf } from "./shelf.ts";
import { factEnds, linkOf, type Wire } from "./wire.ts";

/** What was numbered before an edit. */
interface Numbered {
  woven: ReadonlyMap<Net, Woven>;
  wires: readonly Wire[];
}

/**
 * Wires with their numbers: those of the record keep theirs, new ones get the first that are free, in the owner's order of
 * turnouts. Strands that were numbered from the record before are left alone. A step for some thousands.
 * @returns all wires by their numbers, and those that the record does not hold
 */
export function* numbered(
  record: RailwayRecord,
  woven: readonly Woven[],
  threads: Schematic["threads"],
  shelf: Shelf,
  before: Numbered | undefined,
): Steps<{ wires: Wire[]; fresh: Wire[] }> {
  const open = before ? woven.filter((one) => before.woven.get(one.strand.net) !== one) : woven;
  const lacking: { one: Woven; index: number }[] = [];
  for (const [place, one] of open.entries()) {
    if (place % STRANDS_A_STEP === STRANDS_A_STEP - 1) yield;
    lacking.push(...fromRecord(record, one, shelf));
  }
  const fresh = lacking.length === 0 ? [] : numberFresh(record, woven, lacking, threads, shelf);
  const come = open.flatMap(({ wires }) => wires);
  if (!before) return { wires: come.sort((a, b) => a.number - b.number), fresh };
  const kept = new Set(woven);
  const gone = new Set<Wire>();
  for (const one of before.woven.values()) if (!kept.has(one)) for (const wire of one.wires) gone.add(wire);
  const left = gone.size === 0 ? before.wires : before.wires.filter((wire) => !gone.has(wire));
  return {
    wires: merged(
      left,
      come.sort((a, b) => a.number - b.number),
    ),
    fresh,
  };
}

/** Strands that are looked up in the record in a step: some tenths of a second on a slow machine. */
const STRANDS_A_STEP = 4_000;

/** Gives links that the record knows no wire of the first free numbers. */
function numberFresh(
  record: RailwayRecord,
  woven: readonly Woven[],
  lacking: { one: Woven; index: number }[],
  threads: Schematic["threads"],
  shelf: Shelf,
): Wire[] {
  const numbers = new Set<number>();
  const ids = new Set<string>();
  const hold = ({ number, id }: { number: number; id: string }) => {
    numbers.add(number);
    ids.add(id);
  };
  for (const fact of record.wires) if (standingOfWire(fact) !== "proposed") hold(fact);
  for (const { wires } of woven) for (const wire of wires) if (wire) hold(wire);
  const rank = ranks(threads);
  const rankOf = ({ one, index }: (typeof lacking)[number]) => rank(one.links[index]?.turnoutId ?? null);
  lacking.sort((a, b) => rankOf(a) - rankOf(b));
  let number = 1;
  return lacking.map(({ one, index }) => {
    while (numbers.has(number)) number++;
    let id = `w${number}`;
    for (let more = 2; ids.has(id); more++) id = `w${number}-${more}`;
    hold({ number, id });
    const wire = wireOf(record, one.strand.net, one.links[index] as StrandLink, id, number, shelf);
    one.wires[index] = wire;
    return wire;
  });
}

/** Two lists of wires by number as one. */
function merged(a: readonly Wire[], b: readonly Wire[]): Wire[] {
  if (b.length === 0) return a as Wire[];
  const all: Wire[] = [];
  let next = 0;
  for (const wire of a) {
    while (next < b.length && (b[next] as Wire).number < wire.number) all.push(b[next++] as Wire);
    all.push(wire);
  }
  while (next < b.length) all.push(b[next++] as Wire);
  return all;
}

/** Gives those wires of a strand their numbers that have one in the record. @returns the places of the others */
function fromRecord(record: RailwayRecord, one: Woven, shelf: Shelf): { one: Woven; index: number }[] {
  const { links, strand } = one;
  const fresh: { one: Woven; index: number }[] = [];
  one.wires = new Array(links.length);
  for (const [index, link] of links.entries()) {
    const name = linkOf(link.from.key, link.to.key, link.core);
    const known = link.fact ?? proposedAs(name, strand);
    if (!known) {
      fresh.push({ one, index });
      continue;
    }
    // a wire begins where the record has it begin, whichever way round it would be laid now
    const isTurned = factEnds(known).from === link.to.key;
    const laid = isTurned ? { ...link, from: link.to, to: link.from } : link;
    links[index] = laid;
    one.wires[index] = wireOf(record, strand.net, laid, known.id, known.number, shelf);
  }
  one.isRecorded = fresh.length === 0;
  return fresh;
}

/** The wire that the record proposes for a link. @param name of the link */
function proposedAs(name: string, { bundles }: Woven["strand"]): Fact | undefined {
  for (const { claims } of bundles) {
    const fact = claims.proposed.get(name);
    if (fact) return fact;
  }
  return undefined;
}

/** A turnout's place in the owner's order; 0 for what is for no turnout. */
function ranks(threads: Schematic["threads"]): (turnoutId: string | null) => number {
  const turnouts = threads.flatMap(({ turnout, followers }) => [turnout, ...followers]);
  const rank = new Map(turnouts.map(({ id }, index) => [id, index + 1]));
  return (turnoutId) => (turnoutId === null ? 0 : (rank.get(turnoutId) ?? 0));
}

/** A cable of which nothing is said of its own. */
const USUAL = { gauge: null, colours: null };

const wiresMade = new WeakMap<StrandLink, Wire>();

/** The wire of a link; the same object as long as link, number, gauge and colour are the same. */
function wireOf(record: RailwayRecord, net: Net, link: StrandLink, id: string, number: number, shelf: Shelf): Wire {
  const { from, to, run, metres, turnoutId, core, fact } = link;
  const { railway } = record;
  const cable = cableMake(railway, (core && shelf.cable(core.cableId)) ?? USUAL);
  const single = link.isTrunk ? railway.busGauge : railway.wireGauge;
  const gauge = fact?.gauge ?? (core ? cable.gauge : single);
  const colour = fact?.colour ?? (core ? coreColour(cable.colours, core.number) : colourOf(record, net.purpose));
  const known = wiresMade.get(link);
  if (known && known.id === id && known.number === number && known.gauge === gauge && known.colour === colour)
    return known;
  const label = `W${number}`;
  const standing = fact ? standingOfWire(fact) : "proposed";
  const wire: Wire = {
    id,
    number,
    label,
    from,
    to,
    run,
    core,
    turnoutId,
    gauge,
    metres,
    fact,
    net: net.id,
    purpose: net.purpose,
    element: `${linkOf(from.key, to.key, core)}${link.again ? ` ${id}` : ""}`,
    colour,
    cutMetres: cutLength(railway, metres),
    ohms: ohmsPerMetre(gauge) * metres,
    flags: [`${label} to ${to.name}`, `${label} to ${from.name}`],
    standing: standing === "out" ? "made" : standing,
  };
  wiresMade.set(link, wire);
  return wire;
}
