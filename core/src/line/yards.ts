import { LABEL_LENGTH } from "../record/fields.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { Position } from "../record/schemas.ts";
import { blocksOnLine } from "./blocks.ts";
import { followsFrom } from "./follows.ts";
import { lineLayout } from "./layout.ts";
import { type Lie, linkedTo, type Port, portOf, turnoutPort } from "./topology.ts";

/** A road of a yard, and how the turnouts of its end lie for it. */
export interface YardRoad {
  /** What its end or block is called; a number where it has no name. */
  name: string;
  settings: { turnoutId: string; lie: Lie }[];
  /** Where its track begins, beyond the last of the turnouts. */
  port: Port;
}

/** Turnouts that fan out from one track to several roads. */
export interface YardEnd {
  /** The turnout at which one comes in. */
  turnoutId: string;
  /** What it is called: by its first and last turnout. */
  name: string;
  roads: YardRoad[];
}

/** Roads from which a fan of turnouts is a yard. */
const LEAST_ROADS = 3;

/**
 * The ends of yards on a line: fans of turnouts that one comes into at the toe, as far as their roads end or come together again.
 * Crossovers are no part of them. Roads are in the order in which they lie, across the yard; the same road of the other end has the
 * same name.
 */
export function yardEnds(record: RailwayRecord): YardEnd[] {
  const layout = lineLayout(record);
  const links = linkedTo(layout.line);
  const coupled = new Set(followsFrom(record).crossovers.flatMap(({ pair }) => pair.map(({ id }) => id)));
  const leads = new Map(
    layout.junctions.flatMap((junction) =>
      junction.turnout && !junction.turnout.movesWith && !coupled.has(junction.id)
        ? [[junction.id, junction] as const]
        : [],
    ),
  );
  for (const { movesWith } of record.turnouts) if (movesWith) leads.delete(movesWith);
  const isFan = (port: Port | undefined) => {
    const entered = port === undefined ? null : turnoutPort(port);
    return entered?.leg === "toe" && leads.has(entered.id) ? entered.id : null;
  };
  const inner = new Set(
    [...leads.keys()].flatMap((id) =>
      (["normal", "reverse"] as const).flatMap((leg) => isFan(links.get(portOf(id, leg))) ?? []),
    ),
  );
  const nameOf = roadNames(record, links);
  /** Names of roads by both of their ports, so that the other end of the yard calls them the same. */
  const named = new Map<Port, string>();
  return [...leads.values()].flatMap((root): YardEnd[] => {
    if (inner.has(root.id)) return [];
    const roads = roadsFrom(root.id, []);
    if (roads.length < LEAST_ROADS) return [];
    const last = roads.reduce(
      (most, { settings }) => (settings.length > most.length ? settings : most),
      roads[0]?.settings ?? [],
    );
    const labels = [root.id, last.at(-1)?.turnoutId ?? root.id].map((id) => leads.get(id)?.turnout?.label ?? id);
    return [{ turnoutId: root.id, name: labels.join(" to "), roads: inRow(roads) }];
  });

  function roadsFrom(id: string, before: YardRoad["settings"]): Omit<YardRoad, "name">[] {
    if (before.some(({ turnoutId }) => turnoutId === id)) return [];
    return (["normal", "reverse"] as const).flatMap((lie) => {
      const settings = [...before, { turnoutId: id, lie }];
      const next = isFan(links.get(portOf(id, lie)));
      return next ? roadsFrom(next, settings) : [{ settings, port: portOf(id, lie) }];
    });
  }

  /** Roads from one side of the yard to the other, with their names; those without one are numbered. */
  function inRow(roads: Omit<YardRoad, "name">[]): YardRoad[] {
    const across = new Map(roads.map((road) => [road, downThePage(layout.byPort.get(road.port)?.stretch.points)]));
    const sorted = [...roads].sort((a, b) => (across.get(b) ?? 0) - (across.get(a) ?? 0));
    return sorted.map((road, index) => {
      const name = named.get(road.port) ?? nameOf(road.port) ?? `Road ${index + 1}`;
      for (const port of [road.port, links.get(road.port)]) if (port !== undefined) named.set(port, name);
      return { ...road, name };
    });
  }
}

/** How far down the page a road lies: its far end, from the middle of it on it is level. */
function downThePage(points: readonly (readonly [number, number])[] = []): number {
  return points[Math.floor(points.length / 2)]?.[1] ?? 0;
}

/** What a yard offers: the routes of one end, or of two ends that lead to the same roads, set at once. */
export interface YardProposal {
  name: string;
  /** The turnout at which one comes in; of both ends the first. */
  turnoutId: string;
  routes: { label: string; settings: { turnoutId: string; to: Position }[] }[];
}

/** Routes that a line offers by themselves: each end of each yard, and both ends of those that have two. */
export function proposedRoutes(record: RailwayRecord): YardProposal[] {
  const ends = yardEnds(record);
  const links = linkedTo(lineLayout(record).line);
  const single = ends.map((end): YardProposal => {
    const facesOther = ends.some((other) => other !== end && leadToEachOther(end, other, links));
    const [first] = end.name.split(" ");
    return {
      name: end.name,
      turnoutId: end.turnoutId,
      routes: end.roads.map(({ name, settings }) => ({
        label: facesOther ? `${name} ${first}` : name,
        settings: settings.map(asWanted),
      })),
    };
  });
  const both = ends.flatMap((end, index) =>
    ends.slice(index + 1).flatMap((other): YardProposal[] => {
      if (!leadToEachOther(end, other, links)) return [];
      const routes = end.roads.flatMap(({ name, port, settings }) => {
        const opposite = other.roads.find((road) => links.get(port) === road.port);
        return opposite ? [{ label: name, settings: [...settings, ...opposite.settings].map(asWanted) }] : [];
      });
      return [{ name: `${end.name} and ${other.name}`, turnoutId: end.turnoutId, routes }];
    }),
  );
  return [...both, ...single].map((proposal) => ({ ...proposal, routes: apart(proposal.routes) }));
}

function leadToEachOther(a: YardEnd, b: YardEnd, links: ReadonlyMap<Port, Port>): boolean {
  return a.roads.filter(({ port }) => b.roads.some((road) => links.get(port) === road.port)).length > 1;
}

function asWanted({ turnoutId, lie }: YardRoad["settings"][number]): { turnoutId: string; to: Position } {
  return { turnoutId, to: lie === "normal" ? "N" : "R" };
}

/** No two routes of a yard are called the same. */
function apart(routes: YardProposal["routes"]): YardProposal["routes"] {
  const seen = new Map<string, number>();
  return routes.map((route) => {
    const label = route.label.slice(0, LABEL_LENGTH - 3).trim();
    const times = (seen.get(label.toLowerCase()) ?? 0) + 1;
    seen.set(label.toLowerCase(), times);
    return { ...route, label: times === 1 ? label : `${label} ${times}` };
  });
}

/**
 * The turnouts that a route sets which no train passes on the way that the others make: it goes as far as they let it, either way
 * from one of them, and where a turnout on the way is not set, either leg is tried.
 * @param lies how turnouts are to lie; those that the line does not show are left out
 * @returns what is left over where as few as possible are, and the turnout against which a train would run
 */
export function offTheWay(
  record: RailwayRecord,
  lies: ReadonlyMap<string, Lie>,
): { left: string[]; against: string | null } {
  const { line } = lineLayout(record);
  const links = linkedTo(line);
  const placed = new Set(line.turnouts.map(({ id }) => id));
  const wanted = [...lies].filter(([id]) => placed.has(id));
  const [start] = wanted;
  if (!start) return { left: [], against: null };
  let tried = 0;
  let best: { passed: ReadonlySet<string>; against: string | null } = { passed: new Set([start[0]]), against: null };
  const [id, lie] = start;
  for (const one of onwards(portOf(id, "toe"), new Set([id])))
    for (const two of onwards(portOf(id, lie), one.passed)) {
      const count = (passed: ReadonlySet<string>) => wanted.filter(([each]) => passed.has(each)).length;
      if (count(two.passed) > count(best.passed) || best.passed.size === 1)
        best = { passed: two.passed, against: one.against ?? two.against };
      if (count(best.passed) === wanted.length) return { left: [], against: null };
    }
  return { left: wanted.flatMap(([each]) => (best.passed.has(each) ? [] : [each])), against: best.against };

  /** Ways on from a port, as far as they go. */
  function* onwards(
    port: Port,
    passed: ReadonlySet<string>,
  ): Generator<{ passed: ReadonlySet<string>; against: string | null }> {
    const next = links.get(port);
    const entered = next === undefined ? null : turnoutPort(next);
    if (!entered || passed.has(entered.id) || ++tried > MOST_TRIED) {
      yield { passed, against: null };
      return;
    }
    const now = new Set(passed).add(entered.id);
    const set = lies.get(entered.id);
    if (entered.leg !== "toe") {
      if (set !== undefined && set !== entered.leg) yield { passed, against: entered.id };
      else yield* onwards(portOf(entered.id, "toe"), now);
      return;
    }
    for (const leg of set === undefined ? (["normal", "reverse"] as const) : [set])
      yield* onwards(portOf(entered.id, leg), now);
  }
}

/** Turnouts that are passed in all before a way is taken to be one. */
const MOST_TRIED = 20_000;

/** Names of roads: that of the end or the block that they lead to. */
function roadNames(record: RailwayRecord, links: ReadonlyMap<Port, Port>): (port: Port) => string | null {
  const layout = lineLayout(record);
  const ends = new Map(layout.ends.map((end) => [end.id, end]));
  const { blocks } = blocksOnLine(record);
  return (port) => {
    const next = links.get(port);
    const end = next === undefined ? undefined : ends.get(next);
    if (end?.mark?.name) return end.mark.name;
    const stretch = layout.byPort.get(port)?.stretch.index;
    const own = blocks.filter(
      ({ name, parts }) => name !== null && parts.every((part) => part.stretch.index === stretch),
    );
    return own.length === 1 ? (own[0]?.name ?? null) : null;
  };
}
