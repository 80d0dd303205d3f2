import { assignmentsOfDevice, deviceOf, find } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
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
  label: string;
  /** Index of the net it makes, in the schematic. */
  net: number;
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
  /** Index of the net that passes through, in the schematic. */
  net: number;
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
  const ways: StripWay[] = [];
  const wires = schematic.nets.flatMap((net, index) => wiresOfNet(record, net, index, ways));
  const rank = new Map(
    schematic.threads.flatMap(({ turnout, followers }) => [turnout, ...followers]).map((t, i) => [t.id, i]),
  );
  const ranked = wires.map((wire) => ({
    wire,
    rank: wire.turnoutId === null ? -1 : (rank.get(wire.turnoutId) ?? -1),
  }));
  // sorting keeps the order of wires of like rank
  ranked.sort((a, b) => a.rank - b.rank);
  const numbered = ranked.map(({ wire }, index): Wire => {
    const label = `W${index + 1}`;
    return Object.assign(wire, {
      label,
      flags: [`${label} to ${wire.to.name}`, `${label} to ${wire.from.name}`] as [string, string],
    });
  });
  const joints = { bench: 0, underneath: 0 };
  for (const wire of numbered) {
    if (wire.run === "panel") joints.bench += 2;
    else if (wire.run === "layout") joints.underneath += 2;
    else {
      joints.bench += 1;
      joints.underneath += 1;
    }
  }
  return { wires: numbered, ways, joints };
}

/**
 * The loom of a schematic; of an earlier one with the same nets only those wires are made anew whose length the edit
 * between them changed.
 */
export function loomAfter(
  record: RailwayRecord,
  schematic: Schematic,
  earlier: { record: RailwayRecord; schematic: Schematic; loom: Loom } | undefined,
): Loom {
  if (!earlier || earlier.schematic.nets !== schematic.nets || earlier.record.railway !== record.railway) {
    return loomOf(record, schematic);
  }
  const before = new Map(earlier.record.turnouts.map((turnout) => [turnout.id, turnout.runMetres]));
  const changed = new Set(
    record.turnouts.filter(({ id, runMetres }) => before.get(id) !== runMetres).map(({ id }) => id),
  );
  if (changed.size === 0) return earlier.loom;
  const nets = new Set(
    schematic.nets.flatMap(({ ends }, index) =>
      ends.some(({ turnoutId }) => turnoutId !== null && changed.has(turnoutId)) ? [index] : [],
    ),
  );
  const remade = new Map<string, Unnumbered>();
  for (const index of nets) {
    const net = schematic.nets[index];
    // the ways are as they were; only lengths are wanted
    if (net) for (const wire of wiresOfNet(record, net, index, [])) remade.set(lengthKey(wire), wire);
  }
  const wires = earlier.loom.wires.map((wire) => {
    const now = nets.has(wire.net) && wire.run !== "cable" ? remade.get(lengthKey(wire)) : undefined;
    if (!now || now.metres === wire.metres) return wire;
    const { metres, cutMetres, ohms } = now;
    return { ...wire, metres, cutMetres, ohms };
  });
  return { ...earlier.loom, wires };
}

/** Tells a wire of a net by its ends, whatever the numbers of the screws. */
function lengthKey({ net, run, from, to }: Pick<Wire, "net" | "run" | "from" | "to">): string {
  return `${net} ${run} ${from.node} ${to.node}`;
}

type Unnumbered = Omit<Wire, "label" | "flags">;
type NetEnd = Net["ends"][number];

function wiresOfNet(record: RailwayRecord, net: Net, index: number, ways: StripWay[]): Unnumbered[] {
  const onPanel = net.ends.filter((end) => deviceOf(record, end.deviceId).place === "panel");
  const underneath = net.ends.filter((end) => deviceOf(record, end.deviceId).place === "layout");
  const wires: Unnumbered[] = [];
  const add = (from: WireEnd, to: WireEnd, run: Run, metres: number, turnoutId: string | null, way?: StripWay) => {
    const gauge = run === "cable" ? record.railway.cableGauge : record.railway.wireGauge;
    wires.push({
      net: index,
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
    });
  };
  const chain = (ends: readonly NetEnd[], run: Run, length: (end: NetEnd) => number) => {
    for (const [index, end] of ends.slice(1).entries()) {
      const before = ends[index];
      if (before)
        add(wireEnd(record, before), wireEnd(record, end), run, length(end), end.turnoutId ?? before.turnoutId);
    }
  };
  const layoutLength = (end: NetEnd) => lengthUnderneath(record, end);

  const firstOnPanel = onPanel[0];
  const firstUnderneath = underneath[0];
  chain(onPanel, "panel", () => PANEL_LINK);
  if (firstOnPanel && firstUnderneath) {
    const way = nextWay(record, ways, net.purpose, index, endKey(firstOnPanel));
    ways.push(way);
    const owner = firstOnPanel.turnoutId ?? firstUnderneath.turnoutId;
    add(wireEnd(record, firstOnPanel), way.panel, "panel", PANEL_TAIL, owner);
    add(way.panel, way.layout, "cable", record.railway.cableMetres, owner, way);
    add(way.layout, wireEnd(record, firstUnderneath), "layout", layoutLength(firstUnderneath), owner);
  }
  chain(underneath, "layout", layoutLength);
  return wires;
}

function wireEnd(record: RailwayRecord, end: End): WireEnd {
  const key = endKey(end);
  const { deviceId, terminal } = end;
  return { key, node: key, name: terminalName(deviceOf(record, deviceId).label, terminal), of: { deviceId, terminal } };
}

/** Wire to a motor takes its turnout's run; wire between boards is short. */
function lengthUnderneath(record: RailwayRecord, end: NetEnd): number {
  const atMotor = assignmentsOfDevice(record, end.deviceId).some((assignment) => assignment.role === "motor");
  if (!atMotor || !end.turnoutId) return BOARD_LINK;
  return find(record, "turnout", end.turnoutId)?.runMetres ?? record.railway.runMetres;
}

function nextWay(
  record: RailwayRecord,
  ways: readonly StripWay[],
  purpose: Purpose,
  net: number,
  anchor: string,
): StripWay {
  const { stripWays, cableCores } = record.railway;
  const index = ways.length;
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
