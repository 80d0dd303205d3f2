import type { EditGroup } from "../record/edits.ts";
import { find, freshId } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { recordError } from "../record/problems.ts";
import type { RouteControl } from "../record/routes.ts";
import type { Position } from "../record/schemas.ts";
import { asksForRoutes, controlsOfRoute, turnoutsOfRoute } from "../routes/routes.ts";
import { removeUnused } from "./controls.ts";
import { Draft } from "./draft.ts";

/** A route as it is to be: what it is called, and how turnouts lie in it. */
export interface WantedRoute {
  label: string;
  settings: readonly { turnoutId: string; to: Position }[];
}

/** Adds routes after those that are there. One that is there by its label gets the settings instead of its own. */
export function addRoutes(record: RailwayRecord, wanted: readonly WantedRoute[]): EditGroup {
  const draft = new Draft(record);
  for (const each of wanted) putRoute(draft, each);
  const [first] = wanted;
  const words =
    wanted.length === 1 ? `Added route ${first?.label}` : `Added ${wanted.length} routes, ${first?.label} and on`;
  return draft.group(words);
}

function putRoute(draft: Draft, { label, settings }: WantedRoute): string {
  const { record } = draft;
  const known = record.routes.find((route) => route.label.toLowerCase() === label.toLowerCase());
  const order = record.routes.reduce((most, route) => Math.max(most, route.order + 1), 0);
  const id = known?.id ?? freshId(record, "route", label);
  if (!known) draft.put("route", { id, label, name: "", order });
  for (const each of turnoutsOfRoute(record, id)) draft.remove("routeTurnout", each.id);
  for (const { turnoutId, to } of settings) putSetting(draft, id, turnoutId, to);
  return id;
}

function putSetting(draft: Draft, routeId: string, turnoutId: string, to: Position): void {
  const known = turnoutsOfRoute(draft.record, routeId).find((each) => each.turnoutId === turnoutId);
  const id = known?.id ?? freshId(draft.record, "routeTurnout", `${routeId}-${turnoutId}`);
  draft.put("routeTurnout", { id, routeId, turnoutId, to });
}

/** Has a route set a turnout to a position, or leave it as it lies (null). */
export function setInRoute(
  record: RailwayRecord,
  routeId: string,
  turnoutId: string,
  to: Position | null,
): EditGroup | null {
  const route = find(record, "route", routeId);
  const turnout = find(record, "turnout", turnoutId);
  if (!route || !turnout) throw recordError("There is no such route or turnout.");
  const known = turnoutsOfRoute(record, routeId).find((each) => each.turnoutId === turnoutId);
  if ((known?.to ?? null) === to) return null;
  const draft = new Draft(record);
  if (to !== null) putSetting(draft, routeId, turnoutId, to);
  else if (known) draft.remove("routeTurnout", known.id);
  return draft.group(
    `${route.label}: ${to === null ? `leaves ${turnout.label} as it lies` : `${turnout.label} to ${to}`}`,
  );
}

/** Calls a route by another name. */
export function renameRoute(record: RailwayRecord, routeId: string, label: string, name?: string): EditGroup {
  const route = find(record, "route", routeId);
  if (!route) throw recordError("There is no such route.");
  const draft = new Draft(record);
  draft.put("route", { ...route, label, name: name ?? route.name });
  return draft.group(`Route ${route.label} is called ${label}`);
}

/** Takes routes away, with buttons that ask for nothing else then. Parts of boards that were made stay. */
export function removeRoutes(record: RailwayRecord, routeIds: readonly string[]): EditGroup {
  const draft = new Draft(record);
  const labels = routeIds.flatMap((id) => find(record, "route", id)?.label ?? []);
  for (const id of routeIds) {
    unask(draft, id);
    draft.removeWhole("route", id);
  }
  return draft.group(`Removed ${labels.length === 1 ? `route ${labels[0]}` : `${labels.length} routes`}`);
}

/** Takes away what asks for a route; a button that asks for nothing else goes. */
export function unask(draft: Draft, routeId: string): void {
  for (const { id, deviceId, way, throughId } of controlsOfRoute(draft.record, routeId)) {
    draft.remove("routeControl", id);
    if (!asksForRoutes(draft.record, deviceId, way))
      draft.unassign((a) => a.role === "input" && a.controlId === deviceId && a.controlWay === way);
    for (const each of [deviceId, throughId]) if (each) removeUnused(draft, each);
  }
}

/** Has one thing more ask for a route; it is joined to no board yet. */
export function putControl(
  draft: Draft,
  routeId: string,
  asking: Pick<RouteControl, "deviceId" | "way" | "throughId">,
): void {
  const id = freshId(draft.record, "routeControl", `${routeId}-${asking.deviceId}-${asking.way ?? ""}`);
  draft.put("routeControl", { id, routeId, ...asking });
}
