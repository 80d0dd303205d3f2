import { Draft } from "../equip/draft.ts";
import type { EditGroup } from "../record/edits.ts";
import { find, freshId } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { type Cable, type Wire as Fact, newCable, newStrip, type Strip, standingOfWire } from "../record/made.ts";
import { recordError } from "../record/problems.ts";
import type { Place } from "../record/schemas.ts";
import { count } from "../units/format.ts";
import { cableMake } from "./cables.ts";
import { proposal } from "./completion.ts";
import { alongOf, cableMetres } from "./places.ts";
import { differs, firmFacts, proposeNets } from "./proposing.ts";
import { type Loom, screwIdOf, screwName, type Wire } from "./wire.ts";
import { changeWires, putParts, wireNames, withFigures } from "./work.ts";

// What a person changes of the loom by hand is kept: what is proposed goes round it until it is let go.

/** What of a single wire can be said by hand. */
export type WireFields = Pick<Fact, "colour" | "gauge" | "metres" | "note">;

/**
 * Sets colour, gauge, length or note of a wire.
 * @throws {RecordError} for the gauge of a core, which is that of its cable
 * @returns null when nothing changes
 */
export function setWire(record: RailwayRecord, loom: Loom, id: string, fields: Partial<WireFields>): EditGroup | null {
  const wire = loom.wires.find((each) => each.id === id);
  if (wire?.core && (fields.gauge || fields.metres))
    throw recordError(`${wire.label} is a core of ${wire.core.cable}: set the gauge and length of the cable.`);
  return changeWires(record, loom, [id], "Changed", (fact) => {
    const { note } = fact;
    const now: WireFields = wire ? { colour: wire.colour, gauge: wire.gauge, metres: wire.metres, note } : fact;
    return differs(now, fields) ? asKept({ ...fact, ...fields }) : fact;
  });
}

/** A proposal becomes something that is kept; what is made is a fact anyhow. */
function asKept(fact: Fact): Fact {
  return standingOfWire(fact) === "proposed" ? { ...fact, kept: true } : fact;
}

/** A way of a strip. */
export interface WayOf {
  stripId: string;
  way: number;
}

/**
 * What is at one way of a strip goes to another, and what is there comes back: all wires at both, made ones with their
 * joints, as one finds or leaves them. The nets stay joined, at other screws.
 * @throws {RecordError} when there is no such way, or the two are not on the same side
 */
export function moveWay(record: RailwayRecord, loom: Loom, from: WayOf, to: WayOf): EditGroup | null {
  const [a, b] = [placed(loom, from), placed(loom, to)];
  if (a.place !== b.place) throw recordError(`${a.name} and ${b.name} are not on the same side of the layout.`);
  if (a.name === b.name) return null;
  const exchanged = (stripId: string | null, way: number | null): WayOf | null => {
    if (stripId === from.stripId && way === from.way) return to;
    return stripId === to.stripId && way === to.way ? from : null;
  };
  const draft = new Draft(record);
  const moved = factsOf(record, loom).flatMap((fact) => {
    const first = exchanged(fact.fromStripId, fact.fromWay);
    const second = exchanged(fact.toStripId, fact.toWay);
    if (!first && !second) return [];
    const now = {
      ...fact,
      ...(first ? { fromStripId: first.stripId, fromWay: first.way } : {}),
      ...(second ? { toStripId: second.stripId, toWay: second.way } : {}),
    };
    return [keep(draft, loom, now)];
  });
  const isBoth = isTaken(moved, from) && isTaken(moved, to);
  return moved.length === 0
    ? null
    : draft.group(isBoth ? `Exchanged ${a.name} and ${b.name}` : `Moved ${a.name} to ${b.name}`);
}

function isTaken(facts: readonly Fact[], { stripId, way }: WayOf): boolean {
  return facts.some(
    (fact) =>
      (fact.fromStripId === stripId && fact.fromWay === way) || (fact.toStripId === stripId && fact.toWay === way),
  );
}

/**
 * One end of a wire is at another screw than was planned: written down as it is, whatever the plan wants; that the plan and
 * the wire disagree is a finding.
 * @throws {RecordError} when there is no such way
 */
export function endAt(record: RailwayRecord, loom: Loom, id: string, end: "from" | "to", at: WayOf): EditGroup | null {
  const { name } = placed(loom, at);
  const fact = factOf(record, loom, id);
  if (!fact) return null;
  const fields =
    end === "from"
      ? { fromDeviceId: null, fromTerminal: null, fromStripId: at.stripId, fromWay: at.way }
      : { toDeviceId: null, toTerminal: null, toStripId: at.stripId, toWay: at.way };
  const draft = new Draft(record);
  keep(draft, loom, { ...fact, ...fields });
  return draft.group(`As built: W${fact.number} ends at ${name}`);
}

/**
 * A wire that is a core of a cable is another core; a wire that is that core becomes this one.
 * @throws {RecordError} when the wire is no core, or there is no such core
 */
export function moveCore(
  record: RailwayRecord,
  loom: Loom,
  id: string,
  cableId: string,
  core: number,
): EditGroup | null {
  const fact = factOf(record, loom, id);
  const cable = loom.cables.find((each) => each.id === cableId);
  if (!fact || fact.cableId === null) throw recordError("Only a core of a cable can become another core.");
  if (!cable || core < 1 || core > cable.cores)
    throw recordError(`There is no core ${core} in ${cable?.label ?? "that cable"}.`);
  if (fact.cableId === cableId && fact.core === core) return null;
  const other = factsOf(record, loom).find((each) => each.cableId === cableId && each.core === core && each.id !== id);
  const draft = new Draft(record);
  // the colour is that of the core
  keep(draft, loom, { ...fact, cableId, core, colour: null });
  if (other) keep(draft, loom, { ...other, cableId: fact.cableId, core: fact.core, colour: null });
  return draft.group(
    other ? `W${fact.number} and W${other.number} exchange cores` : `W${fact.number} is core ${cable.label}.${core}`,
  );
}

/** What of a strip can be said by hand. */
export type StripFields = Pick<
  Strip,
  "label" | "ways" | "pinAmps" | "zoneId" | "runMetres" | "front" | "kept" | "fixedAt" | "note"
>;

/**
 * Changes a strip; a change by hand keeps it. When it serves another zone or stands elsewhere, what is proposed through it,
 * and through others for that zone, is proposed anew.
 * @throws {RecordError} when wires end at ways that it would not have any more
 */
export function setStrip(
  record: RailwayRecord,
  loom: Loom,
  id: string,
  fields: Partial<StripFields>,
): EditGroup | null {
  // the record knows of an edit sooner than what is derived from it
  const strip = find(record, "strip", id) ?? loom.strips.find((each) => each.id === id);
  if (!strip || !differs(strip, fields)) return null;
  const draft = new Draft(record);
  const ways = fields.ways ?? strip.ways;
  cutOff(
    draft,
    (fact) => waysAt(fact, id).some((way) => way > ways),
    `${strip.label} cannot have ${count(ways, "way")}`,
  );
  draft.put("strip", { ...strip, kept: true, ...fields });
  if ("zoneId" in fields || "runMetres" in fields) {
    const { zoneId: now } = { ...strip, ...fields };
    const isOf = ({ turnoutId }: Wire) =>
      now !== null && turnoutId !== null && find(record, "turnout", turnoutId)?.zoneId === now;
    const isAt = ({ from, to }: Wire) => [from, to].some(({ of, key }) => !of && screwIdOf(key) === id);
    proposeNets(draft, loom, (wire) => isAt(wire) || isOf(wire));
  }
  return draft.group(thingWords(strip.label, fields));
}

/**
 * Proposals that have no place any more go; the plan finds them another one.
 * @throws {RecordError} when facts are among them
 */
function cutOff(draft: Draft, isBeyond: (fact: Fact) => boolean, refusal: string): void {
  const beyond = draft.record.wires.filter((fact) => fact.outAt === null && isBeyond(fact));
  const firm = beyond.filter((fact) => standingOfWire(fact) !== "proposed");
  if (firm.length > 0) throw recordError(`${refusal}: ${wireNames(firm)} end beyond. Move them first.`);
  for (const { id } of beyond) draft.remove("wire", id);
}

/** What of a cable can be said by hand. */
export type CableFields = Pick<
  Cable,
  "label" | "cores" | "gauge" | "metres" | "colours" | "zoneId" | "kept" | "laidAt" | "note"
>;

/**
 * Changes a cable; a change by hand keeps it, and its cores are as it is, made ones too.
 * @throws {RecordError} when wires are cores that it would not have any more
 */
export function setCable(
  record: RailwayRecord,
  loom: Loom,
  id: string,
  fields: Partial<CableFields>,
): EditGroup | null {
  const cable = find(record, "cable", id) ?? loom.cables.find((each) => each.id === id);
  if (!cable || !differs(cable, fields)) return null;
  const draft = new Draft(record);
  const cores = fields.cores ?? cable.cores;
  const isBeyond = ({ cableId, core }: Fact) => cableId === id && (core ?? 0) > cores;
  cutOff(draft, isBeyond, `${cable.label} cannot have ${count(cores, "core")}`);
  const now = { ...cable, kept: true, ...fields };
  draft.put("cable", now);
  const { gauge } = cableMake(record.railway, now);
  const metres = (fact: Fact) => now.metres ?? (now.tail ? fact.metres : passingMetres(record, now, fact));
  const isOtherwise = ["gauge", "metres", "colours"].some((field) => field in fields);
  for (const fact of isOtherwise ? draft.record.wires : [])
    if (fact.cableId === id && standingOfWire(fact) !== "proposed")
      draft.put("wire", { ...fact, gauge, metres: metres(fact), colour: "colours" in fields ? null : fact.colour });
  return draft.group(thingWords(cable.label, fields));
}

/** Laid length of a core from the panel to the strip on which it ends, metres. */
function passingMetres(record: RailwayRecord, cable: Cable, { fromStripId, toStripId }: Fact): number {
  const strips = [fromStripId, toStripId].flatMap((id) => (id === null ? [] : (find(record, "strip", id) ?? [])));
  return cableMetres(record.railway, cable, Math.max(0, ...strips.map(alongOf)));
}

function thingWords(label: string, fields: object): string {
  const { kept } = fields as { kept?: boolean };
  if (Object.keys(fields).length === 1 && kept !== undefined) return `${kept ? "Kept" : "Let go"} ${label}`;
  return `Changed ${label}`;
}

/**
 * A strip more for what another one serves, at a place of its own along the trunk line, metres.
 * @param nets that are to go through it, as far as they are only proposed
 */
export function addStripAt(
  record: RailwayRecord,
  loom: Loom,
  { zoneId, ways }: Strip,
  runMetres: number,
  nets: readonly string[],
): EditGroup {
  const label = freeLabel(record.strips, "K");
  const draft = new Draft(record);
  const strip = newStrip(freshId(record, "strip", label), label, "screws", "layout", ways);
  draft.put("strip", { ...strip, zoneId, runMetres, kept: true });
  proposeNets(draft, loom, ({ net }) => nets.includes(net));
  return draft.group(`Added strip ${label}, ${runMetres} m along`);
}

/** A strip of the owner's own, kept: what is proposed may use it. @param ways as many as the railway's strips usually have */
export function addStrip(record: RailwayRecord, place: Place): EditGroup {
  const label = freeLabel(record.strips, place === "panel" ? "P" : "K");
  const draft = new Draft(record);
  const strip = newStrip(freshId(record, "strip", label), label, "screws", place, record.railway.stripWays);
  draft.put("strip", { ...strip, kept: true });
  return draft.group(`Added strip ${label}`);
}

/** A cable of the owner's own, kept: what is proposed may use it. */
export function addCable(record: RailwayRecord): EditGroup {
  const label = freeLabel(record.cables, "C");
  const draft = new Draft(record);
  const cable = newCable(freshId(record, "cable", label), label, record.railway.cableCores);
  draft.put("cable", { ...cable, kept: true });
  return draft.group(`Added cable ${label}`);
}

/** The first label of a letter and a number that no thing has, nor its identifier. */
export function freeLabel(things: readonly { label: string; id: string }[], letter: string): string {
  const taken = new Set(things.flatMap(({ label, id }) => [label.toLowerCase(), id]));
  for (let number = 1; ; number++) if (!taken.has(`${letter}${number}`.toLowerCase())) return `${letter}${number}`;
}

/** Wires that are facts and end at a strip, or are cores of a cable: what taking it away would leave loose. */
export function firmAt(record: RailwayRecord, id: string): Fact[] {
  return firmFacts(record).filter((fact) => fact.cableId === id || fact.fromStripId === id || fact.toStripId === id);
}

/** Takes a strip or cable away; facts that end at it stay, loose, and what is proposed finds another way. */
export function takeAway(record: RailwayRecord, kind: "strip" | "cable", id: string): EditGroup | null {
  const thing = find(record, kind, id);
  if (!thing) return null;
  const loose = firmAt(record, id);
  const draft = new Draft(record);
  draft.removeWhole(kind, id);
  const words = loose.length === 0 ? "" : `; ${wireNames(loose)} ${loose.length === 1 ? "is" : "are"} left`;
  return draft.group(`Took ${thing.label} away${words}`);
}

/** The name and side of a way. @throws {RecordError} when there is none */
function placed(loom: Loom, { stripId, way }: WayOf): { name: string; place: Place } {
  const strip = loom.strips.find(({ id }) => id === stripId);
  if (!strip) throw recordError("There is no such strip any more.");
  if (!(Number.isInteger(way) && way >= 1 && way <= strip.ways))
    throw recordError(`${strip.label} has ways 1 to ${strip.ways}; there is no way ${way}.`);
  return { name: screwName(strip, way), place: strip.place };
}

/** Wires of the record and what is proposed beside them, as things of the record. */
function factsOf(record: RailwayRecord, loom: Loom): Fact[] {
  const known = new Set(record.wires.map(({ id }) => id));
  const there = record.wires.filter(({ outAt }) => outAt === null);
  return [...there, ...loom.wires.filter(({ id }) => !known.has(id)).map(proposal)];
}

function factOf(record: RailwayRecord, loom: Loom, id: string): Fact | undefined {
  const wire = loom.wires.find((each) => each.id === id);
  return find(record, "wire", id) ?? (wire && proposal(wire));
}

/** Ways of a strip at which a wire ends. */
function waysAt({ fromStripId, fromWay, toStripId, toWay }: Fact, stripId: string): number[] {
  return [
    ...(fromStripId === stripId && fromWay !== null ? [fromWay] : []),
    ...(toStripId === stripId && toWay !== null ? [toWay] : []),
  ];
}

/** Puts a changed wire with the strips and the cable that it needs. */
function keep(draft: Draft, loom: Loom, fact: Fact): Fact {
  putParts(draft, loom, fact);
  const now = withFigures(
    asKept(fact),
    loom.wires.find(({ id }) => id === fact.id),
  );
  // a core that became another one has the colour of that one
  const kept = fact.cableId !== null && fact.colour === null ? { ...now, colour: null } : now;
  draft.put("wire", kept);
  return kept;
}
