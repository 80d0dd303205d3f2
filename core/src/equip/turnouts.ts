import { typeOf } from "../catalogue/catalogue.ts";
import type { EditGroup } from "../record/edits.ts";
import { find, freshId, turnoutsInOrder } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { recordError } from "../record/problems.ts";
import type { Device, Turnout } from "../record/schemas.ts";
import { asksForRoutes } from "../routes/routes.ts";
import { list } from "../units/format.ts";
import { removeDeviceFrom } from "./devices.ts";
import { Draft } from "./draft.ts";

/** Adds a turnout at the end of the list. */
export function addTurnoutTo(draft: Draft, label: string): Turnout {
  const order = Math.max(0, ...draft.record.turnouts.map((turnout) => turnout.order)) + 1;
  const turnout: Turnout = {
    id: freshId(draft.record, "turnout", label),
    label,
    name: "",
    hand: "unknown",
    zoneId: null,
    movesWith: null,
    runMetres: null,
    order,
    note: "",
  };
  draft.put("turnout", turnout);
  return turnout;
}

/** Removes turnouts with their motors, controls, lamps and tests; what others still use stays. */
export function removeTurnouts(record: RailwayRecord, ids: readonly string[]): EditGroup {
  const draft = new Draft(record);
  const labels: string[] = [];
  for (const id of ids) {
    const turnout = find(draft.record, "turnout", id);
    if (!turnout) throw recordError(`There is no turnout "${id}" to remove.`);
    labels.push(turnout.label);
    const own = draft.record.assignments.filter((a) => "turnoutId" in a && a.turnoutId === id);
    for (const { deviceId } of own) {
      const elsewhere = draft.record.assignments.some(
        (a) => a.deviceId === deviceId && "turnoutId" in a && a.turnoutId !== id,
      );
      const device = find(draft.record, "device", deviceId);
      if (!elsewhere && device && !isShared(draft.record, device)) removeDeviceFrom(draft, deviceId);
    }
    draft.removeWhole("turnout", id);
  }
  return draft.group(`Removed ${list(labels)}`);
}

/** A board or detector that commands a turnout has other work as well, and so has a control that asks for routes. */
function isShared(record: RailwayRecord, device: Device): boolean {
  const { family } = typeOf(record, device);
  return family === "driver" || family === "reader" || asksForRoutes(record, device.id);
}

/** The turnout with a label, whatever its case. */
export function turnoutCalled(record: RailwayRecord, label: string): Turnout | undefined {
  const wanted = label.trim().toLowerCase();
  return turnoutsInOrder(record).find((turnout) => turnout.label.toLowerCase() === wanted);
}
