import { assignmentsOfRole, deviceOf, find } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { Device } from "../record/schemas.ts";
import { type End, endKey, type Net, PURPOSES, type Purpose, terminalName } from "../schematic/nets.ts";
import type { Schematic } from "../schematic/schematic.ts";
import { type Gauge, ohmsPerMetre } from "../units/gauge.ts";
import type { WireColour } from "../units/wireColours.ts";

/** Where a wire is laid: on the panel at the bench, in a cable between, or under the layout. */
export type Run = "panel" | "cable" | "layout";

export interface WireEnd {
  /** Where a probe is put: a terminal as `device:terminal`, or a screw of a strip as "K1:3". */
  key: string;
  /** Name within the circuit. A screw's tells what it joins, not its number, which changes as other wires come and go. */
  node: string;
  /** What is written beside the terminal, as "T1-N" or "K1-3". */
  name: string;
  /** The device's terminal that it is; null for a screw. */
  of: End | null;
}

export interface Wire {
  /** Name in the circuit, by its ends: its label may change when other wires come or go. */
  id: string;
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
  core: { cable: string; number: number } | null;
  /** Text of the flags at its two ends: each names the far end. */
  flags: [string, string];
}

/** A screw of a terminal strip; panel and layout strips have the same numbers for the same net. */
export interface StripWay {
  /** The net that passes through, by its identifier. */
  net: string;
  panel: WireEnd;
  layout: WireEnd;
  strip: number;
  way: number;
  cable: string;
  core: number;
  purpose: Purpose;
}

export interface Loom {
  wires: Wire[];
  ways: StripWay[];
  joints: { bench: number; underneath: number };
}

/** Cores of one cable by number, in the order usual for signal cables (common practice). */
export const CORE_COLOURS: readonly WireColour[] = ["WH", "BN", "GN", "YE", "GY", "PK", "BU", "RD"];

/** Tail from a control or lamp to its panel strip, metres (common practice). */
const PANEL_TAIL = 0.6;
/** Link from one control or lamp to the next, metres (common practice). */
const PANEL_LINK = 0.15;
/** Wire between boards and supplies that stand together under the layout, metres (common practice). */
const BOARD_LINK = 0.5;
/** More to cut at each end than is laid, metres (common practice). */
const SLACK = 0.025;

/**
 * The wires that make the nets: each net is a chain from terminal to terminal; where it passes from the panel to the
 * layout it goes through a screw of a panel strip, one core of a cable and the like screw of a layout strip.
 *
 * Wires are numbered in the owner's order of turnouts, those between boards first, so that a turnout added at the end
 * leaves the other numbers as they are.
 */
export function loomOf(record: RailwayRecord, schematic: Schematic): Loom {
  return weave(record, schematic, undefined);
}

/** The loom of a schematic; of an earlier one those wires are taken over that the edit between them left as they were. */
export function loomAfter(
  record: RailwayRecord,
  schematic: Schematic,
  earlier: { record: RailwayRecord; schematic: Schematic; loom: Loom } | undefined,
): Loom {
  return weave(record, schematic, earlier?.record.railway === record.railway ? earlier.loom : undefined);
}

/** What a net was made of, and all that this depends on. */
interface Made {
  /** Screws of strips that came before its own. */
  before: number;
  way: StripWay | null;
  wires: Wire[];
  ends: readonly MadeEnd[];
}

/** Device and length of wire of an end of a net. */
interface MadeEnd {
  device: Device;
  metres: number;
}

const madeOf = new WeakMap<Loom, Map<Net, Made>>();

function weave(record: RailwayRecord, { nets, threads }: Schematic, earlier: Loom | undefined): Loom {
  const known = earlier && madeOf.get(earlier);
  const motors = new Set(assignmentsOfRole(record, "motor").map(({ deviceId }) => deviceId));
  const ways: StripWay[] = [];
  const endOf = (end: NetEnd): MadeEnd => ({
    device: deviceOf(record, end.deviceId),
    metres: lengthUnderneath(record, motors, end),
  });
  const made = nets.map((net): Made => {
    const before = known?.get(net);
    const one =
      before && isAsMade(net, before, endOf)
        ? moved(record, before, ways.length)
        : keepingWires(fresh(record, net, net.ends.map(endOf), ways.length), before);
    if (one.way) ways.push(before?.way && isSameWay(one.way, before.way) ? before.way : one.way);
    return one;
  });
  const wires = numbered(made, threads);
  const joints = { bench: 0, underneath: 0 };
  for (const wire of wires) {
    if (wire.run === "panel") joints.bench += 2;
    else if (wire.run === "layout") joints.underneath += 2;
    else {
      joints.bench += 1;
      joints.underneath += 1;
    }
  }
  const loom = { wires: asBefore(wires, earlier?.wires), ways: asBefore(ways, earlier?.ways), joints };
  if (earlier && loom.wires === earlier.wires && loom.ways === earlier.ways) return earlier;
  madeOf.set(loom, new Map(nets.map((net, index) => [net, made[index] as Made])));
  return loom;
}

function isSameWay(a: StripWay, b: StripWay): boolean {
  return a.net === b.net && a.panel.key === b.panel.key && a.panel.node === b.panel.node && a.core === b.core;
}

function isAsMade(net: Net, made: Made, endOf: (end: NetEnd) => MadeEnd): boolean {
  return net.ends.every((end, index) => {
    const { device, metres } = endOf(end);
    return device === made.ends[index]?.device && metres === made.ends[index]?.metres;
  });
}

/** Of wires that were made anew those that are as they were, number apart. */
function keepingWires(made: Made, before: Made | undefined): Made {
  if (!before || made.way?.panel.key !== before.way?.panel.key || made.way?.core !== before.way?.core) return made;
  const wires = made.wires.map((wire, index) => {
    const old = before.wires[index];
    const isSame =
      old &&
      old.net === wire.net &&
      old.metres === wire.metres &&
      old.turnoutId === wire.turnoutId &&
      old.from.key === wire.from.key &&
      old.to.key === wire.to.key &&
      old.from.name === wire.from.name &&
      old.to.name === wire.to.name;
    return isSame ? old : wire;
  });
  return { ...made, wires };
}

/** A net's wires when nothing of them has changed but how many screws come before its own. */
function moved(record: RailwayRecord, made: Made, before: number): Made {
  if (!made.way || made.before === before) return { ...made };
  const { purpose, net, panel } = made.way;
  const way = wayAfter(record, before, purpose, net, panel.node.slice(WAY_OF.length));
  const at = (end: WireEnd) => (end.of ? end : end.node === way.panel.node ? way.panel : way.layout);
  const wires = made.wires.map((wire): Wire => {
    if (wire.from.of && wire.to.of) return wire;
    const inCable = wire.run === "cable";
    return {
      ...wire,
      ...{ label: "", from: at(wire.from), to: at(wire.to) },
      colour: inCable ? coreColour(way.core) : wire.colour,
      core: inCable ? { cable: way.cable, number: way.core } : null,
    };
  });
  return { ...made, before, way, wires };
}

/** Before what a screw joins, in its name in the circuit. */
const WAY_OF = "P of ";

/** Numbers the wires in the owner's order of turnouts, those for no turnout first; a wire that keeps its number is the same object. */
function numbered(made: readonly Made[], threads: Schematic["threads"]): Wire[] {
  const rank = new Map(
    threads.flatMap(({ turnout, followers }) => [turnout, ...followers]).map(({ id }, index) => [id, index + 1]),
  );
  const rankOf = ({ turnoutId }: Wire) => (turnoutId === null ? 0 : (rank.get(turnoutId) ?? 0));
  // how many come before those of each rank
  const next = new Int32Array(rank.size + 2);
  for (const { wires } of made) for (const wire of wires) (next[rankOf(wire) + 1] as number)++;
  for (let place = 1; place < next.length; place++) next[place] = (next[place] as number) + (next[place - 1] as number);
  const all: Wire[] = new Array(next.at(-1) ?? 0);
  for (const one of made) {
    one.wires = one.wires.map((wire) => {
      const place = rankOf(wire);
      const number = next[place] as number;
      next[place] = number + 1;
      const label = `W${number + 1}`;
      const labelled = wire.label === label ? wire : { ...wire, label, flags: flagsOf(label, wire) };
      all[number] = labelled;
      return labelled;
    });
  }
  return all;
}

function flagsOf(label: string, { from, to }: Pick<Wire, "from" | "to">): Wire["flags"] {
  return [`${label} to ${to.name}`, `${label} to ${from.name}`];
}

/** The list as it was before, when it holds the same things. */
function asBefore<T>(list: T[], before: T[] | undefined): T[] {
  return before?.length === list.length && list.every((each, index) => each === before[index]) ? before : list;
}

type NetEnd = Net["ends"][number];

function fresh(record: RailwayRecord, net: Net, ends: Made["ends"], before: number): Made {
  const at = (place: Device["place"]) =>
    net.ends.flatMap((end, index) => {
      const known = ends[index];
      return known?.device.place === place ? [{ ...known, end }] : [];
    });
  const [onPanel, underneath] = [at("panel"), at("layout")];
  const wires: Wire[] = [];
  const add = (from: WireEnd, to: WireEnd, run: Run, metres: number, turnoutId: string | null, way?: StripWay) => {
    const gauge = run === "cable" ? record.railway.cableGauge : record.railway.wireGauge;
    wires.push({
      id: `${from.node}>${to.node}`,
      label: "",
      net: net.id,
      from,
      to,
      run,
      purpose: net.purpose,
      colour: way ? coreColour(way.core) : PURPOSES[net.purpose].colour,
      gauge,
      metres,
      cutMetres: Math.ceil((metres + 2 * SLACK) * 100) / 100,
      ohms: ohmsPerMetre(gauge) * metres,
      turnoutId,
      core: way ? { cable: way.cable, number: way.core } : null,
      flags: ["", ""],
    });
  };
  const chain = (those: readonly { end: NetEnd; device: Device; metres: number }[], run: Run, link?: number) => {
    for (const [index, { end, device, metres }] of those.slice(1).entries()) {
      const before = those[index];
      if (!before) continue;
      const owner = end.turnoutId ?? before.end.turnoutId;
      add(wireEnd(before.device, before.end), wireEnd(device, end), run, link ?? metres, owner);
    }
  };

  const [firstOnPanel, firstUnderneath] = [onPanel[0], underneath[0]];
  let way: StripWay | null = null;
  chain(onPanel, "panel", PANEL_LINK);
  if (firstOnPanel && firstUnderneath) {
    way = wayAfter(record, before, net.purpose, net.id, endKey(firstOnPanel.end));
    const owner = firstOnPanel.end.turnoutId ?? firstUnderneath.end.turnoutId;
    add(wireEnd(firstOnPanel.device, firstOnPanel.end), way.panel, "panel", PANEL_TAIL, owner);
    add(way.panel, way.layout, "cable", record.railway.cableMetres, owner, way);
    const last = wireEnd(firstUnderneath.device, firstUnderneath.end);
    add(way.layout, last, "layout", firstUnderneath.metres, owner);
  }
  chain(underneath, "layout");
  return { before, way, wires, ends };
}

function wireEnd({ label }: Device, { deviceId, terminal }: End): WireEnd {
  const key = endKey({ deviceId, terminal });
  return { key, node: key, name: terminalName(label, terminal), of: { deviceId, terminal } };
}

/** Wire to a motor takes its turnout's run; wire between boards is short. */
function lengthUnderneath(record: RailwayRecord, motors: ReadonlySet<string>, end: NetEnd): number {
  if (!end.turnoutId || !motors.has(end.deviceId)) return BOARD_LINK;
  return find(record, "turnout", end.turnoutId)?.runMetres ?? record.railway.runMetres;
}

/** The screw that comes after so many others. */
function wayAfter(record: RailwayRecord, index: number, purpose: Purpose, net: string, anchor: string): StripWay {
  const { stripWays, cableCores } = record.railway;
  const strip = Math.floor(index / stripWays) + 1;
  const way = (index % stripWays) + 1;
  const screw = (letter: string): WireEnd => ({
    key: `${letter}${strip}:${way}`,
    node: `${letter} of ${anchor}`,
    name: `${letter}${strip}-${way}`,
    of: null,
  });
  return {
    net,
    panel: screw("P"),
    layout: screw("K"),
    strip,
    way,
    cable: `C${Math.floor(index / cableCores) + 1}`,
    core: (index % cableCores) + 1,
    purpose,
  };
}

function coreColour(core: number): WireColour {
  return CORE_COLOURS[core - 1] ?? "WH";
}
