import type { Cable, Wire as Fact, Standing, Strip } from "../record/made.ts";
import type { Purpose } from "../record/purposes.ts";
import type { Place } from "../record/schemas.ts";
import type { End } from "../schematic/nets.ts";
import type { Gauge } from "../units/gauge.ts";
import type { WireColour } from "../units/wireColours.ts";
import type { WorkPlace } from "./places.ts";

/** Where a wire is laid: on the panel at the bench, in a cable between, or under the layout, where it may be a core of a tail. */
export type Run = "panel" | "cable" | "layout";

export interface WireEnd {
  /** Where a probe is put, and its name in the circuit: a terminal as `device:terminal`, a screw as `strip/way`. */
  key: string;
  /** What is written beside the terminal, as "T1-N" or "K1-3". */
  name: string;
  /** The device's terminal that it is; null for a screw. */
  of: End | null;
  /** On which side of the layout it is. */
  place: Place;
  /** Where it is joined. */
  work: WorkPlace;
}

/** An end at a screw of a strip. */
export interface ScrewEnd extends WireEnd {
  stripId: string;
  /** Label of the strip. */
  strip: string;
  way: number;
  /** Where the strip is along the trunk line, metres from the boards. */
  along: number;
}

/** A wire of the plan; with its number, and with what was done of it. */
export interface Wire {
  /** Its identifier in the record, which it keeps whatever comes and goes around it. */
  id: string;
  /** Name in the circuit, by its ends. */
  element: string;
  number: number;
  /** What its flags say, as "W17". */
  label: string;
  /** The net it makes, by its identifier. */
  net: string;
  from: WireEnd;
  to: WireEnd;
  run: Run;
  purpose: Purpose;
  colour: WireColour;
  gauge: Gauge;
  /** Laid length, metres. */
  metres: number;
  /** Length to cut, metres. */
  cutMetres: number;
  /** Resistance of the laid length, ohms. */
  ohms: number;
  /** Turnout for whose sake it is laid; null for wires between boards and supplies. */
  turnoutId: string | null;
  core: { cableId: string; cable: string; number: number } | null;
  /** Text of the flags at its two ends: each names the far end. */
  flags: [string, string];
  standing: Exclude<Standing, "out">;
  /** What was done of it and when; null for a wire of which nothing is a fact. */
  fact: Fact | null;
}

/** Where a net passes from the panel to the layout: a screw, a core, a screw. */
export interface Passage {
  /** The net that passes through, by its identifier. */
  net: string;
  panel: ScrewEnd;
  layout: ScrewEnd;
  cableId: string;
  /** Label of the cable. */
  cable: string;
  /** Laid length from strip to strip. */
  metres: number;
  core: number;
  purpose: Purpose;
}

/**
 * Why a wire that was made or kept serves nothing: an end is loose; it is at nothing yet (spare), at a terminal that the plan
 * joins to nothing (dead), at a screw where nothing goes on (stub); or it would make one of two nets (apart).
 */
export type IdleWhy = "loose" | "spare" | "dead" | "stub" | "apart";

/** A wire that is a fact and that the plan has no use for as it is. */
export interface IdleWire {
  fact: Fact;
  /** What is written at its ends; what was written there for a loose one. */
  from: string;
  to: string;
  why: IdleWhy;
}

/** The wires that make the nets, with the strips and cables that they go through. */
export interface Loom {
  wires: Wire[];
  passages: Passage[];
  strips: Strip[];
  cables: Cable[];
  /** Facts that serve nothing. */
  idle: IdleWire[];
}

/** A screw's name in the circuit. */
export function screwKey(stripId: string, way: number): string {
  return `${stripId}/${way}`;
}

/** The strip to which a screw belongs, by its name in the circuit. */
export function screwIdOf(screw: string): string {
  return screw.slice(0, screw.indexOf("/"));
}

/** The end of a wire that is not the named one. */
export function farEnd<W extends { from: { key: string }; to: { key: string } }>(
  { from, to }: W,
  key: string,
): W["from"] {
  return from.key === key ? to : from;
}

/** When a wire was joined at the named one of its ends; null until it was. */
export function joinedAt({ from, fact }: Pick<Wire, "from" | "fact">, key: string): string | null {
  return (from.key === key ? fact?.fromJoinedAt : fact?.toJoinedAt) ?? null;
}

/** Whether a name in the circuit is a screw's: a terminal's has a colon. */
export function isScrew(name: string): boolean {
  return name.includes("/");
}

/** What is written beside a way of a strip, as "K1-3"; a splice and a block have one only. */
export function screwName({ label, kind }: Pick<Strip, "label" | "kind">, way: number): string {
  return kind !== "screws" ? label : `${label}-${way}`;
}

/** What a wire of the record joins, by names in the circuit; null for a loose end. */
export interface FactEnds {
  from: string | null;
  to: string | null;
  /** The same whichever way round, with the core that it is; null when an end is loose. */
  link: string | null;
}

const endsOf = new WeakMap<Fact, FactEnds>();

/** What a wire of the record joins; worked out once for each. */
export function factEnds(fact: Fact): FactEnds {
  const known = endsOf.get(fact);
  if (known) return known;
  const { fromDeviceId, fromTerminal, fromStripId, fromWay, toDeviceId, toTerminal, toStripId, toWay } = fact;
  const at = (deviceId: string | null, terminal: string | null, stripId: string | null, way: number | null) =>
    deviceId !== null ? `${deviceId}:${terminal}` : stripId !== null && way !== null ? screwKey(stripId, way) : null;
  const from = at(fromDeviceId, fromTerminal, fromStripId, fromWay);
  const to = at(toDeviceId, toTerminal, toStripId, toWay);
  const core = fact.cableId === null ? null : { cableId: fact.cableId, number: fact.core ?? 0 };
  const ends = { from, to, link: from === null || to === null ? null : linkOf(from, to, core) };
  endsOf.set(fact, ends);
  return ends;
}

/** The name of a link between two ends, the same whichever way round. */
export function linkOf(a: string, b: string, core: { cableId: string; number: number } | null): string {
  const pair = a < b ? `${a}>${b}` : `${b}>${a}`;
  return core ? `${pair} ${core.cableId}.${core.number}` : pair;
}
