import { commandRoutes } from "../equip/routeSchools.ts";
import type { Route } from "../record/routes.ts";
import { controlsOfRoute, routesInOrder, turnoutsOfRoute } from "../routes/routes.ts";
import type { Thread } from "../schematic/thread.ts";
import { rule } from "./rule.ts";
import { threadsOfTurnouts } from "./threadsOf.ts";

interface Unasked {
  route: Route;
  threads: Thread[];
}

export const routeUnasked = rule<Unasked>({
  id: "route-unasked",
  stage: "routes",
  column: null,
  severity: "note",
  title: "Nothing asks for a route",
  about: "A route is there on paper only until a button, a rotary switch, a macro or a message asks for it.",
  look: ({ record, threads }) =>
    routesInOrder(record).flatMap((route): Unasked[] => {
      const own = turnoutsOfRoute(record, route.id);
      if (own.length === 0 || controlsOfRoute(record, route.id).length > 0) return [];
      const ids = new Set(own.map(({ turnoutId }) => turnoutId));
      return [{ route, threads: threadsOfTurnouts(threads, ids) }];
    }),
  subject: ({ route }) => route.id,
  where: ({ route }) => route.label,
  turnouts: ({ threads }) => threads,
  why: ({ route }) => `Nothing asks for route ${route.label}.`,
  remedies: ({ route }, { record }) => [
    { label: "Fit a button", group: commandRoutes(record, [route.id], "buttons") },
    { label: "Keep it as a macro", group: commandRoutes(record, [route.id], "macro") },
  ],
});
