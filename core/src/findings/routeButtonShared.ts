import { commandRoutes } from "../equip/routeSchools.ts";
import { deviceOf } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { Route } from "../record/routes.ts";
import type { Position } from "../record/schemas.ts";
import { movingWith } from "../routes/boards.ts";
import { routesInOrder, turnoutsOfRoute } from "../routes/routes.ts";
import { wayName } from "../schematic/nets.ts";
import type { Thread } from "../schematic/thread.ts";
import { list } from "../units/format.ts";
import { type Look, rule } from "./rule.ts";
import { threadsOfTurnouts } from "./threadsOf.ts";

/** Routes that one contact asks for. */
export interface Shared {
  /** What it is called, as B3 or RS1-4. */
  name: string;
  routes: Route[];
  /** The turnout that they ask for both positions, if there is one. */
  both: string | null;
  threads: Thread[];
}

export const routeButtonShared = rule<Shared>({
  id: "route-button-shared",
  stage: "routes",
  column: null,
  severity: "look",
  title: "One button for two routes",
  about:
    "A press sets all turnouts of both routes. Where they go together that may be wanted, and one route with all of them says so; else each route wants a button of its own.",
  look: (look) => sharedButtons(look).filter(({ both }) => both === null),
  subject: ({ routes }) => routes.map(({ id }) => id).join(" "),
  where: ({ name }) => name,
  turnouts: ({ threads }) => threads,
  why: ({ name, routes }) => `A press of ${name} asks for routes ${list(routes.map(({ label }) => label))} at once.`,
  remedies: ({ routes }, { record }) => [buttonOfItsOwn(record, routes)],
});

/** A new button for the last of some routes. */
export function buttonOfItsOwn(record: RailwayRecord, routes: readonly Route[]) {
  const last = routes.at(-1);
  return {
    label: `Fit a button of its own for ${last?.label}`,
    group: commandRoutes(record, last ? [last.id] : [], "buttons"),
  };
}

/** Contacts that ask for more than one route. */
export function sharedButtons({ record, threads }: Look): Shared[] {
  const asked = new Map<string, Route[]>();
  for (const route of routesInOrder(record))
    for (const { routeId, deviceId, way, throughId } of record.routeControls) {
      if (routeId !== route.id) continue;
      const key = JSON.stringify([deviceId, way, throughId]);
      asked.set(key, [...(asked.get(key) ?? []), route]);
    }
  return [...asked].flatMap(([key, routes]): Shared[] => {
    if (routes.length < 2) return [];
    const [deviceId, way] = JSON.parse(key) as [string, number | null];
    const turnouts = new Set(routes.flatMap(({ id }) => turnoutsOfRoute(record, id).map(({ turnoutId }) => turnoutId)));
    return [
      {
        name: wayName(deviceOf(record, deviceId).label, way),
        routes,
        both: askedBothWays(record, routes),
        threads: threadsOfTurnouts(threads, turnouts),
      },
    ];
  });
}

/** A turnout that some routes ask for both positions; null where there is none. */
function askedBothWays(record: RailwayRecord, routes: readonly Route[]): string | null {
  const positions = new Map<string, Position>();
  for (const { id } of routes)
    for (const { turnoutId, to } of turnoutsOfRoute(record, id)) {
      const [leader = turnoutId] = movingWith(record, turnoutId);
      if ((positions.get(leader) ?? to) !== to) return leader;
      positions.set(leader, to);
    }
  return null;
}
