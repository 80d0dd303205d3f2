import { findType } from "../catalogue/catalogue.ts";
import { cableMake, laidCable } from "../loom/cables.ts";
import { CABLE_COLOUR_WORDS } from "../loom/colours.ts";
import { jointAt } from "../loom/joints.ts";
import { type Loom, screwIdOf, type Wire, type WireEnd } from "../loom/wire.ts";
import { find } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { Cable, Strip } from "../record/made.ts";
import type { Device } from "../record/schemas.ts";
import { matricesOf } from "../routes/boards.ts";
import type { Schematic } from "../schematic/schematic.ts";
import { devicesOfThread } from "../schematic/thread.ts";
import { WIRE_COLOURS } from "../units/wireColours.ts";
import {
  cablePrice,
  FERRULE_PRICE,
  LABEL_PRICE,
  PLASTIC_PRICE,
  SLEEVE_PRICE,
  SPLICE_PRICE,
  stripPrice,
  wirePrice,
} from "./roughPrices.ts";

/** What of a derivation needs follow from. */
export interface Plan {
  record: RailwayRecord;
  loom: Loom;
  schematic: Pick<Schematic, "threads">;
}

/** What something is called, counted in, and roughly costs. */
interface Thing {
  /** How the stock calls it: "type:stall-motor", "wire:RD:0.5 mm2". */
  thing: string;
  name: string;
  unit: "pieces" | "m";
  /** What comes with it in its box, in the owner's words. */
  box: string;
  /** Rough price of a piece or a metre. */
  price: number;
}

/** Something that the plan takes. */
export interface Need extends Thing {
  /** How much of it is not built in yet. */
  needed: number;
  /** How much of that each turnout takes, by leader; "" for what belongs to none. */
  byTurnout: Map<string, number>;
  /** How much of it was built in when (ISO 8601). */
  used: { at: string; count: number }[];
}

/**
 * What the plan takes, and when how much of it was built in: devices and strips with the first joint at them, wire when it is
 * cut, a cable when it is laid or a core of it cut, and what every joint and flag takes. In the order of the catalogue,
 * then strips, cables, wire and small parts.
 */
export function needsOf(plan: Plan): Need[] {
  const { record, loom } = plan;
  const needs = new Map<string, Need>();
  const add = (what: Thing, count: number, turnoutId: string | null | undefined, at: string | null | undefined) => {
    const need: Need = needs.get(what.thing) ?? { ...what, needed: 0, byTurnout: new Map(), used: [] };
    needs.set(what.thing, need);
    if (at) {
      need.used.push({ at, count });
      return;
    }
    need.needed += count;
    need.byTurnout.set(turnoutId ?? "", (need.byTurnout.get(turnoutId ?? "") ?? 0) + count);
  };
  const owner = ownersOf(plan);
  const joined = firstJoints(loom.wires);
  for (const device of record.devices) {
    const thing = deviceThing(record, device);
    if (thing) add(thing, 1, owner.get(device.id), joined.get(device.id));
  }
  const leaderOf = new Map(record.turnouts.map(({ id, movesWith }) => [id, movesWith ?? id]));
  const endsAt = new Map<string, number>();
  const firstFor = new Map<string, string | null>();
  const firstCut = new Map<string, string>();
  for (const wire of loom.wires) {
    const { core, fact, from, to } = wire;
    const turnout = wire.turnoutId === null ? null : (leaderOf.get(wire.turnoutId) ?? null);
    for (const id of [placeOf(from), placeOf(to), ...(core ? [core.cableId] : [])])
      if (!firstFor.has(id)) firstFor.set(id, turnout);
    for (const id of [placeOf(from), placeOf(to)]) endsAt.set(id, (endsAt.get(id) ?? 0) + 1);
    if (!core) add(wireThing(wire), wire.cutMetres, turnout, fact?.cutAt);
    else if (fact?.cutAt) firstCut.set(core.cableId, earlier(firstCut.get(core.cableId), fact.cutAt));
    add(LABELS, 2, turnout, fact?.labelledAt);
    for (const [end, at] of [
      [from, fact?.fromJoinedAt],
      [to, fact?.toJoinedAt],
    ] as const) {
      const thing = jointThing(record, wire, end);
      if (thing) add(thing, 1, turnout, at);
    }
  }
  for (const cable of loom.cables) {
    const { cutMetres } = laidCable(record.railway, loom, cable);
    add(cableThing(record, cable), cutMetres, firstFor.get(cable.id), cable.laidAt ?? firstCut.get(cable.id));
  }
  for (const strip of loom.strips) {
    if (strip.kind === "splice") continue;
    add(stripThing(strip, endsAt.get(strip.id) ?? 1), 1, firstFor.get(strip.id), strip.fixedAt ?? joined.get(strip.id));
  }
  const plastic = record.zones.reduce((sum, { plasticJoints }) => sum + plasticJoints, 0);
  if (plastic > 0) add(PLASTIC, plastic, null, null);
  for (const { boards, joins } of matricesOf(record)) {
    const dates = new Map(record.boardParts.map(({ id, madeAt }) => [id, madeAt]));
    for (const board of boards) {
      const type = findType(record, board.typeId);
      for (const join of joins)
        if (join.boardId === board.id && join.with === "diode")
          add(diodeThing(type?.figures.diodePrice?.value ?? 0), 1, null, join.partId && dates.get(join.partId));
    }
  }
  for (const need of needs.values()) need.needed = round(need.needed);
  return [...needs.values()].sort((a, b) => rankOf(a) - rankOf(b));
}

/** Sums of lengths, to the centimetre. */
function round(value: number): number {
  return Math.round(value * 100) / 100;
}

/** Devices first, as the catalogue has them, then strips, cables, wire, and what joints take. */
function rankOf({ thing }: Need): number {
  const order = ["type", "strip", "plug", "cable", "wire", "ferrule", "splice", "sleeve", "label", "joint", "diode"];
  return order.indexOf(thing.slice(0, `${thing}:`.indexOf(":")));
}

const LABELS: Thing = {
  ...{ thing: "label", name: "Labels for wires", unit: "pieces", box: "", price: LABEL_PRICE },
};

function diodeThing(price: number): Thing {
  return { thing: "diode", name: "Rectifier diodes for diode boards", unit: "pieces", box: "", price };
}

const PLASTIC: Thing = {
  ...{ thing: "joint", name: "Plastic rail joints", unit: "pieces", box: "", price: PLASTIC_PRICE },
};

function deviceThing(record: RailwayRecord, { typeId }: Device): Thing | null {
  const type = findType(record, typeId);
  // what is part of the track, or comes with the command station, is not bought
  if (!type?.figures.price) return null;
  const box = find(record, "type", typeId)?.box ?? "";
  return { thing: `type:${typeId}`, name: type.name, unit: "pieces", box, price: type.figures.price.value };
}

/** How the stock calls a single wire. */
export function wireThing({ colour, gauge }: Wire): Thing {
  const name = `Wire, ${WIRE_COLOURS[colour]}, ${gauge}`;
  return { thing: `wire:${colour}:${gauge}`, name, unit: "m", box: "", price: wirePrice(gauge) };
}

function jointThing(record: RailwayRecord, { gauge }: Wire, end: WireEnd): Thing | null {
  const plain = { unit: "pieces", box: "" } as const;
  switch (jointAt(record, end)) {
    case "screw":
      return { ...plain, thing: `ferrule:${gauge}`, name: `Ferrules for ${gauge}`, price: FERRULE_PRICE };
    case "tag":
      return { ...plain, thing: "sleeve", name: "Sleeves, heat-shrink", price: SLEEVE_PRICE };
    case "splice":
      return { ...plain, thing: "splice", name: "Sleeves or crimps for splices", price: SPLICE_PRICE };
    default:
      return null;
  }
}

function cableThing({ railway }: RailwayRecord, cable: Cable): Thing {
  const { gauge, colours } = cableMake(railway, cable);
  const name = `Cable, ${cable.cores} cores ${gauge}, ${CABLE_COLOUR_WORDS[colours]}`;
  const price = cablePrice(cable.cores, gauge);
  return { thing: `cable:${cable.cores}:${gauge}:${colours}`, name, unit: "m", box: "", price };
}

/** @param ends of wires at it: a block has a way for each */
function stripThing({ kind, ways, pinAmps }: Strip, ends: number): Thing {
  if (kind === "block") {
    const price = stripPrice(ends, false);
    return { thing: `block:${ends}`, name: `Terminal block, ${ends} ways linked`, unit: "pieces", box: "", price };
  }
  const isPlug = pinAmps !== null;
  return {
    thing: `${isPlug ? "plug" : "strip"}:${ways}`,
    name: isPlug ? `Plug and socket, ${ways} pins` : `Terminal strip, ${ways} ways`,
    ...{ unit: "pieces", box: "", price: stripPrice(ways, isPlug) },
  };
}

/** Devices and strips at which something is joined, with when the first joint was made: they are there. */
function firstJoints(wires: readonly Wire[]): Map<string, string> {
  const joints = new Map<string, string>();
  const see = (end: WireEnd, at: string | null | undefined) => {
    if (at) joints.set(placeOf(end), earlier(joints.get(placeOf(end)), at));
  };
  for (const { from, to, fact } of wires) {
    see(from, fact?.fromJoinedAt);
    see(to, fact?.toJoinedAt);
  }
  return joints;
}

function earlier(a: string | undefined, b: string): string {
  return a !== undefined && a < b ? a : b;
}

/** The device or strip of an end. */
function placeOf({ key, of }: WireEnd): string {
  return of?.deviceId ?? screwIdOf(key);
}

/** The first turnout, in the owner's order, for which a device is wanted. */
function ownersOf({ schematic }: Plan): Map<string, string> {
  const owners = new Map<string, string>();
  for (const thread of schematic.threads)
    for (const id of devicesOfThread(thread)) if (!owners.has(id)) owners.set(id, thread.turnout.id);
  return owners;
}
