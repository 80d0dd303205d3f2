import { DEVICE_FIELDS } from "./find.ts";
import type { SenseLink } from "./notes.ts";
import type { Problem } from "./problems.ts";
import type { Assignment, RailwayRecord } from "./schemas.ts";

/** How many of each thing a railway may hold; beyond it a file is taken for a mistake. */
export const MOST = {
  zones: 500,
  turnouts: 5_000,
  types: 500,
  devices: 20_000,
  assignments: 50_000,
  tests: 100_000,
  readings: 100_000,
  acceptances: 20_000,
  senses: 50_000,
  facts: 5_000,
  debts: 5_000,
  photos: 200,
} as const;

/**
 * The rules that hold between the things of a record: references lead somewhere, labels are told apart,
 * nothing does one job twice.
 *
 * @returns the problems found, empty when the record is sound; at most ten
 */
export function checkRecord(record: RailwayRecord): Problem[] {
  const problems: Problem[] = [];
  const add = (path: Problem["path"], message: string) => problems.push({ path, message });

  for (const [list, most] of Object.entries(MOST)) {
    const length = record[list as keyof typeof MOST].length;
    if (length > most) add([list], `There are ${length} ${list}; a railway may hold ${most}.`);
  }
  if (problems.length > 0) return problems;

  uniqueLabels(record.zones, "zones", "zone", add);
  uniqueLabels(record.turnouts, "turnouts", "turnout", add);
  uniqueLabels(record.devices, "devices", "device", add);
  checkTurnouts(record, add);
  checkAssignments(record, add);
  const turnouts = new Set(record.turnouts.map((turnout) => turnout.id));
  for (const [index, test] of record.tests.entries()) {
    if (!turnouts.has(test.turnoutId)) add(["tests", index, "turnoutId"], `Test ${test.id} is of no turnout.`);
  }
  for (const [index, { id, turnoutId }] of record.readings.entries()) {
    if (turnoutId && !turnouts.has(turnoutId)) add(["readings", index, "turnoutId"], `Reading ${id} is of no turnout.`);
  }
  checkNotes(record, turnouts, add);
  return problems.slice(0, 10);
}

/** What is written down about turnouts, devices and types must be about some that exist. */
function checkNotes(record: RailwayRecord, turnouts: ReadonlySet<string>, add: Add): void {
  const devices = new Set(record.devices.map((device) => device.id));
  const places = new Set<string>();
  for (const [index, { id, link, deviceId, way, inverts }] of record.senses.entries()) {
    const at = (field: string) => ["senses", index, field];
    if (!devices.has(deviceId)) add(at("deviceId"), `Sense ${id} is of no device.`);
    if (inverts && SAID_BY_ASSIGNMENTS.has(link))
      add(at("inverts"), `Sense ${id}: whether the ${link} is turned stands in the assignment.`);
    const place = `${link} ${deviceId} ${way}`;
    if (places.has(place)) add(["senses", index], `A place is told once only (${id}).`);
    places.add(place);
  }
  const about = { facts: record.facts, photos: record.photos };
  for (const [list, things] of Object.entries(about)) {
    for (const [index, { id, deviceId }] of things.entries())
      if (deviceId !== null && !devices.has(deviceId)) add([list, index, "deviceId"], `"${id}" is of no device.`);
  }
  const ofTurnouts = { debts: record.debts, photos: record.photos };
  for (const [list, things] of Object.entries(ofTurnouts)) {
    for (const [index, { id, turnoutId }] of things.entries())
      if (turnoutId !== null && !turnouts.has(turnoutId)) add([list, index, "turnoutId"], `"${id}" is of no turnout.`);
  }
  for (const [index, { id, deviceId, turnoutId }] of record.photos.entries()) {
    if ((deviceId === null) === (turnoutId === null))
      add(["photos", index], `Photo ${id} must be of one turnout or of one device.`);
  }
}

/** Links whose sense is a field of an assignment. */
export const SAID_BY_ASSIGNMENTS: ReadonlySet<SenseLink> = new Set(["leads", "mounting", "frog", "lamp"]);

type Add = (path: Problem["path"], message: string) => void;

function uniqueLabels(things: readonly { label: string }[], list: string, noun: string, add: Add): void {
  const seen = new Set<string>();
  for (const [index, { label }] of things.entries()) {
    const key = label.toLowerCase();
    if (seen.has(key)) add([list, index, "label"], `There is already a ${noun} called ${label}. Choose another label.`);
    seen.add(key);
  }
}

function checkTurnouts(record: RailwayRecord, add: Add): void {
  const zones = new Set(record.zones.map((zone) => zone.id));
  const turnouts = new Map(record.turnouts.map((turnout) => [turnout.id, turnout]));
  for (const [index, turnout] of record.turnouts.entries()) {
    const at = (field: string) => ["turnouts", index, field];
    if (turnout.zoneId && !zones.has(turnout.zoneId)) {
      add(at("zoneId"), `Turnout ${turnout.label} lies in a zone that does not exist.`);
    }
    if (!turnout.movesWith) continue;
    const leader = turnouts.get(turnout.movesWith);
    if (!leader) add(at("movesWith"), `Turnout ${turnout.label} moves with one that does not exist.`);
    else if (leader.id === turnout.id) add(at("movesWith"), `Turnout ${turnout.label} cannot move with itself.`);
    else if (leader.movesWith) {
      add(at("movesWith"), `${leader.label} follows another turnout already; let ${turnout.label} follow that one.`);
    }
  }
}

function checkAssignments(record: RailwayRecord, add: Add): void {
  const devices = new Set(record.devices.map((device) => device.id));
  const turnouts = new Set(record.turnouts.map((turnout) => turnout.id));
  const deviceFields: readonly string[] = DEVICE_FIELDS;
  const jobs = new Map<string, number>();
  for (const [index, assignment] of record.assignments.entries()) {
    for (const [field, id] of Object.entries(assignment)) {
      if (field === "turnoutId" && !turnouts.has(String(id))) {
        add(["assignments", index, field], `Assignment ${assignment.id} names a turnout that does not exist.`);
      } else if (deviceFields.includes(field) && id !== null && !devices.has(String(id))) {
        add(["assignments", index, field], `Assignment ${assignment.id} names a device that does not exist.`);
      }
    }
    for (const job of soleJobs(assignment)) {
      if (jobs.has(job.key)) add(["assignments", index], `${job.what} (${assignment.id}).`);
      jobs.set(job.key, index);
    }
  }
}

/** What an assignment claims for itself alone. */
function soleJobs(assignment: Assignment): { key: string; what: string }[] {
  switch (assignment.role) {
    case "motor":
      return [
        { key: `motor of ${assignment.turnoutId}`, what: "A turnout has one motor only" },
        { key: `turnout of ${assignment.deviceId}`, what: "A motor moves one turnout only" },
      ];
    case "driver":
      return [{ key: `driver of ${assignment.motorId}`, what: "A motor has one driver only" }];
    case "control":
      return [
        {
          key: `control ${assignment.deviceId} ${assignment.way} of ${assignment.turnoutId}`,
          what: "A control commands a turnout once only",
        },
      ];
    case "lamp":
      return [
        { key: `lamp of ${assignment.turnoutId}`, what: "A turnout has one lamp only" },
        { key: `turnout of lamp ${assignment.deviceId}`, what: "A lamp shows one turnout only" },
      ];
    case "frog":
      return [
        { key: `frog of ${assignment.turnoutId}`, what: "A turnout has one frog only" },
        { key: `turnout of frog ${assignment.deviceId}`, what: "A frog lies in one turnout only" },
      ];
    case "input":
      return [
        { key: `input ${assignment.deviceId} ${assignment.way}`, what: "An input reads one thing only" },
        { key: `inputs of ${assignment.controlId}`, what: "A control is read by one board only" },
      ];
    case "block":
      return [{ key: `block ${assignment.deviceId} ${assignment.way}`, what: "A zone watches one block only" }];
    case "supply":
      return [{ key: `supply of ${assignment.toDeviceId}`, what: "A device has one supply only" }];
    case "commands":
      return [{ key: `commands of ${assignment.toDeviceId}`, what: "A board takes its commands from one place only" }];
    case "address":
      return [{ key: `address of ${assignment.deviceId} ${assignment.way}`, what: "An output has one address only" }];
  }
}
