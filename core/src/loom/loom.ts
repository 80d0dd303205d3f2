import { alongOf, hasBoardsApart, runsOnLine } from "../line/runs.ts";
import { ChangedMap } from "../record/changedMap.ts";
import { type Change, differenceOf } from "../record/difference.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { type Wire as Fact, standingOfWire } from "../record/made.ts";
import { atOnce, type Steps } from "../record/steps.ts";
import { isSame } from "../record/unchanged.ts";
import { endKey, type Net } from "../schematic/nets.ts";
import type { Schematic } from "../schematic/schematic.ts";
import { type Bundles, bundlesAfter, NO_BUNDLES } from "./bundles.ts";
import { endNames } from "./endNames.ts";
import { asLaid, linksOf, type StrandLink, type Woven } from "./links.ts";
import { numbered } from "./numbered.ts";
import { groupsAfter } from "./reach.ts";
import { Shelf } from "./shelf.ts";
import {
  isAsBefore,
  isSamePassage,
  type Moved,
  newPassage,
  type Strand,
  sitingOf,
  strandOf,
  takePassage,
} from "./strands.ts";
import { fitTails } from "./tails.ts";
import { factEnds, type IdleWhy, type IdleWire, type Loom, type Passage, screwIdOf, type Wire } from "./wire.ts";

/**
 * The wires that make the nets. What the record holds of wires is kept as far as it serves: made and kept wires as they
 * are, of proposed ones the numbers, screws and cores. What is missing is added: a net that passes from the panel to the
 * layout goes through a screw of a panel strip, a core of a cable and a screw of a layout strip, the first that are free;
 * new wires get the first free numbers, in the owner's order of turnouts, those for no turnout first.
 */
export function loomOf(record: RailwayRecord, schematic: Schematic): Loom {
  return atOnce(weaving(record, schematic, undefined));
}

/** What was derived of a record, before an edit. */
export interface Planned {
  record: RailwayRecord;
  schematic: Schematic;
  loom: Loom;
}

/** The loom of a schematic; what the edit since an earlier one left as it was are the same objects. */
export function loomAfter(record: RailwayRecord, schematic: Schematic, earlier: Planned | undefined): Loom {
  return atOnce(loomInSteps(record, schematic, earlier));
}

/** The same in steps: of thousands of turnouts each takes some tenths of a second. */
export function* loomInSteps(record: RailwayRecord, schematic: Schematic, earlier: Planned | undefined): Steps<Loom> {
  const isSame =
    earlier &&
    earlier.schematic === schematic &&
    LOOKED_AT.every((list) => earlier.record[list] === record[list]) &&
    runsOnLine(earlier.record) === runsOnLine(record);
  if (!isSame) return yield* weaving(record, schematic, earlier);
  const known = weavings.get(earlier.record);
  if (known) weavings.set(record, known);
  return earlier.loom;
}

/** Wires of a record's loom that the record does not hold; all of them where nothing is known of it. */
export function unrecorded(record: RailwayRecord, loom: Loom): readonly Wire[] {
  return weavings.get(record)?.fresh ?? loom.wires;
}

/** What of a record the loom follows from, besides the schematic. */
const LOOKED_AT = [
  "railway",
  "zones",
  "layings",
  "customs",
  "turnouts",
  "devices",
  "strips",
  "cables",
  "wires",
] as const;

/** What the loom of a record was woven from, for the next one. */
interface Weaving {
  netOf: ChangedMap<string, string>;
  bundles: Bundles;
  woven: ReadonlyMap<Net, Woven>;
  wires: Wire[];
  /** Wires that the record does not hold. */
  fresh: Wire[];
}

const weavings = new WeakMap<RailwayRecord, Weaving>();

function* weaving(record: RailwayRecord, { nets, threads }: Schematic, earlier: Planned | undefined): Steps<Loom> {
  const shelf = new Shelf(record, nets);
  // the railway's sizes, strips and cables decide which proposals still hold
  const old = earlier && SHELVED.every((list) => earlier.record[list] === record[list]) ? earlier.record : undefined;
  const known = old && weavings.get(old);
  const { netOf, replanned, gone } = netsAt(nets, known);
  const change = old && known ? differenceOf(old, record, "wire") : { gone: [], come: record.wires };
  const { bundles, changed } = yield* bundlesAfter(
    known?.bundles ?? NO_BUNDLES,
    change,
    replanned,
    (terminal) => netOf.get(terminal),
    shelf,
  );
  yield;
  const moved = old && known ? { ...movedBetween(old, record), bundled: changed } : NOTHING_MOVED;
  const woven = yield* wovenAfter(record, nets, bundles, shelf, moved, known?.woven ?? new Map());
  yield;
  const { wires, fresh } = yield* numbered(record, woven, threads, shelf, known);
  yield;
  weavings.set(record, {
    ...{ netOf, bundles, wires, fresh },
    woven: new Map(woven.map((each) => [each.strand.net, each])),
  });
  const idle = idleOf(record, bundles, woven);
  yield;
  const before = earlier?.loom;
  const isInUseAlike = before && known && isUsedAlike(woven, known.woven, gone, change);
  const { strips, cables } = isInUseAlike ? before : shelf.inUse;
  yield;
  const loom: Loom = {
    wires: asBefore(wires, before?.wires),
    passages: asBefore(
      woven.flatMap(({ passage }) => passage ?? []),
      before?.passages,
    ),
    strips: asBefore(strips, before?.strips),
    cables: asBefore(cables, before?.cables),
    idle: idle.length === 0 && before?.idle.length === 0 ? before.idle : idle,
  };
  if (!before) return loom;
  if (PARTS.every((part) => loom[part] === before[part])) return before;
  groupsAfter(loom, before);
  return loom;
}

/** Lists on which strips and cables depend, and how nets are laid. */
const SHELVED = ["railway", "zones", "layings", "customs", "strips", "cables"] as const;

/** Parts of a loom that are the same lists when nothing in them has changed. */
const PARTS = ["wires", "passages", "strips", "cables", "idle"] as const;

/** The net of each terminal, the terminals that are in another one than before, and the nets that are no more. */
function netsAt(nets: readonly Net[], known: Weaving | undefined) {
  if (!known) {
    const all = new Map(nets.flatMap((net) => net.ends.map((end) => [endKey(end), net.id] as const)));
    return { netOf: new ChangedMap(all), replanned: new Set<string>(), gone: [] };
  }
  const replanned = new Set<string>();
  const present = new Set(nets);
  const gone = [...known.woven.keys()].filter((net) => !present.has(net));
  const come = nets.filter((net) => !known.woven.has(net));
  if (gone.length === 0 && come.length === 0) return { netOf: known.netOf, replanned, gone };
  const netOf = new ChangedMap(known.netOf);
  for (const net of gone) for (const end of net.ends) netOf.delete(endKey(end));
  for (const net of come) for (const end of net.ends) netOf.set(endKey(end), net.id);
  for (const net of [...gone, ...come]) {
    for (const end of net.ends) {
      const key = endKey(end);
      if (netOf.get(key) !== known.netOf.get(key)) replanned.add(key);
    }
  }
  return { netOf, replanned, gone };
}

const NOTHING_MOVED: Moved = { devices: new Set(), turnouts: new Set(), bundled: new Set() };

/** Devices and turnouts that are not as they were. */
function movedBetween(old: RailwayRecord, record: RailwayRecord): Omit<Moved, "bundled"> {
  const both = (kind: "device" | "turnout") => {
    const { gone, come } = differenceOf(old, record, kind);
    return new Set([...gone, ...come].map(({ id }) => id));
  };
  const devices = both("device");
  const { gone, come } = differenceOf(old, record, "assignment");
  // a motor or frog stands at its turnout
  for (const { role, deviceId } of [...gone, ...come]) if (role === "motor" || role === "frog") devices.add(deviceId);
  const turnouts = both("turnout");
  const [were, are] = [runsOnLine(old), runsOnLine(record)];
  for (const id of new Set([...were.keys(), ...are.keys()])) if (were.get(id) !== are.get(id)) turnouts.add(id);
  // turnouts are as far along as their boards
  if (hasBoardsApart(old) || hasBoardsApart(record)) {
    for (const { id } of record.turnouts) if (alongOf(old, id) !== alongOf(record, id)) turnouts.add(id);
  }
  return { devices, turnouts };
}

/** The strands of all nets with their links, in steps; where one has to pass from the panel to the layout, it gets what is free. */
function* wovenAfter(
  record: RailwayRecord,
  nets: readonly Net[],
  bundles: Bundles,
  shelf: Shelf,
  moved: Moved,
  known: ReadonlyMap<Net, Woven>,
): Steps<Woven[]> {
  const siting = sitingOf(record);
  const before = nets.map((net) => known.get(net));
  const strands = nets.map((net, place): Strand => {
    const was = before[place]?.strand;
    return was && isAsBefore(was, moved) ? was : strandOf(record, net, bundles, shelf, siting);
  });
  yield;
  // what is there or proposed already holds its place before anything new is given one
  shelf.takeLater(() => {
    for (const { passage, lacks } of strands) {
      if (passage) takePassage(passage, shelf);
      for (const { strip, way } of lacks ?? []) shelf.takeScrew(strip.id, way);
    }
  });
  const spare = strands.some(({ lacks }) => lacks) ? spareOf(bundles).filter(({ cableId }) => cableId !== null) : [];
  const all = strands.map((strand, place): Woven => {
    const was = before[place];
    const passage = strand.lacks ? newPassage(strand, strand.lacks, spare, shelf) : strand.passage;
    const isSame = was !== undefined && isSamePassage(was.passage, passage);
    // what has places and numbers from the record only is as it was
    if (isSame && was.isRecorded && was.strand === strand) return was;
    const firm = passage && strand.lacks ? [...strand.firm, ...spareAt(passage, bundles)] : strand.firm;
    const links = linksOf(record.railway, strand, passage, firm, shelf);
    return { strand, passage: isSame ? was.passage : passage, links, wires: [], isRecorded: false };
  });
  yield;
  // cores of tails that are proposed are held before any other is given
  const open = all.filter((one, place) => before[place] !== one);
  shelf.takeLater(() => {
    for (const [place, one] of all.entries()) if (before[place] === one) use(one, shelf);
  });
  fitTails(open, shelf);
  for (const one of open) {
    one.links = asLaid(one.links, known.get(one.strand.net)?.links ?? []);
    use(one, shelf);
  }
  return all;
}

/** Says that splices, blocks and tails of a strand are in use. */
function use({ links, strand }: Woven, shelf: Shelf): void {
  const { tails, junctions } = usedBy(links, strand);
  for (const { cableId, number } of tails) shelf.takeCore(cableId, number);
  for (const id of junctions) shelf.use(id);
}

/** Cores of tails and splices or blocks that links go through. */
interface Used {
  tails: readonly { cableId: string; number: number }[];
  junctions: readonly string[];
}

const NOTHING_USED: Used = { tails: [], junctions: [] };
const used = new WeakMap<readonly StrandLink[], Used>();

/** Found out once for the links of a strand, which are never changed once they are laid; most use nothing. */
function usedBy(links: readonly StrandLink[], { topology }: Strand): Used {
  const known = used.get(links);
  if (known) return known;
  const tails = links.flatMap(({ run, core }) => (core && run === "layout" ? [core] : []));
  const isJoined = topology === "bus" || topology === "blocks";
  const ends = isJoined ? links.flatMap(({ from, to }) => [from, to]) : [];
  const junctions = ends.flatMap(({ of, key }) => (of ? [] : [screwIdOf(key)]));
  const made = tails.length + junctions.length === 0 ? NOTHING_USED : { tails, junctions };
  used.set(links, made);
  return made;
}

/**
 * Whether strands are at the same strips, cables and splices as before an edit, and made and kept wires as well.
 * @param gone nets that are no more
 * @param change wires of the record that went and that came
 */
function isUsedAlike(
  woven: readonly Woven[],
  known: ReadonlyMap<Net, Woven>,
  gone: readonly Net[],
  change: Change<Fact>,
): boolean {
  const isOnlyPlanned = (fact: Fact) => ["proposed", "out"].includes(standingOfWire(fact));
  const usesNothing = ({ passage, strand, links }: Woven) =>
    passage === null && strand.lacks === null && usedBy(links, strand) === NOTHING_USED;
  const isAlike = (one: Woven) => {
    const was = known.get(one.strand.net);
    if (was === one) return true;
    if (!was) return usesNothing(one);
    return (
      isSamePassage(was.passage, one.passage) &&
      isSame(usedBy(was.links, was.strand), usedBy(one.links, one.strand)) &&
      one.strand.lacks === null
    );
  };
  return (
    [...change.gone, ...change.come].every(isOnlyPlanned) &&
    gone.every((net) => {
      const was = known.get(net);
      return was === undefined || usesNothing(was);
    }) &&
    woven.every(isAlike)
  );
}

/** Facts that are joined to nothing of the plan, by their numbers. */
function spareOf({ factual }: Bundles): Fact[] {
  const spare = factual.flatMap(({ claims }) =>
    claims.firm.filter((fact) => claims.netOf(factEnds(fact).from ?? "") === undefined),
  );
  return spare.sort((a, b) => a.number - b.number);
}

/** Spare facts that a passage goes through, with what hangs on them. */
function spareAt({ panel }: Passage, { at }: Bundles): Fact[] {
  const claims = at.get(panel.key)?.claims;
  if (!claims || claims.netOf(panel.key) !== undefined) return [];
  return claims.firm.filter((fact) => claims.isTied(factEnds(fact).from ?? "", panel.key));
}

/** Facts that serve nothing, with what is written at their ends. */
function idleOf(record: RailwayRecord, bundles: Bundles, woven: readonly Woven[]): IdleWire[] {
  const idle = bundles.factual.flatMap(({ claims }) => claims.idle);
  const firm = bundles.factual.flatMap(({ claims }) => claims.firm.map((fact) => ({ fact, claims })));
  if (idle.length === 0 && firm.length === 0) return [];
  const serving = new Set(woven.flatMap(({ links }) => links.flatMap(({ fact }) => fact ?? [])));
  const unused = firm.flatMap(({ fact, claims }): { fact: Fact; why: IdleWhy }[] => {
    if (serving.has(fact)) return [];
    return [{ fact, why: claims.netOf(factEnds(fact).from ?? "") === undefined ? "spare" : "stub" }];
  });
  const all = [...idle, ...unused].sort((a, b) => a.fact.number - b.fact.number);
  return all.map(({ fact, why }) => ({ fact, why, ...endNames(record, fact) }));
}

/** The list as it was before, when it holds the same things. */
function asBefore<T>(list: T[], before: T[] | undefined): T[] {
  return before?.length === list.length && list.every((each, index) => each === before[index]) ? before : list;
}
