import { type Lie, type Line, linkedTo, type Port, portOf, turnoutPort, waysOn } from "./topology.ts";

/** A way from one end to another, with how each turnout on it has to lie. */
export interface Route {
  from: string;
  to: string;
  settings: Record<string, Lie>;
}

/** Routes of a line beyond which it is taken for a mistake. */
export const MOST_ROUTES = 200_000;

/**
 * Every way between two different ends, each pair once for each distinct way: no turnout is passed twice, and none from leg
 * to leg. In the order of the ends, normal before reverse.
 * @param mostTurnouts how many are passed in all before it gives up, on lines that go round and round; then what was found is
 *   not all there is
 * @returns whether all were found
 */
export function* routesIn(line: Line, mostTurnouts = Number.POSITIVE_INFINITY): Generator<Route, boolean> {
  let passed = 0;
  const links = linkedTo(line);
  const order = new Map(line.ends.map((end, index) => [end, index]));
  const leads = leadingOn(line, links, order);
  for (const [index, from] of line.ends.entries()) yield* onwards(from, index);
  return passed < mostTurnouts;

  function* onwards(from: string, index: number): Generator<Route> {
    const settings = new Map<string, Lie>();
    yield* onFrom(from);

    /** Goes on from a port that a train leaves by. */
    function* onFrom(port: Port): Generator<Route> {
      const next = links.get(port);
      if (next === undefined || !leads.has(next)) return;
      const to = order.get(next);
      if (to !== undefined) {
        if (to > index && !isBarred(settings)) yield { from, to: next, settings: Object.fromEntries(settings) };
        return;
      }
      const entered = turnoutPort(next);
      if (!entered || settings.has(entered.id) || passed >= mostTurnouts) return;
      passed++;
      for (const leg of waysOn(entered.leg)) {
        const lie = leg === "toe" ? (entered.leg as Lie) : (leg as Lie);
        settings.set(entered.id, lie);
        yield* onFrom(portOf(entered.id, leg));
        settings.delete(entered.id);
      }
    }
  }

  function isBarred(settings: ReadonlyMap<string, Lie>): boolean {
    return (line.barred ?? []).some(
      ({ first, second, lies }) => settings.get(first) === lies[0] && settings.get(second) === lies[1],
    );
  }
}

/** Ports from which a train that has come in by them can get to an end at all. */
function leadingOn(line: Line, links: ReadonlyMap<Port, Port>, ends: ReadonlyMap<string, number>): ReadonlySet<Port> {
  // backwards from the ends: who can leave by a port whose link leads on came in by one of these
  const leads = new Set<Port>(line.ends.filter((end) => links.has(end)));
  const open = [...leads];
  for (let port = open.pop(); port !== undefined; port = open.pop()) {
    const before = links.get(port);
    const left = before === undefined || ends.has(before) ? null : turnoutPort(before);
    if (!left) continue;
    for (const leg of waysOn(left.leg)) {
      const entered = portOf(left.id, leg);
      if (leads.has(entered)) continue;
      leads.add(entered);
      open.push(entered);
    }
  }
  return leads;
}

/** Whether two routes cannot be used at once: they want a turnout differently, or both pass it. */
export function routesConflict(a: Route, b: Route): boolean {
  return Object.keys(a.settings).some((id) => id in b.settings);
}

/** Ports that a route goes out and comes in by, link by link, from its first end to its last. */
export function linksOfRoute(line: Pick<Line, "links">, { from, to, settings }: Route): [Port, Port][] {
  const links = linkedTo(line);
  const way: [Port, Port][] = [];
  for (let port: Port | undefined = from; port !== undefined; ) {
    const next: Port | undefined = links.get(port);
    if (next === undefined) break;
    way.push([port, next]);
    const entered: ReturnType<typeof turnoutPort> = next === to ? null : turnoutPort(next);
    const lie: Lie | undefined = entered ? settings[entered.id] : undefined;
    port = entered && lie ? portOf(entered.id, entered.leg === "toe" ? lie : "toe") : undefined;
  }
  return way;
}
