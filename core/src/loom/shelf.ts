import type { RailwayRecord } from "../record/kinds.ts";
import type { Cable, Wire as Fact, Strip } from "../record/made.ts";
import { newCable, newStrip, standingOfWire } from "../record/made.ts";
import type { Place } from "../record/schemas.ts";

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

/** Something with numbered places of which some are taken. */
class Places<T extends { id: string }> {
  private readonly taken: boolean[] = [];
  private first = 1;
  private used = 0;

  /** @param usable places that may be taken for what is proposed; the others are spare */
  constructor(
    readonly thing: T,
    readonly count: number,
    private readonly usable: number,
  ) {}

  take(number: number): void {
    if (!this.taken[number]) this.used++;
    this.taken[number] = true;
  }

  isFree(number: number): boolean {
    return number <= this.count && !this.taken[number];
  }

  /** The first free place at which a condition holds, as long as enough are left spare; null when there is none. */
  free(holds: (number: number) => boolean = () => true): number | null {
    while (this.first <= this.count && this.taken[this.first]) this.first++;
    if (this.used >= this.usable) return null;
    for (let number = this.first; number <= this.count; number++)
      if (!this.taken[number] && holds(number)) return number;
    return null;
  }
}

/**
 * The strips and cables of a railway with what of them is taken, and new ones when they are full: those that are facts stay
 * whatever the railway's usual sizes, those that are only proposed are of these sizes.
 */
export class Shelf {
  private readonly strips: Record<Place, Places<Strip>[]> = { panel: [], layout: [] };
  private readonly splices: Places<Strip>[] = [];
  private readonly cables: Places<Cable>[] = [];
  private readonly stripOf = new Map<string, Places<Strip>>();
  private readonly cableOf = new Map<string, Places<Cable>>();
  private readonly used = new Set<string>();

  constructor(private readonly record: RailwayRecord) {
    const firm = firmThings(record.wires);
    const { stripWays, cableCores } = record.railway;
    for (const strip of inOrder(record.strips)) {
      const isFact = strip.kept || strip.fixedAt !== null || firm.has(strip.id);
      if (isFact) this.used.add(strip.id);
      if (isFact || strip.kind === "splice" || strip.ways === stripWays) this.addStrip(strip);
    }
    for (const cable of inOrder(record.cables)) {
      const isFact = cable.kept || cable.laidAt !== null || firm.has(cable.id);
      if (isFact) this.used.add(cable.id);
      if (isFact || cable.cores === cableCores) this.addCable(cable);
    }
    for (const fact of record.wires) {
      if (standingOfWire(fact) === "proposed" || standingOfWire(fact) === "out") continue;
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

  takeScrew(stripId: string, way: number): void {
    this.used.add(stripId);
    this.stripOf.get(stripId)?.take(way);
  }

  takeCore(cableId: string, core: number): void {
    this.used.add(cableId);
    this.cableOf.get(cableId)?.take(core);
  }

  /** A screw at the panel and its like under the layout, both free: the first there are, of new strips when all are full. */
  freePair(): { panel: Screw; layout: Screw } {
    for (const [index, panel] of this.strips.panel.entries()) {
      const layout = this.strips.layout[index];
      const way = layout && panel.free((number) => layout.isFree(number));
      if (layout && way) return this.takePair(panel, layout, way);
    }
    // a strip that somebody has put at one side only gets its like at the other
    const { panel, layout } = this.strips;
    const alone = [...panel.slice(layout.length), ...layout.slice(panel.length)].find((each) => each.free() !== null);
    const way = alone?.free();
    if (alone && way) {
      const one = this.taken(alone, way);
      const other = this.opposite(one);
      return alone.thing.place === "panel" ? { panel: one, layout: other } : { panel: other, layout: one };
    }
    const number = this.freshNumber((n) => [`P${n}`, `K${n}`], this.record.strips);
    return this.takePair(this.newStrip("panel", `P${number}`), this.newStrip("layout", `K${number}`), 1);
  }

  /** A free screw opposite another: with its number on the strip that stands at the same place in the row, else the first. */
  opposite({ strip, way }: Screw): Screw {
    const place: Place = strip.place === "panel" ? "layout" : "panel";
    const row = this.strips[strip.place].findIndex(({ thing }) => thing === strip);
    const like = this.strips[place][row];
    if (like?.isFree(way)) return this.taken(like, way);
    for (const each of this.strips[place]) {
      const free = each.free();
      if (free !== null) return this.taken(each, free);
    }
    const letter = place === "panel" ? "P" : "K";
    const number = this.freshNumber((n) => [`${letter}${n}`], this.record.strips);
    return this.taken(this.newStrip(place, `${letter}${number}`), 1);
  }

  /** The first free core, of a new cable when all are full. */
  freeCore(): Core {
    for (const cable of this.cables) {
      const core = cable.free();
      if (core !== null) return this.takenCore(cable, core);
    }
    const number = this.freshNumber((n) => [`C${n}`], this.record.cables);
    const cable = newCable(`c${number}`, `C${number}`, this.record.railway.cableCores);
    return this.takenCore(this.addCable(cable), 1);
  }

  /** Strips and cables that are facts or have something on them, those of the panel first. */
  get inUse(): { strips: Strip[]; cables: Cable[] } {
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

  private takenCore(places: Places<Cable>, core: number): Core {
    this.takeCore(places.thing.id, core);
    return { cable: places.thing, core };
  }

  private addStrip(strip: Strip): Places<Strip> {
    const places = new Places(strip, strip.ways, this.usableOf(strip.ways));
    if (strip.kind === "screws") this.strips[strip.place].push(places);
    else this.splices.push(places);
    this.stripOf.set(strip.id, places);
    return places;
  }

  private usableOf(count: number): number {
    return count - spareOf(this.record.railway.spareShare, count);
  }

  private addCable(cable: Cable): Places<Cable> {
    const places = new Places(cable, cable.cores, this.usableOf(cable.cores));
    this.cables.push(places);
    this.cableOf.set(cable.id, places);
    return places;
  }

  private newStrip(place: Place, label: string): Places<Strip> {
    const ways = this.record.railway.stripWays;
    return this.addStrip(newStrip(label.toLowerCase(), label, "screws", place, ways));
  }

  /** A new splice under the layout. */
  newSplice(): Strip {
    const number = this.freshNumber((n) => [`J${n}`], this.record.strips);
    return this.addStrip(newStrip(`j${number}`, `J${number}`, "splice", "layout", 1)).thing;
  }

  /** Says that something is at a strip. */
  use(stripId: string): void {
    this.used.add(stripId);
  }

  /** The first number whose names no thing of the loom or of the record has. */
  private freshNumber(names: (number: number) => string[], known: readonly { id: string; label: string }[]): number {
    // one that is only proposed, and not part of the loom, goes: its name is free
    const isTaken = (name: string) =>
      this.stripOf.has(name.toLowerCase()) ||
      this.cableOf.has(name.toLowerCase()) ||
      known.some(({ id, label }) => this.isKnown(id) && label.toLowerCase() === name.toLowerCase());
    for (let number = 1; ; number++) if (!names(number).some(isTaken)) return number;
  }

  private isKnown(id: string): boolean {
    return this.stripOf.has(id) || this.cableOf.has(id);
  }
}

/**
 * Ways or cores that are left free for later.
 * @example spareOf(0.1, 12) // 1
 */
export function spareOf(share: number, count: number): number {
  return Math.round(share * count);
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

/** By what they are called, as people read numbers: P2 before P10. */
function inOrder<T extends { label: string; id: string }>(things: readonly T[]): T[] {
  const parts = ({ label }: T) => /^(.*?)(\d*)$/.exec(label.toLowerCase()) ?? [];
  return [...things].sort((a, b) => {
    const [, stem = "", number = ""] = parts(a);
    const [, otherStem = "", otherNumber = ""] = parts(b);
    if (stem !== otherStem) return stem < otherStem ? -1 : 1;
    return Number(number) - Number(otherNumber) || (a.id < b.id ? -1 : 1);
  });
}
