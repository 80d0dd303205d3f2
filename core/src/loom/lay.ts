import { Groups } from "../circuit/groups.ts";
import type { Device, Railway, Topology } from "../record/schemas.ts";
import type { Net } from "../schematic/nets.ts";
import { amid, wireFrom } from "./places.ts";
import type { Passage, Run, Wire, WireEnd } from "./wire.ts";

/** Link from one control or lamp to the next, metres (common practice). */
const PANEL_LINK = 0.15;
/** Wire between boards and supplies that stand together under the layout, metres (common practice). */
export const BOARD_LINK = 0.5;

/** Wire between terminals of one turnout, as from its motor to its frog, metres (common practice). */
const TURNOUT_LINK = 0.3;
/** Dropper from a trunk to a terminal, metres (common practice). */
const DROPPER = 0.3;
/** Places from which on a bus is worth its splices: for fewer a wire to each is as good. */
const LEAST_FOR_BUS = 3;

/** A terminal of a net where it stands. */
export interface LaidEnd {
  end: Net["ends"][number];
  device: Device;
  at: WireEnd;
  /** The turnout at which it stands; null for boards and supplies. */
  turnoutId: string | null;
  /** The zone of that turnout. */
  zoneId: string | null;
  /** Wire to it from where the boards stand, along the trunk line, metres. */
  metres: number;
}

/** A link of a net as it is to be laid. */
export interface Link {
  from: WireEnd;
  to: WireEnd;
  run: Run;
  metres: number;
  turnoutId: string | null;
  core: Wire["core"];
  /** It is part of a trunk. */
  isTrunk: boolean;
}

/** What a net is laid between, and how. */
export interface Laid {
  ends: readonly LaidEnd[];
  /** Where it passes from the panel to the layout; null when it does not, or does so by wires that are there. */
  passage: Passage | null;
  topology: Topology;
  /** The splice or block by which terminals hang on a trunk. */
  tapAt: (kind: "splice" | "block", terminals: readonly WireEnd[]) => WireEnd;
}

/** A place under the layout where a net has terminals. */
interface Site {
  ends: LaidEnd[];
  /** Along the trunk line, metres. */
  at: number;
  turnoutId: string | null;
  /** The zone of that turnout. */
  zoneId: string | null;
}

/**
 * The links of a net as they would be laid with nothing there yet: a chain at the panel, the passage, and under the layout a
 * star, a chain, a bus or blocks from where the boards stand past the turnouts, in the order of their distance. What goes from one
 * turnout to another is as long as they are apart, not as the run of either.
 */
export function plannedLinks(railway: Railway, laid: Laid): Link[] {
  const { ends, passage } = laid;
  const panel = ends.filter(({ device }) => device.place === "panel");
  const layout = ends.filter(({ device }) => device.place === "layout");
  const links: Link[] = [];
  const [first, second] = [panel[0], layout[0]];
  const owner = first?.end.turnoutId ?? second?.end.turnoutId ?? null;
  for (const [a, b] of pairs(panel))
    links.push(link(a.at, b.at, "panel", PANEL_LINK, b.end.turnoutId ?? a.end.turnoutId));
  if (passage) {
    const core = { cableId: passage.cableId, cable: passage.cable, number: passage.core };
    if (first) links.push(link(first.at, passage.panel, "panel", railway.tailMetres, owner));
    links.push({ ...link(passage.panel, passage.layout, "cable", passage.metres, owner), core });
  }
  return [...links, ...underneath(railway, laid, layout, owner)];
}

function link(from: WireEnd, to: WireEnd, run: Run, metres: number, turnoutId: string | null): Link {
  return { from, to, run, metres: Math.round(metres * 1000) / 1000, turnoutId, core: null, isTrunk: false };
}

/** Each thing with the one after it. */
function pairs<T>(things: readonly T[]): [T, T][] {
  return things.slice(1).map((each, index) => [things[index] as T, each]);
}

/** The links under the layout, from the boards, or from the strip where no boards are. */
function underneath(railway: Railway, laid: Laid, ends: readonly LaidEnd[], owner: string | null): Link[] {
  const { boards, sites } = sitesOf(ends);
  const entry = laid.passage?.layout ?? null;
  const along = entry?.along ?? 0;
  const links: Link[] = [];
  // the boards stand together, and most strips beside them
  if (entry && boards[0]) links.push(link(entry, boards[0].at, "layout", Math.max(BOARD_LINK, along), owner));
  for (const [a, b] of pairs(boards))
    links.push(link(a.at, b.at, "layout", BOARD_LINK, b.end.turnoutId ?? a.end.turnoutId));
  // a chain goes on from the last of the boards, so that no screw gets a third wire
  const from = (laid.topology === "chain" ? boards.at(-1) : boards[0])?.at ?? entry;
  const apart = (a: Site, b: Site) => Math.max(Math.abs(a.at - b.at), railway.spacingMetres);
  const start: Site = { ends: [], at: boards.length > 0 ? 0 : along, turnoutId: null, zoneId: null };
  const firstOf = ({ ends: [first] }: Site) => (first as LaidEnd).at;
  const lastOf = ({ ends }: Site) => (ends.at(-1) as LaidEnd).at;
  const [nearest, ...others] = sites;
  if (nearest) {
    if (from) for (const arm of armsFrom(start.at, sites)) links.push(...between(from, start, arm));
    else links.push(...between(lastOf(nearest), nearest, others));
  }
  for (const site of sites)
    for (const [a, b] of pairs(site.ends)) {
      const metres = site.turnoutId === null ? BOARD_LINK : TURNOUT_LINK;
      links.push(link(a.at, b.at, "layout", metres, b.end.turnoutId));
    }
  return links;

  /** From a point at one place to all others. */
  function between(point: WireEnd, place: Site, all: readonly Site[]): Link[] {
    // what starts at a turnout has a way down to the trunk line first; boards stand at the line
    const down = (site: Site) => (site === start || site.turnoutId === null ? 0 : DROPPER);
    const length = (a: Site, b: Site) => {
      if (a === start) return wireFrom(railway, start.at, b.at);
      // a turnout's own wire begins at its board, and is as long as it was said to be
      if (a.turnoutId === null) return Math.max(Math.abs(b.at - a.at), LEAST_METRES);
      return down(a) + apart(a, b) + down(b);
    };
    const isWorth = sites.length - (place === start ? 0 : 1) >= LEAST_FOR_BUS;
    if (laid.topology === "bus" && isWorth) return bus(point, place, all);
    if (laid.topology === "blocks" && isWorth) return blocks(point, place, all);
    const result: Link[] = [];
    let [before, at] = [point, place];
    for (const site of all) {
      result.push(link(before, firstOf(site), "layout", length(at, site), site.turnoutId));
      if (laid.topology === "chain") [before, at] = [lastOf(site), site];
    }
    return result;
  }

  /** A trunk from a point past all places, with a dropper to each; at the last one the trunk ends. */
  function bus(point: WireEnd, place: Site, all: readonly Site[]): Link[] {
    const result: Link[] = [];
    let [before, at] = [point, place];
    for (const [index, site] of all.entries()) {
      const isLast = index === all.length - 1;
      const direct = wireFrom(railway, start.at, site.at);
      const along = at === start ? Math.max(direct - DROPPER, LEAST_METRES) : apart(at, site);
      const metres = along + (index === 0 && at !== start ? DROPPER : 0);
      const tap = isLast ? firstOf(site) : laid.tapAt("splice", [firstOf(site)]);
      result.push({
        ...link(before, tap, "layout", metres + (isLast ? DROPPER : 0), site.turnoutId),
        isTrunk: true,
      });
      if (!isLast) result.push(link(tap, firstOf(site), "layout", Math.min(DROPPER, direct), site.turnoutId));
      [before, at] = [tap, site];
    }
    return result;
  }

  /** A trunk from a point to a block amid the places of each zone, and from each block a wire to each of its places. */
  function blocks(point: WireEnd, place: Site, all: readonly Site[]): Link[] {
    const result: Link[] = [];
    let [before, at] = [point, place];
    const zones = byZone(all);
    for (const own of zones) {
      const [first] = own as [Site];
      // a trunk that has one place left to go to ends there
      if (own.length === 1 && own === zones.at(-1)) {
        const metres = at === start ? wireFrom(railway, start.at, first.at) : apart(at, first) + DROPPER;
        result.push({ ...link(before, firstOf(first), "layout", metres, first.turnoutId), isTrunk: true });
        continue;
      }
      const middle = amid(own.map((site) => site.at).sort((a, b) => a - b)) ?? first.at;
      const tap = laid.tapAt("block", own.map(firstOf));
      const metres = at === start ? wireFrom(railway, start.at, middle) : Math.abs(middle - at.at);
      const trunk = Math.max(metres + (at === place && at !== start ? DROPPER : 0), LEAST_METRES);
      result.push({ ...link(before, tap, "layout", trunk, first.turnoutId), isTrunk: true });
      for (const site of own)
        result.push(link(tap, firstOf(site), "layout", Math.abs(site.at - middle) + DROPPER, site.turnoutId));
      [before, at] = [tap, { ...first, at: middle }];
    }
    return result;
  }
}

/** Places of a net in each zone, zones and places in the order of their distance. */
function byZone(sites: readonly Site[]): Site[][] {
  const zones = new Map<string | null, Site[]>();
  for (const site of sites) zones.set(site.zoneId, [...(zones.get(site.zoneId) ?? []), site]);
  return [...zones.values()];
}

/** A wire is not shorter, metres. */
const LEAST_METRES = 0.05;

/** Places to both sides of one along the trunk line, each from there on outwards. */
function armsFrom(at: number, sites: readonly Site[]): Site[][] {
  const nearer = sites.filter((site) => site.at < at).reverse();
  const farther = sites.filter((site) => site.at >= at);
  return [nearer, farther].filter((arm) => arm.length > 0);
}

/** Terminals where the boards stand together, and those at turnouts and at boards that stand apart, the nearest first. */
function sitesOf(ends: readonly LaidEnd[]): { boards: LaidEnd[]; sites: Site[] } {
  const boards: LaidEnd[] = [];
  const sites = new Map<string, Site>();
  for (const end of ends) {
    const { turnoutId, zoneId, metres } = end;
    if (turnoutId === null && metres === 0) {
      boards.push(end);
      continue;
    }
    // boards at the same place stand together there
    const name = turnoutId ?? `at ${metres}`;
    const site = sites.get(name);
    if (site) site.ends.push(end);
    else sites.set(name, { ends: [end], at: metres, turnoutId, zoneId });
  }
  return { boards, sites: [...sites.values()].sort((a, b) => a.at - b.at) };
}

/** Those of planned links that are needed beside links that are there already: in their order, each that joins what was apart. */
export function neededLinks(planned: readonly Link[], there: readonly { from: string; to: string }[]): Link[] {
  if (there.length === 0) return [...planned];
  const joined = new Groups();
  for (const { from, to } of there) joined.join(from, to);
  return planned.filter(({ from, to }) => joined.join(from.key, to.key));
}

/**
 * Length of a single wire that is there, when nothing is known of it, metres.
 * @param ends those of its ends that are terminals
 * @param along where the strip is at which it ends, along the trunk line
 */
export function usualMetres(railway: Railway, run: Run, ends: readonly LaidEnd[], along: number): number {
  if (run === "panel") return ends.length > 1 ? PANEL_LINK : railway.tailMetres;
  const [a, b] = ends;
  // from or to a board that stands apart it is as long as the two are
  if (a && b && [a, b].some(({ turnoutId, metres }) => turnoutId === null && metres > 0))
    return Math.max(BOARD_LINK, Math.abs(a.metres - b.metres));
  return Math.max(BOARD_LINK, ...ends.map(({ metres }) => wireFrom(railway, along, metres)));
}
