import { assignmentsOfRole } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { Cable, Wire as Fact, Strip } from "../record/made.ts";
import { isJunction, newCable, newStrip, standingOfWire } from "../record/made.ts";
import type { Purpose } from "../record/purposes.ts";
import type { Place } from "../record/schemas.ts";
import type { Net } from "../schematic/nets.ts";
import type { WireColour } from "../units/wireColours.ts";
import { cableMake } from "./cables.ts";
import { colourOf, coreColour } from "./colours.ts";
import { Places, Rows } from "./filling.ts";
import type { LaidEnd } from "./lay.ts";
import { alongOf, amid, cableMetres, isInReach, runsIn } from "./places.ts";
import { factEnds, linkOf } from "./wire.ts";

/** A screw of a strip. */
export interface Screw {
  strip: Strip;
  way: number;
}

/** A core of a cable. */
export interface Core {
  cable: Cable;
  core: number;
}

/** What a net is for under the layout: turnouts of one zone, or anything. */
export interface Serves {
  zoneId: string | null;
  /** Where its turnouts are along the trunk line, metres. */
  runs: readonly number[];
}

/**
 * The strips and cables of a railway with what of them is taken, and new ones when they are full: those that are facts stay
 * whatever the railway's usual sizes, those that are only proposed are of these sizes.
 */
export class Shelf {
  private readonly strips: Record<Place, Places<Strip>[]> = { panel: [], layout: [] };
  private readonly splices: Places<Strip>[] = [];
  private readonly cables: Places<Cable>[] = [];
  /** The same strips with screws by their zones, and the cables to each zone and tails in it. */
  private readonly rows = { panel: new Rows<string | null, Strip>(), layout: new Rows<string | null, Strip>() };
  private readonly cablesTo = new Rows<string | null, Cable>();
  private readonly tailsIn = new Rows<string | null, Cable>();
  private readonly stripOf = new Map<string, Places<Strip>>();
  private readonly cableOf = new Map<string, Places<Cable>>();
  /** Labels of strips, and of cables, in small letters. */
  private readonly named = { strips: new Set<string>(), cables: new Set<string>() };
  /** The number up to which all of some names are taken, by what is numbered. */
  private readonly takenUpTo = new Map<string, number>();
  private readonly used = new Set<string>();
  private readonly motors: ReadonlySet<string>;
  /** Cores of tails that are proposed, by what they join; not taken before they are found to be wanted still. */
  private readonly held = new Map<string, Core>();
  /** The tail of a motor, and the motors of a tail. */
  private readonly tailOf = new Map<string, Places<Cable>>();
  private readonly motorsOf = new Map<string, Set<string>>();
  /** The colour of the cores that nets for a purpose go through. */
  private readonly roles = new Map<Purpose, WireColour>();
  /** What is in use as before and takes its places only when somebody asks for a free one. */
  private waiting: (() => void)[] = [];

  /** @param nets to tell how many cores a motor needs */
  constructor(
    private readonly record: RailwayRecord,
    private readonly nets: readonly Net[],
  ) {
    this.motors = new Set(assignmentsOfRole(record, "motor").map(({ deviceId }) => deviceId));
    const firm = firmThings(record.wires);
    const { stripWays, cableCores, tailCores } = record.railway;
    for (const strip of inOrder(record.strips)) {
      const isFact = strip.kept || strip.fixedAt !== null || firm.has(strip.id);
      if (isFact) this.used.add(strip.id);
      if (isFact || isJunction(strip) || strip.ways === stripWays) this.addStrip(strip);
    }
    for (const cable of inOrder(record.cables)) {
      const isFact = cable.kept || cable.laidAt !== null || firm.has(cable.id);
      if (isFact) this.used.add(cable.id);
      if (isFact || cable.cores === (cable.tail ? tailCores : cableCores)) this.addCable(cable);
    }
    for (const fact of record.wires) {
      const standing = standingOfWire(fact);
      if (standing !== "out") this.seeTail(fact, standing === "proposed");
      if (standing === "proposed" || standing === "out") continue;
      for (const [stripId, way] of screwsOf(fact)) this.stripOf.get(stripId)?.take(way);
      if (fact.cableId !== null) this.cableOf.get(fact.cableId)?.take(fact.core ?? 0);
    }
  }

  /** Whether there is a screw of a name in the circuit. */
  has(screw: string): boolean {
    const [id = "", way = ""] = screw.split("/");
    return Number(way) <= (this.stripOf.get(id)?.count ?? 0);
  }

  strip(id: string): Strip | undefined {
    return this.stripOf.get(id)?.thing;
  }

  cable(id: string): Cable | undefined {
    return this.cableOf.get(id)?.thing;
  }

  /** Takes places, in the order of these calls, once it is asked what is free or in use: most edits ask for neither. */
  takeLater(take: () => void): void {
    this.waiting.push(take);
  }

  private takeAll(): void {
    const { waiting } = this;
    this.waiting = [];
    for (const take of waiting) take();
  }

  takeScrew(stripId: string, way: number): void {
    this.used.add(stripId);
    this.stripOf.get(stripId)?.take(way);
  }

  /** @param purpose of the net that goes through it, so that others of that purpose may get its colour */
  takeCore(cableId: string, core: number, purpose?: Purpose): void {
    this.used.add(cableId);
    const cable = this.cableOf.get(cableId);
    cable?.take(core);
    if (cable && purpose && !this.roles.has(purpose)) this.roles.set(purpose, this.colourOf(cable.thing, core));
  }

  private colourOf(cable: Cable, core: number): WireColour {
    return coreColour(cableMake(this.record.railway, cable).colours, core);
  }

  /** Laid length of a cable to a place along the trunk line, metres. */
  metresOf(cable: Cable, along: number): number {
    return cableMetres(this.record.railway, cable, along);
  }

  /** What a net serves under the layout: a zone, when all its terminals there are at turnouts of it and strips are put so. */
  servedBy(ends: readonly LaidEnd[]): Serves {
    const layout = ends.filter(({ device }) => device.place === "layout");
    const zones = new Set(layout.map(({ zoneId }) => zoneId));
    const [zoneId = null] = zones.size === 1 ? zones : [];
    const isOwn = this.record.railway.stripsAt === "zones" || this.rows.layout.of(zoneId).all.length > 0;
    return { zoneId: isOwn ? zoneId : null, runs: [...new Set(layout.map(({ metres }) => metres))] };
  }

  /**
   * A screw at the panel and its like under the layout, both free: the first there are for what the net serves and within
   * reach of it, of new strips when all are full.
   */
  freePair(serves: Serves): { panel: Screw; layout: Screw } {
    this.takeAll();
    for (const zoneId of this.groupsFor(serves.zoneId)) {
      const [panels, { all: layouts }] = [this.rows.panel.of(zoneId), this.rows.layout.of(zoneId)];
      for (const { places: panel, spot } of panels.notFull) {
        const layout = layouts[spot];
        const way = layout && this.reaches(layout, serves) && panel.free((number) => layout.isFree(number));
        if (layout && way) return this.takePair(panel, layout, way);
      }
      // a strip that somebody has put at one side only gets its like at the other
      const single = [...panels.all.slice(layouts.length), ...layouts.slice(panels.all.length)];
      const alone = single.find((each) => this.reaches(each, serves) && each.free() !== null);
      const way = alone?.free();
      if (alone && way) {
        const one = this.taken(alone, way);
        const other = this.opposite(one, serves);
        return alone.thing.place === "panel" ? { panel: one, layout: other } : { panel: other, layout: one };
      }
    }
    const number = this.freshNumber("strips", "P", "K");
    return this.takePair(
      this.newStrip("panel", `P${number}`, serves),
      this.newStrip("layout", `K${number}`, serves),
      1,
    );
  }

  /** A free screw opposite another: with its number on the strip that stands at the same place in the row, else the first. */
  opposite({ strip, way }: Screw, serves: Serves): Screw {
    this.takeAll();
    const place: Place = strip.place === "panel" ? "layout" : "panel";
    const wanted = { zoneId: strip.zoneId ?? serves.zoneId, runs: serves.runs };
    // on the panel, where all is together, any strip will do
    const groups = place === "panel" ? [...new Set([wanted.zoneId, null])] : this.groupsFor(wanted.zoneId);
    const spot = this.rows[strip.place].of(strip.zoneId).spotOf(strip);
    const like = groups.includes(strip.zoneId) ? this.rows[place].of(strip.zoneId).all[spot] : undefined;
    if (like?.isFree(way) && this.reaches(like, wanted)) return this.taken(like, way);
    for (const { places } of groups.flatMap((zoneId) => this.rows[place].of(zoneId).notFull)) {
      const free = this.reaches(places, wanted) ? places.free() : null;
      if (free !== null) return this.taken(places, free);
    }
    const letter = place === "panel" ? "P" : "K";
    const number = this.freshNumber("strips", letter);
    return this.taken(this.newStrip(place, `${letter}${number}`, wanted), 1);
  }

  /** Zones among whose strips one is looked for, in this order; null for those that are for anything. */
  private groupsFor(zoneId: string | null): (string | null)[] {
    if (zoneId === null) return [null];
    return this.record.railway.stripsAt === "zones" ? [zoneId] : [zoneId, null];
  }

  /** Whether the turnout of a net is within reach of a strip; what goes past several turnouts begins at any. */
  private reaches({ thing }: Places<Strip>, { runs: [run, ...more] }: Serves): boolean {
    if (thing.place === "panel" || run === undefined || more.length > 0) return true;
    return isInReach(this.record.railway, alongOf(thing), run);
  }

  /**
   * The first free core of a cable to a zone's strips, of a new cable when all are full. Where cores go by role, one of the
   * colour that its purpose has, else one whose colour means nothing yet.
   */
  freeCore(zoneId: string | null, purpose: Purpose): Core {
    this.takeAll();
    const { cableCores, coresBy } = this.record.railway;
    const role = this.roles.get(purpose) ?? colourOf(this.record, purpose);
    const taken = new Set(this.roles.values());
    const ranked = (cable: Cable): ((core: number) => boolean)[] =>
      coresBy === "number"
        ? [() => true]
        : [(core) => this.colourOf(cable, core) === role, (core) => !taken.has(this.colourOf(cable, core)), () => true];
    for (const { places: cable } of this.cablesTo.of(zoneId).notFull) {
      for (const suits of ranked(cable.thing)) {
        const core = cable.free(suits);
        if (core !== null) return this.takenCore(cable, core, purpose);
      }
    }
    const number = this.freshNumber("cables", "C");
    const cable = this.addCable({ ...newCable(`c${number}`, `C${number}`, cableCores), zoneId });
    const core = ranked(cable.thing).flatMap((suits) => cable.free(suits) ?? [])[0] ?? 1;
    return this.takenCore(cable, core, purpose);
  }

  /** Whether motors have tails, or are to get some. */
  get hasTails(): boolean {
    return this.record.railway.motorTails !== "wires" || this.cables.some(({ thing }) => thing.tail);
  }

  isMotor(deviceId: string): boolean {
    return this.motors.has(deviceId);
  }

  /** The core of a tail that is proposed for a wire already; null when none is. */
  heldCore(from: string, to: string): Core | null {
    const held = this.held.get(linkOf(from, to, null));
    if (!held) return null;
    this.takeCore(held.cable.id, held.core);
    return held;
  }

  /**
   * A free core of the tail of a motor; of a new tail, or of the tail of another motor of its zone, as the railway has it.
   * @returns null when the wire is to be a single one
   */
  tailCore(motorId: string, zoneId: string | null): Core | null {
    this.takeAll();
    const { motorTails, tailCores } = this.record.railway;
    let tail = this.tailOf.get(motorId);
    if (!tail && motorTails === "wires") return null;
    if (!tail && motorTails === "two") tail = this.tailToShare(motorId, zoneId);
    if (!tail) {
      const number = this.freshNumber("cables", "TL");
      tail = this.addCable({ ...newCable(`tl${number}`, `TL${number}`, tailCores), tail: true, zoneId });
    }
    this.joinTail(motorId, tail);
    const core = tail.free();
    return core === null ? null : this.takenCore(tail, core);
  }

  /** The tail of one other motor of a zone that has cores enough for both. */
  private tailToShare(motorId: string, zoneId: string | null): Places<Cable> | undefined {
    return this.tailsIn.of(zoneId).all.find(({ thing, count }) => {
      const [other, ...more] = this.motorsOf.get(thing.id) ?? [];
      if (other === undefined || more.length > 0) return false;
      return this.coresFor(motorId) + this.coresFor(other) <= count;
    });
  }

  /** How many cores a motor needs at most: one for each terminal that is joined to what is elsewhere. */
  private coresFor(motorId: string): number {
    this.needs ??= needsOf(this.nets, this.motors);
    return this.needs.get(motorId) ?? 0;
  }
  private needs: Map<string, number> | undefined;

  private joinTail(motorId: string, tail: Places<Cable>): void {
    this.tailOf.set(motorId, tail);
    const motors = this.motorsOf.get(tail.thing.id) ?? new Set();
    this.motorsOf.set(tail.thing.id, motors.add(motorId));
  }

  /** Notes a wire of the record that is a core of a tail. */
  private seeTail(fact: Fact, isProposed: boolean): void {
    const tail = fact.cableId === null ? undefined : this.cableOf.get(fact.cableId);
    if (!tail?.thing.tail || fact.core === null) return;
    for (const id of [fact.fromDeviceId, fact.toDeviceId])
      if (id !== null && this.motors.has(id)) this.joinTail(id, tail);
    const { from, to } = factEnds(fact);
    if (!isProposed || from === null || to === null) return;
    this.held.set(linkOf(from, to, null), { cable: tail.thing, core: fact.core });
  }

  /** Strips and cables that are facts or have something on them, those of the panel first. */
  get inUse(): { strips: Strip[]; cables: Cable[] } {
    this.takeAll();
    const used = <T extends { id: string }>(places: readonly Places<T>[]) =>
      places.flatMap(({ thing }) => (this.used.has(thing.id) ? [thing] : []));
    return {
      strips: [...used(this.strips.panel), ...used(this.strips.layout), ...used(this.splices)],
      cables: used(this.cables),
    };
  }

  private takePair(panel: Places<Strip>, layout: Places<Strip>, way: number) {
    return { panel: this.taken(panel, way), layout: this.taken(layout, way) };
  }

  private taken(places: Places<Strip>, way: number): Screw {
    this.takeScrew(places.thing.id, way);
    return { strip: places.thing, way };
  }

  private takenCore(places: Places<Cable>, core: number, purpose?: Purpose): Core {
    this.takeCore(places.thing.id, core, purpose);
    return { cable: places.thing, core };
  }

  private addStrip(strip: Strip): Places<Strip> {
    const places = new Places(strip, strip.ways, this.usableOf(strip.ways));
    if (strip.kind === "screws") {
      this.strips[strip.place].push(places);
      this.rows[strip.place].of(strip.zoneId).add(places);
    } else this.splices.push(places);
    this.stripOf.set(strip.id, places);
    this.named.strips.add(strip.label.toLowerCase());
    return places;
  }

  private usableOf(count: number): number {
    return count - spareOf(this.record.railway.spareShare, count);
  }

  private addCable(cable: Cable): Places<Cable> {
    // a tail is as long as one motor needs it, so that nothing of it is kept for others
    const places = new Places(cable, cable.cores, cable.tail ? cable.cores : this.usableOf(cable.cores));
    this.cables.push(places);
    (cable.tail ? this.tailsIn : this.cablesTo).of(cable.zoneId).add(places);
    this.cableOf.set(cable.id, places);
    this.named.cables.add(cable.label.toLowerCase());
    return places;
  }

  /** A strip of the usual size; one among turnouts is amid those of its zone, or beside the one that is beyond its reach. */
  private newStrip(place: Place, label: string, { zoneId, runs }: Serves): Places<Strip> {
    const { railway } = this.record;
    const strip = newStrip(label.toLowerCase(), label, "screws", place, railway.stripWays);
    if (zoneId === null || railway.stripsAt !== "zones") return this.addStrip(strip);
    if (place === "panel") return this.addStrip({ ...strip, zoneId });
    const middle = amid(runsIn(this.record, zoneId));
    const [run, ...more] = runs;
    const isFar = run !== undefined && more.length === 0 && middle !== null && !isInReach(railway, middle, run);
    return this.addStrip({ ...strip, zoneId, runMetres: isFar ? run : middle });
  }

  /** A new splice or block under the layout. */
  newJunction(kind: "splice" | "block"): Strip {
    const stem = kind === "splice" ? "J" : "JB";
    const number = this.freshNumber("strips", stem);
    const label = `${stem}${number}`;
    return this.addStrip(newStrip(label.toLowerCase(), label, kind, "layout", 1)).thing;
  }

  /** Says that something is at a strip. */
  use(stripId: string): void {
    this.used.add(stripId);
  }

  /** The first number that no strip or cable has behind any of some letters; a name that was taken stays so. */
  private freshNumber(of: "strips" | "cables", ...stems: string[]): number {
    const isTaken = (name: string) => this.stripOf.has(name) || this.cableOf.has(name) || this.named[of].has(name);
    const key = stems.join();
    let number = (this.takenUpTo.get(key) ?? 0) + 1;
    while (stems.some((stem) => isTaken(`${stem}${number}`.toLowerCase()))) number++;
    this.takenUpTo.set(key, number - 1);
    return number;
  }
}

/**
 * Ways or cores that are left free for later.
 * @example spareOf(0.1, 12) // 1
 */
export function spareOf(share: number, count: number): number {
  return Math.round(share * count);
}

/** Terminals of motors that are joined to what is not a motor, by motor. */
function needsOf(nets: readonly Net[], motors: ReadonlySet<string>): Map<string, number> {
  const needs = new Map<string, number>();
  for (const { ends } of nets) {
    if (ends.every(({ deviceId }) => motors.has(deviceId))) continue;
    for (const { deviceId } of ends) if (motors.has(deviceId)) needs.set(deviceId, (needs.get(deviceId) ?? 0) + 1);
  }
  return needs;
}

/** Strips and cables at which made or kept wires are. */
function firmThings(wires: readonly Fact[]): Set<string> {
  const firm = new Set<string>();
  for (const wire of wires) {
    const standing = standingOfWire(wire);
    if (standing === "proposed" || standing === "out") continue;
    for (const id of [wire.fromStripId, wire.toStripId, wire.cableId]) if (id !== null) firm.add(id);
  }
  return firm;
}

function screwsOf({ fromStripId, fromWay, toStripId, toWay }: Fact): [string, number][] {
  const screws: [string, number][] = [];
  if (fromStripId !== null && fromWay !== null) screws.push([fromStripId, fromWay]);
  if (toStripId !== null && toWay !== null) screws.push([toStripId, toWay]);
  return screws;
}

const ordered = new WeakMap<readonly unknown[], readonly unknown[]>();

/** Things in the order of their labels, those with numbers by these; worked out once for a list. */
function inOrder<T extends { label: string; id: string }>(things: readonly T[]): readonly T[] {
  const known = ordered.get(things) as readonly T[] | undefined;
  if (known) return known;
  const named = things.map((thing) => {
    const [, stem = "", number = ""] = /^(.*?)(\d*)$/.exec(thing.label.toLowerCase()) ?? [];
    return { thing, stem, number: Number(number) };
  });
  named.sort((a, b) => {
    if (a.stem !== b.stem) return a.stem < b.stem ? -1 : 1;
    return a.number - b.number || (a.thing.id < b.thing.id ? -1 : 1);
  });
  const all = named.map(({ thing }) => thing);
  ordered.set(things, all);
  return all;
}
