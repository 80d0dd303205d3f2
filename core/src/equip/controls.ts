import { findType, typeOf } from "../catalogue/catalogue.ts";
import { namedWays, waysToCommand } from "../catalogue/checkTypes.ts";
import { readingInputs } from "../catalogue/deviceType.ts";
import { assignmentsOfDevice, assignmentsOfTurnout, deviceOf, find, turnoutOf } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { recordError } from "../record/problems.ts";
import type { AssignmentOf, Device, Position, Turnout } from "../record/schemas.ts";
import { asksForRoutes } from "../routes/routes.ts";
import { inputOf } from "../schematic/thread.ts";
import { removeDeviceFrom } from "./devices.ts";
import type { Draft } from "./draft.ts";
import { feed } from "./feed.ts";
import { singleBlanks } from "./singleBlanks.ts";
import { requireType, typeMeant } from "./typeMeant.ts";

/** A control that a turnout is to have: a new one of a type or a device that is there, and how it commands. */
export interface WantedControl {
  device: { typeId: string } | { deviceId: string };
  way?: number | null;
  to?: Position | null;
  inverse?: boolean;
  follows?: boolean;
  /** The board with numbered inputs that reads it, and the first of them; null for none, as it is when not said. */
  by?: { deviceId: string; way: number } | null;
}

/** Gives a turnout controls instead of those it has. A control that commands nothing any more goes. */
export function setControls(draft: Draft, turnoutId: string, wanted: readonly WantedControl[]): void {
  const present = assignmentsOfTurnout(draft.record, turnoutId, "control");
  const kept = new Set<string>();
  for (const [index, each] of wanted.entries()) {
    const before = present[index];
    const device = deviceFor(draft, turnoutId, each, before);
    if (before) draft.remove("assignment", before.id);
    kept.add(device.id);
    const { way = null, to = null, inverse = false, follows = false } = each;
    draft.assign("control", { deviceId: device.id, turnoutId, way, to, inverse, follows });
    feed(draft, device, typeOf(draft.record, device));
    if (each.by === undefined) continue;
    const reader = inputOf(draft.record, device.id, way);
    if (reader) draft.remove("assignment", reader.id);
    if (each.by) draft.assign("input", { ...each.by, controlId: device.id, controlWay: way });
  }
  for (const each of present.slice(wanted.length)) draft.remove("assignment", each.id);
  for (const { deviceId, way } of present) {
    freeReader(draft, deviceId, way);
    if (!kept.has(deviceId)) removeUnused(draft, deviceId);
  }
}

/** Takes one of a turnout's controls away, and leaves the others as they are. @param assignmentId what makes it one */
export function takeControlAway(draft: Draft, turnoutId: string, assignmentId: string): void {
  const rest = assignmentsOfTurnout(draft.record, turnoutId, "control").filter(({ id }) => id !== assignmentId);
  setControls(
    draft,
    turnoutId,
    rest.map(({ deviceId, way, to, inverse, follows }) => ({ device: { deviceId }, way, to, inverse, follows })),
  );
}

/** What reads a control, or one way of it, that commands nothing any more has nothing to read. */
function freeReader(draft: Draft, controlId: string, way: number | null): void {
  const commands =
    assignmentsOfDevice(draft.record, controlId).some((a) => a.role === "control" && a.way === way) ||
    asksForRoutes(draft.record, controlId, way);
  if (!commands) draft.unassign((a) => a.role === "input" && a.controlId === controlId && a.controlWay === way);
}

/** Ways of a control by which it commands other turnouts; null among them where it has none. */
function othersWith(record: RailwayRecord, deviceId: string, turnoutId: string): (number | null)[] {
  return assignmentsOfDevice(record, deviceId).flatMap((a) =>
    a.role === "control" && a.turnoutId !== turnoutId ? [a.way] : [],
  );
}

function deviceFor(
  draft: Draft,
  turnoutId: string,
  { device }: WantedControl,
  before: AssignmentOf<"control"> | undefined,
): Device {
  if ("deviceId" in device) {
    const known = find(draft.record, "device", device.deviceId);
    if (!known) throw recordError(`There is no device "${device.deviceId}".`);
    return known;
  }
  const type = requireType(draft.record, device.typeId);
  const old = before && deviceOf(draft.record, before.deviceId);
  const kind = old && typeOf(draft.record, old);
  const shared = old && (othersWith(draft.record, old.id, turnoutId).length > 0 || asksForRoutes(draft.record, old.id));
  // a label that tells the kind would be wrong on another; and what other turnouts have stays what it is
  if (old && !shared && kind?.family === "control" && kind.prefix === type.prefix) {
    draft.put("device", { ...old, typeId: type.id });
    return { ...old, typeId: type.id };
  }
  return draft.addDevice(type.id, type.prefix, type.place);
}

/** A switch or button that commands nothing and asks for no route is taken away; a board or detector has other work. */
export function removeUnused(draft: Draft, deviceId: string): void {
  const device = find(draft.record, "device", deviceId);
  if (!device || typeOf(draft.record, device).family !== "control") return;
  const commands = assignmentsOfDevice(draft.record, deviceId).some((a) => a.role === "control");
  if (!commands && !asksForRoutes(draft.record, deviceId)) removeDeviceFrom(draft, deviceId);
}

/**
 * A turnout's controls as text, several parted by " + ".
 * @example "T1", "T1 + T2 inverse", "B1 by IN1-3", "BD1-1 to N + BD1-2 to R", "BD1-1 follows by FE1-4"
 */
export function readControls(record: RailwayRecord, turnout: Turnout): string {
  return assignmentsOfTurnout(record, turnout.id, "control")
    .map(({ deviceId, way, to, inverse, follows }) => {
      const input = inputOf(record, deviceId, way);
      const words = [`${deviceOf(record, deviceId).label}${way === null ? "" : `-${way}`}`];
      if (inverse) words.push("inverse");
      if (follows) words.push("follows");
      if (to) words.push(`to ${to}`);
      if (input) words.push(`by ${deviceOf(record, input.deviceId).label}-${input.way}`);
      return words.join(" ");
    })
    .join(" + ");
}

/**
 * Writes what `readControls` reads; a type's name in place of a label fits a new one. What reads a control that other
 * turnouts have as well stays when nothing is said of it; "by none" takes it away from all.
 * @throws {RecordError}
 */
export function writeControls(draft: Draft, turnoutId: string, text: string): void {
  const none = text === "" || text.toLowerCase() === "none";
  const parts = none ? [] : text.split(/\s\+\s/);
  setControls(
    draft,
    turnoutId,
    parts.map((part) => controlMeant(draft, turnoutOf(draft.record, turnoutId), part.trim())),
  );
}

function controlMeant(draft: Draft, turnout: Turnout, text: string): WantedControl {
  const [, head = "", by] = /^(.*?)(?: by (\S+))?$/i.exec(singleBlanks(text)) ?? [];
  const [, named = "", to] = /^(.*?)(?: to ([nr]))?$/i.exec(head) ?? [];
  const [, called = "", ...marks] = /^(.*?)(\sinverse)?(\sfollows)?$/i.exec(named) ?? [];
  const name = called.trim();
  const how = {
    to: to ? (to.toUpperCase() as Position) : null,
    inverse: marks[0] !== undefined,
    follows: marks[1] !== undefined,
  };
  if (how.follows && how.to)
    throw recordError(`"${text}" asks for one position and follows as well. Leave one of the two out.`);
  const read = (deviceId: string, way: number | null): WantedControl => {
    // what reads a control that other turnouts have as well stays until it is said otherwise
    const shared = othersWith(draft.record, deviceId, turnout.id).includes(way);
    return { device: { deviceId }, way, ...how, ...(shared && !by ? {} : { by: readerMeant(draft.record, by) }) };
  };
  const device = deviceCalled(draft.record, name);
  if (device) {
    const type = typeOf(draft.record, device);
    if (type.family === "control") return read(device.id, null);
    if (type.zones === 1) return read(device.id, 1);
    throw recordError(
      `Say which ${type.zones ? "zone" : "output"} of ${device.label} commands ${turnout.label}, as "${device.label}-1".`,
    );
  }
  const numbered = /^(.+)-\d{1,2}$/.exec(name);
  if (numbered && deviceCalled(draft.record, numbered[1] ?? "")) {
    const { deviceId, way } = wayOf(draft.record, name, "control");
    return read(deviceId, way);
  }
  const { id: typeId } = typeMeant(draft.record, "control", name);
  return { device: { typeId }, way: null, ...how, by: readerMeant(draft.record, by) };
}

/** The input that is meant by what stands behind "by"; null for none. */
function readerMeant(record: RailwayRecord, text: string | undefined): NonNullable<WantedControl["by"]> | null {
  return text === undefined || text.toLowerCase() === "none" ? null : wayOf(record, text, "input");
}

/** A device and one of its ways from text as "D1-3". @param use what the way is wanted for */
export function wayOf(
  record: RailwayRecord,
  text: string,
  use: "input" | "control" | "output",
): { deviceId: string; way: number } {
  const [, label = "", digits = ""] = /^(.+)-S?(\d{1,2})$/i.exec(text) ?? [];
  const device = deviceCalled(record, label);
  const type = device && findType(record, device.typeId);
  if (!device || !type) throw recordError(`"${text}" names no ${use}; type the board's label and the number, as D1-3.`);
  const most = {
    input: readingInputs(type),
    control: waysToCommand(type),
    output: Math.max(type.outputs, type.contactSets),
  }[use];
  const way = Number(digits);
  if (way < 1 || way > most) {
    const ways = use === "control" ? namedWays(type) : `${use}s`;
    throw recordError(
      most === 0
        ? `${device.label} has no numbered ${ways}.`
        : `${device.label} has ${ways} 1 to ${most}; there is no ${text}.`,
    );
  }
  return { deviceId: device.id, way };
}

/** The device with a label, whatever its case. */
export function deviceCalled(record: RailwayRecord, label: string): Device | undefined {
  const wanted = label.trim().toLowerCase();
  return record.devices.find((device) => device.label.toLowerCase() === wanted);
}
