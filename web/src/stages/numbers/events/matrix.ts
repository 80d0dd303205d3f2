import type { EventAction, EventLink, EventPlan } from "@alderman/core";

/** Where one is in the matrix: an event, and an output that may act upon it. */
export interface Place {
  row: number;
  column: number;
}

/** Links by event and output, so that a cell finds its own at once. */
export function linksByCell({ links }: EventPlan): ReadonlyMap<string, EventLink> {
  return new Map(links.map((link) => [cellKey(link.eventId, link), link]));
}

/**
 * What of a plan has a word in it: events and outputs that it names, with what acts upon these events and what these outputs
 * act upon. All of it for no word.
 */
export function narrowed(plan: EventPlan, word: string): EventPlan {
  const wanted = word.trim().toLowerCase();
  if (wanted === "") return plan;
  const has = (...texts: string[]) => texts.some((text) => text.toLowerCase().includes(wanted));
  const named = new Set(plan.events.flatMap(({ id, label }) => (has(label) ? [id] : [])));
  const nameOf = ({ deviceId, way }: { deviceId: string; way: number }) => `${deviceId} ${way}`;
  const own = new Set(plan.outputs.flatMap((output) => (has(output.label, output.drives) ? [nameOf(output)] : [])));
  const events = new Set(named);
  const outputs = new Set(own);
  for (const link of plan.links) {
    if (own.has(nameOf(link))) events.add(link.eventId);
    if (named.has(link.eventId)) outputs.add(nameOf(link));
  }
  return {
    ...plan,
    events: plan.events.filter(({ id }) => events.has(id)),
    outputs: plan.outputs.filter((output) => outputs.has(nameOf(output))),
  };
}

/** What a cell is known by. */
export function cellKey(eventId: string, { deviceId, way }: { deviceId: string; way: number }): string {
  return `${eventId}|${deviceId}|${way}`;
}

/** Keys that say what an output does, and those that go on through all of it. */
const ACTIONS: Record<string, EventAction | null> = {
  a: "acts",
  i: "inverted",
  o: "on",
  f: "off",
  Delete: null,
  Backspace: null,
};
const ORDER: readonly (EventAction | null)[] = [null, "acts", "inverted", "on", "off"];

/**
 * What a key makes of a cell.
 * @returns undefined for a key that says nothing of it
 */
export function actionByKey(key: string, now: EventAction | null): EventAction | null | undefined {
  if (key === "Enter" || key === " ") return ORDER[(ORDER.indexOf(now) + 1) % ORDER.length];
  const action = ACTIONS[key.length === 1 ? key.toLowerCase() : key];
  return action === undefined ? undefined : action;
}

/** Where a key goes from a place; null for a key that goes nowhere. @param page rows that are seen at once */
export function placeByKey(
  key: string,
  { row, column }: Place,
  rows: number,
  columns: number,
  page: number,
): Place | null {
  const to = (place: Place): Place => ({
    row: Math.min(Math.max(place.row, 0), rows - 1),
    column: Math.min(Math.max(place.column, 0), columns - 1),
  });
  switch (key) {
    case "ArrowUp":
      return to({ row: row - 1, column });
    case "ArrowDown":
      return to({ row: row + 1, column });
    case "ArrowLeft":
      return to({ row, column: column - 1 });
    case "ArrowRight":
      return to({ row, column: column + 1 });
    case "PageUp":
      return to({ row: row - page, column });
    case "PageDown":
      return to({ row: row + page, column });
    case "Home":
      return to({ row, column: 0 });
    case "End":
      return to({ row, column: columns - 1 });
    default:
      return null;
  }
}
