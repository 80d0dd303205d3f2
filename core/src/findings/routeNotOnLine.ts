import { setInRoute } from "../equip/routes.ts";
import { lineLayout } from "../line/layout.ts";
import type { Lie } from "../line/topology.ts";
import { offTheWay } from "../line/yards.ts";
import { find } from "../record/find.ts";
import type { Route } from "../record/routes.ts";
import { routesInOrder, turnoutsOfRoute } from "../routes/routes.ts";
import type { Thread } from "../schematic/thread.ts";
import { list } from "../units/format.ts";
import { rule } from "./rule.ts";
import { threadsOfTurnouts } from "./threadsOf.ts";

interface OffTheLine {
  route: Route;
  /** Turnouts that no train passes on the way which the others make. */
  left: string[];
  against: string | null;
  threads: Thread[];
}

export const routeNotOnLine = rule<OffTheLine>({
  id: "route-not-on-line",
  stage: "routes",
  column: null,
  severity: "look",
  title: "A route that the line does not allow",
  about:
    "The turnouts of a route make one way for a train. By the line diagram the rule follows the way that they make, in both directions from the first of them, and names those that no train comes to, or that it would run against. A turnout that protects the way from a track beside it is set on purpose: keep the finding with that reason.",
  look: ({ record, threads }) =>
    routesInOrder(record).flatMap((route): OffTheLine[] => {
      const own = turnoutsOfRoute(record, route.id);
      if (own.length < 2 || lineLayout(record).junctions.length === 0) return [];
      const lies = new Map(
        own.map(({ turnoutId, to }): [string, Lie] => [turnoutId, to === "N" ? "normal" : "reverse"]),
      );
      const { left, against } = offTheWay(record, lies);
      if (left.length === 0) return [];
      return [{ route, left, against, threads: threadsOfTurnouts(threads, new Set(left)) }];
    }),
  subject: ({ route }) => route.id,
  where: ({ route }) => route.label,
  turnouts: ({ threads }) => threads,
  why: ({ route, left, against, threads }) => {
    const labels = new Map(
      threads.flatMap(({ turnout, followers }) => [turnout, ...followers].map(({ id, label }) => [id, label])),
    );
    const names = list(left.map((id) => labels.get(id) ?? id));
    const run =
      against !== null && left.includes(against) ? `; it would run against ${labels.get(against) ?? against}` : "";
    return `On the way that route ${route.label} makes, no train passes ${names}${run}.`;
  },
  remedies: ({ route, left }, { record }) => {
    const [only] = left;
    if (left.length !== 1 || only === undefined) return [];
    const own = turnoutsOfRoute(record, route.id).find(({ turnoutId }) => turnoutId === only);
    const label = find(record, "turnout", only)?.label ?? only;
    const other = own?.to === "N" ? "R" : "N";
    return [
      { label: `${label} to ${other} in ${route.label}`, group: setInRoute(record, route.id, only, other) },
      { label: `Leave ${label} out of ${route.label}`, group: setInRoute(record, route.id, only, null) },
    ];
  },
});
