import { Groups } from "../circuit/groups.ts";
import { boardAlong, alongOf as turnoutAlong } from "../line/runs.ts";
import { assignmentsOfRole, deviceOf, find } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { type Wire as Fact, isJunction, type Strip, standingOfWire } from "../record/made.ts";
import type { Device, Place, Topology } from "../record/schemas.ts";
import { type End, endKey, type Net, terminalName } from "../schematic/nets.ts";
import type { Bundle, Bundles } from "./bundles.ts";
import type { LaidEnd } from "./lay.ts";
import { usualLaying } from "./laying.ts";
import { alongOf, workAt } from "./places.ts";
import type { Core, Screw, Shelf } from "./shelf.ts";
import { factEnds, isScrew, type Passage, type ScrewEnd, screwKey, screwName, type WireEnd } from "./wire.ts";

/** A net with its terminals where they stand, and what the record holds of its wires. */
export interface Strand {
  net: Net;
  ends: LaidEnd[];
  /** Bundles of wires at its terminals. */
  bundles: Bundle[];
  /** Wires that are facts and serve it. */
  firm: Fact[];
  /** Where it passes from the panel to the layout by what is there or proposed already. */
  passage: Passage | null;
  /** It has to get a passage, by these of its own screws if it has any; null when it needs none or has one. */
  lacks: Screw[] | null;
  topology: Topology;
  /** Splices and blocks by which its terminals hang on a trunk already, or may. */
  taps: ReadonlyMap<string, readonly Strip[]>;
}

/** What of a record says where things stand and how nets are laid. */
export interface Siting {
  /** The turnout at which a device stands; undefined where boards stand together. */
  turnoutOf: (deviceId: string) => string | undefined;
  /** How the net of a terminal is to be laid, where somebody has said so. */
  chosen: (terminal: string) => Topology | undefined;
}

/** Where the things of a record stand: motors and frogs at their turnouts, all else where the boards are. */
export function sitingOf(record: RailwayRecord): Siting {
  let at: Map<string, string> | undefined;
  let chosen: Map<string, Topology> | undefined;
  const turnouts = () => {
    const those = [...assignmentsOfRole(record, "motor"), ...assignmentsOfRole(record, "frog")];
    return new Map(those.map(({ deviceId, turnoutId }) => [deviceId, turnoutId]));
  };
  const layings = () =>
    new Map(record.layings.map(({ topology, ...end }) => [endKey(end), topology] as [string, Topology]));
  return {
    turnoutOf: (deviceId) => {
      at ??= turnouts();
      return at.get(deviceId);
    },
    chosen: (terminal) => {
      chosen ??= layings();
      return chosen.get(terminal);
    },
  };
}

/** A net with what is there of it. */
export function strandOf(record: RailwayRecord, net: Net, bundles: Bundles, shelf: Shelf, siting: Siting): Strand {
  const ends = net.ends.map((end): LaidEnd => {
    const device = deviceOf(record, end.deviceId);
    const turnoutId = siting.turnoutOf(device.id) ?? null;
    const turnout = turnoutId === null ? undefined : find(record, "turnout", turnoutId);
    const metres = turnout ? turnoutAlong(record, turnout.id) : device.place === "layout" ? boardAlong(device) : 0;
    return { end, device, at: terminalEnd(device, end), turnoutId, zoneId: turnout?.zoneId ?? null, metres };
  });
  const own = bundlesOf(ends, bundles);
  const firm = factsOf(net, own, ({ firm }) => firm);
  const topology = topologyOf(record, net, ends, siting);
  const taps = topology === "bus" || topology === "blocks" ? tapsOf(net, own, shelf) : new Map();
  const strand: Strand = { net, ends, bundles: own, firm, passage: null, lacks: null, topology, taps };
  if (!isAtBoth(strand)) return strand;
  const core = coreOf(strand, shelf);
  const passes = isThrough(strand);
  if (core && (!passes || standingOfWire(core) !== "proposed")) strand.passage = passageBy(core, net, shelf);
  if (!passes && strand.passage === null) strand.lacks = screwsOf(strand, shelf);
  return strand;
}

/** Facts of a net, by their numbers: whatever bundle they are in. */
function factsOf(net: Net, bundles: readonly Bundle[], which: (claims: Bundle["claims"]) => Iterable<Fact>): Fact[] {
  const facts = bundles.flatMap(({ claims }) =>
    [...which(claims)].filter((fact) => claims.netOf(nameOf(fact)) === net.id),
  );
  return facts.sort((a, b) => a.number - b.number);
}

/** How a net is laid: as somebody chose for it, else as its zone or the railway has it for what it is for. */
export function topologyOf(record: RailwayRecord, net: Net, ends: readonly LaidEnd[], { chosen }: Siting): Topology {
  for (const { at } of ends) {
    const own = chosen(at.key);
    if (own) return own;
  }
  const usual = usualLaying(net.purpose);
  if (usual === "feeders") return record.railway.feeders;
  if (usual === null) return "chain";
  const turnouts = ends.flatMap(({ turnoutId }) => (turnoutId === null ? [] : [find(record, "turnout", turnoutId)]));
  const zones = new Set(turnouts.map((turnout) => turnout?.zoneId ?? null));
  const [zone] = zones;
  const own = zones.size === 1 && zone ? find(record, "zone", zone)?.commons : null;
  return own ?? record.railway.commons;
}

/** Splices and blocks at which wires of a net end, by the terminals that these join to them. */
function tapsOf(net: Net, bundles: readonly Bundle[], shelf: Shelf): Map<string, Strip[]> {
  const taps = new Map<string, Strip[]>();
  for (const fact of factsOf(net, bundles, ({ firm, proposed }) => [...firm, ...proposed.values()])) {
    const { from, to } = factEnds(fact);
    const strip = shelf.strip(fact.fromStripId ?? fact.toStripId ?? "");
    const terminal = fact.fromStripId === null ? from : to;
    if (!strip || !isJunction(strip) || terminal === null || isScrew(terminal)) continue;
    taps.set(terminal, [...(taps.get(terminal) ?? []), strip]);
  }
  return taps;
}

/** What an edit changed of where things stand and what hangs together. */
export interface Moved {
  /** Identifiers. */
  devices: ReadonlySet<string>;
  turnouts: ReadonlySet<string>;
  /** Ends whose bundle of wires is another one, by their names in the circuit. */
  bundled: ReadonlySet<string>;
}

/** Whether a strand is as it was after an edit: of the same devices, as far away, with the same bundles. */
export function isAsBefore({ ends }: Strand, { devices, turnouts, bundled }: Moved): boolean {
  for (const { end, at, turnoutId } of ends) {
    if (devices.has(end.deviceId) || bundled.has(at.key)) return false;
    if (turnouts.size === 0) continue;
    if (turnoutId !== null && turnouts.has(turnoutId)) return false;
    if (end.turnoutId !== null && turnouts.has(end.turnoutId)) return false;
  }
  return true;
}

function bundlesOf(ends: readonly LaidEnd[], { at }: Bundles): Bundle[] {
  return [...new Set(ends.flatMap((end) => at.get(end.at.key) ?? []))];
}

function nameOf(fact: Fact): string {
  return factEnds(fact).from ?? "";
}

/** Whether a net has terminals at the panel and under the layout. */
function isAtBoth({ ends }: Strand): boolean {
  return new Set(ends.map(({ device }) => device.place)).size > 1;
}

/** Whether wires that are there join a net's terminals at the panel with those under the layout. */
function isThrough({ ends, firm }: Strand): boolean {
  if (firm.length === 0) return false;
  const groups = new Groups();
  for (const fact of firm) {
    const { from, to } = factEnds(fact);
    if (from !== null && to !== null) groups.join(from, to);
  }
  const number = groups.numbered();
  const groupsAt = (place: Place) =>
    ends.flatMap(({ device, at }) => (device.place === place ? (number.get(at.key) ?? []) : []));
  const reached = new Set(groupsAt("panel"));
  return groupsAt("layout").some((group) => reached.has(group));
}

/** The core by which a net passes from the panel to the layout already, a made one before a proposed one; a tail's is none. */
function coreOf({ net, bundles, firm }: Strand, shelf: Shelf): Fact | undefined {
  const passes = (fact: Fact) => fact.cableId !== null && passageBy(fact, net, shelf) !== null;
  return firm.find(passes) ?? factsOf(net, bundles, ({ proposed }) => proposed.values()).find(passes);
}

/** Screws that belong to a net already. */
function screwsOf({ net, bundles }: Strand, shelf: Shelf): Screw[] {
  const screws = new Map<string, Screw>();
  for (const fact of factsOf(net, bundles, ({ firm, proposed }) => [...firm, ...proposed.values()])) {
    for (const [id, way] of [
      [fact.fromStripId, fact.fromWay],
      [fact.toStripId, fact.toWay],
    ] as const) {
      const strip = id === null ? undefined : shelf.strip(id);
      if (strip?.kind === "screws" && way !== null) screws.set(screwKey(strip.id, way), { strip, way });
    }
  }
  return [...screws.values()];
}

/** The passage that a core makes; null when its ends are not a panel strip and a layout strip. */
export function passageBy(fact: Fact, net: Net, shelf: Shelf): Passage | null {
  const { fromStripId, fromWay, toStripId, toWay } = fact;
  const from = shelf.strip(fromStripId ?? "");
  const to = shelf.strip(toStripId ?? "");
  const cable = shelf.cable(fact.cableId ?? "");
  if (!from || !to || !cable || fromWay === null || toWay === null || from.place === to.place) return null;
  const [first, second] = [screwEnd({ strip: from, way: fromWay }), screwEnd({ strip: to, way: toWay })];
  const [panel, layout] = from.place === "panel" ? [first, second] : [second, first];
  return passageOf(net, panel, layout, { cable, core: fact.core ?? 0 }, shelf);
}

function passageOf(net: Net, panel: ScrewEnd, layout: ScrewEnd, { cable, core }: Core, shelf: Shelf): Passage {
  const { id, purpose } = net;
  const metres = shelf.metresOf(cable, layout.along);
  return { net: id, purpose, panel, layout, cableId: cable.id, cable: cable.label, metres, core };
}

export function takePassage({ panel, layout, cableId, core, purpose }: Passage, shelf: Shelf): void {
  for (const { stripId, way } of [panel, layout]) shelf.takeScrew(stripId, way);
  shelf.takeCore(cableId, core, purpose);
}

/**
 * A passage for a net that has none: by screws that are its own, by a spare core that is made, or by what is free.
 * @param spare cores that are made and serve nothing; one that is used is taken out of the list
 */
export function newPassage({ net, ends }: Strand, own: readonly Screw[], spare: Fact[], shelf: Shelf): Passage {
  const at = (place: Place) => own.find(({ strip }) => strip.place === place);
  let [panel, layout] = [at("panel"), at("layout")];
  if (!panel && !layout) {
    const made = spare.findIndex((fact) => passageBy(fact, net, shelf) !== null);
    const passage = made < 0 ? null : passageBy(spare.splice(made, 1)[0] as Fact, net, shelf);
    if (passage) return passage;
  }
  const serves = shelf.servedBy(ends);
  if (panel) layout ??= shelf.opposite(panel, serves);
  else if (layout) panel = shelf.opposite(layout, serves);
  else ({ panel, layout } = shelf.freePair(serves));
  for (const { strip, way } of [panel, layout]) shelf.takeScrew(strip.id, way);
  const core = shelf.freeCore(layout.strip.zoneId, net.purpose);
  return passageOf(net, screwEnd(panel), screwEnd(layout), core, shelf);
}

const screwEnds = new WeakMap<Strip, ScrewEnd[]>();

/** A screw as an end of wires; the same for a strip that nobody changed. */
export function screwEnd({ strip, way }: Screw): ScrewEnd {
  const ends = screwEnds.get(strip) ?? [];
  screwEnds.set(strip, ends);
  const known = ends[way];
  if (known) return known;
  const { id, label, place } = strip;
  const end: ScrewEnd = {
    ...{ key: screwKey(id, way), name: screwName(strip, way), of: null, place, work: workAt(strip) },
    ...{ stripId: id, strip: label, way, along: alongOf(strip) },
  };
  ends[way] = end;
  return end;
}

function terminalEnd({ label, place }: Device, { deviceId, terminal }: End): WireEnd {
  return {
    key: endKey({ deviceId, terminal }),
    name: terminalName(label, terminal),
    of: { deviceId, terminal },
    place,
    work: place === "panel" ? "bench" : "underneath",
  };
}

export function isSamePassage(a: Passage | null, b: Passage | null): boolean {
  if (a === null || b === null || a === b) return a === b;
  return (
    a.panel.key === b.panel.key &&
    a.layout.key === b.layout.key &&
    a.panel.name === b.panel.name &&
    a.layout.name === b.layout.name &&
    a.panel.work === b.panel.work &&
    a.layout.work === b.layout.work &&
    a.layout.along === b.layout.along &&
    a.cable === b.cable &&
    a.cableId === b.cableId &&
    a.metres === b.metres &&
    a.core === b.core
  );
}
