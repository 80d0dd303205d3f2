import { assignmentsOfTurnout, deviceOf, turnoutOf } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { Device, Turnout } from "../record/schemas.ts";
import { removeDeviceFrom } from "./devices.ts";
import type { Draft } from "./draft.ts";
import { feed } from "./feed.ts";
import { removeHelper, type Source, sourceMeant, sourceText } from "./sources.ts";
import { requireType } from "./typeMeant.ts";

/** Gives a turnout a frog fed by a source, a dead one for null, or states none for undefined. */
export function setFrog(draft: Draft, turnoutId: string, from: Source | null | undefined, crossed = false): void {
  const [present] = assignmentsOfTurnout(draft.record, turnoutId, "frog");
  if (from === undefined) {
    if (present) removeDeviceFrom(draft, present.deviceId);
    if (present?.fromId) removeHelper(draft, present.fromId);
    return;
  }
  const device = present ? deviceOf(draft.record, present.deviceId) : addFrog(draft, turnoutId);
  const old = present?.fromId;
  if (present) draft.remove("assignment", present.id);
  draft.assign("frog", {
    deviceId: device.id,
    turnoutId,
    fromId: from?.deviceId ?? null,
    way: from?.way ?? null,
    crossed,
  });
  if (old && old !== from?.deviceId) removeHelper(draft, old);
}

function addFrog(draft: Draft, turnoutId: string): Device {
  const frog = draft.addDevice("frog", "F", "layout", `${turnoutOf(draft.record, turnoutId).label}F`);
  feed(draft, frog, requireType(draft.record, "frog"));
  return frog;
}

/** What feeds a turnout's frog, as text: "S2", "RY1-S1", "FP1", "dead"; with " crossed" where the rails are exchanged. */
export function readFrog(record: RailwayRecord, turnout: Turnout): string {
  const [frog] = assignmentsOfTurnout(record, turnout.id, "frog");
  if (!frog) return "";
  if (frog.fromId === null) return "dead";
  const source = sourceText(record, turnout, { deviceId: frog.fromId, way: frog.way });
  return frog.crossed ? `${source} crossed` : source;
}

/** Writes what `readFrog` reads; "polarity unit", "relay" or a relay board's name add one. @throws {RecordError} */
export function writeFrog(draft: Draft, turnoutId: string, text: string): void {
  const crossed = /\scrossed$/i.test(text);
  const name = text.replace(/\scrossed$/i, "").trim();
  if (name === "" || name.toLowerCase() === "none") setFrog(draft, turnoutId, undefined);
  else if (name.toLowerCase() === "dead") setFrog(draft, turnoutId, null);
  else setFrog(draft, turnoutId, sourceMeant(draft, turnoutId, name), crossed);
}
