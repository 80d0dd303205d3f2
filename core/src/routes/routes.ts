import { find, turnoutsInOrder } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { Route, RouteControl, RouteTurnout } from "../record/routes.ts";
import type { Position, Turnout } from "../record/schemas.ts";

/** A route with what asks for it, and how one turnout lies in it. */
export interface RouteOver {
  route: Route;
  to: Position;
  controls: RouteControl[];
}

const NONE: readonly never[] = [];

/** Things of a list by one of their fields, made once for a list: lists are never changed in place. */
function indexBy<T extends object>(
  known: WeakMap<readonly T[], Map<string, T[]>>,
  list: readonly T[],
  of: (thing: T) => string,
) {
  const made = known.get(list) ?? indexed(list, of);
  known.set(list, made);
  return made;
}

function indexed<T>(list: readonly T[], of: (thing: T) => string): Map<string, T[]> {
  const index = new Map<string, T[]>();
  for (const thing of list) {
    const things = index.get(of(thing));
    if (things) things.push(thing);
    else index.set(of(thing), [thing]);
  }
  return index;
}

const byTurnout = new WeakMap<readonly RouteTurnout[], Map<string, RouteTurnout[]>>();
const byRoute = new WeakMap<
  readonly RouteTurnout[],
  { turnouts: readonly Turnout[]; own: Map<string, RouteTurnout[]> }
>();
const controlsByRoute = new WeakMap<readonly RouteControl[], Map<string, RouteControl[]>>();

/** Routes in the owner's order. */
export function routesInOrder({ routes }: RailwayRecord): Route[] {
  return [...routes].sort((a, b) => a.order - b.order || (a.id < b.id ? -1 : 1));
}

/** The turnouts of a route, in the order of turnouts. */
export function turnoutsOfRoute(record: RailwayRecord, routeId: string): readonly RouteTurnout[] {
  let known = byRoute.get(record.routeTurnouts);
  if (known?.turnouts !== record.turnouts) {
    const order = new Map(turnoutsInOrder(record).map(({ id }, place) => [id, place]));
    const placeOf = ({ turnoutId }: RouteTurnout) => order.get(turnoutId) ?? 0;
    const sorted = [...record.routeTurnouts].sort((a, b) => placeOf(a) - placeOf(b));
    known = { turnouts: record.turnouts, own: indexed(sorted, ({ routeId }) => routeId) };
    byRoute.set(record.routeTurnouts, known);
  }
  return known.own.get(routeId) ?? NONE;
}

/** What asks for a route. */
export function controlsOfRoute(record: RailwayRecord, routeId: string): readonly RouteControl[] {
  return indexBy(controlsByRoute, record.routeControls, (each) => each.routeId).get(routeId) ?? NONE;
}

/** Whether a control, or a board that reads one, asks for routes: by any of its ways, or by one. */
export function asksForRoutes({ routeControls }: RailwayRecord, deviceId: string, way?: number | null): boolean {
  return routeControls.some(
    (each) =>
      (each.deviceId === deviceId && (way === undefined || each.way === way)) ||
      (each.throughId === deviceId && way === undefined),
  );
}

/** What a route has to do with the others. */
export interface AmongRoutes {
  /** Routes that set the same turnouts alike. */
  same: Route[];
  /** Routes that cannot stand beside it, with the turnouts that they want otherwise. */
  against: { route: Route; turnoutIds: string[] }[];
}

/** Which other routes set the same as one, and which it cannot stand beside. */
export function amongRoutes(record: RailwayRecord, routeId: string): AmongRoutes {
  const own = new Map(turnoutsOfRoute(record, routeId).map(({ turnoutId, to }) => [turnoutId, to]));
  const others = routesInOrder(record).filter(({ id }) => id !== routeId);
  return {
    same: others.filter(({ id }) => {
      const its = turnoutsOfRoute(record, id);
      return its.length === own.size && own.size > 0 && its.every(({ turnoutId, to }) => own.get(turnoutId) === to);
    }),
    against: others.flatMap((route) => {
      const turnoutIds = turnoutsOfRoute(record, route.id).flatMap(({ turnoutId, to }) =>
        (own.get(turnoutId) ?? to) === to ? [] : [turnoutId],
      );
      return turnoutIds.length > 0 ? [{ route, turnoutIds }] : [];
    }),
  };
}

/**
 * The routes that set a turnout or one of those that follow it, in the owner's order. Where a route asks the leader and a follower
 * for different positions, the leader's counts.
 * @param turnoutIds the leader first
 */
export function routesOver(record: RailwayRecord, turnoutIds: readonly string[]): RouteOver[] {
  if (record.routeTurnouts.length === 0) return [];
  const index = indexBy(byTurnout, record.routeTurnouts, (each) => each.turnoutId);
  const positions = new Map<string, Position>();
  for (const turnoutId of turnoutIds)
    for (const { routeId, to } of index.get(turnoutId) ?? NONE) if (!positions.has(routeId)) positions.set(routeId, to);
  return [...positions]
    .flatMap(([routeId, to]): RouteOver[] => {
      const route = find(record, "route", routeId);
      return route ? [{ route, to, controls: [...controlsOfRoute(record, routeId)] }] : [];
    })
    .sort((a, b) => a.route.order - b.route.order || (a.route.id < b.route.id ? -1 : 1));
}
