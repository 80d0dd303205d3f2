import { type Change, differenceOf } from "./difference.ts";
import { find } from "./find.ts";
import { KIND_ENTRIES, type Kind, type KindEntry, type RailwayRecord, thingsOf } from "./kinds.ts";
import type { SenseLink } from "./notes.ts";
import type { Problem } from "./problems.ts";
import type { Assignment } from "./schemas.ts";

/**
 * The rules that hold between the things of a record: references lead somewhere, labels are told apart,
 * nothing does one job twice.
 *
 * @param sound a record that breaks no rule; of lists that are the same ones only that is looked at again in which the others
 *   matter
 * @returns the problems found, empty when the record is sound; at most ten
 */
export function checkRecord(record: RailwayRecord, sound?: RailwayRecord): Problem[] {
  const problems: Problem[] = [];
  const add = (path: Problem["path"], message: string) => problems.push({ path, message });

  for (const [kind, { list, most }] of KIND_ENTRIES) {
    const { length } = thingsOf(record, kind);
    if (length > most) add([list], tooMany(length, list, most));
  }
  if (problems.length > 0) return problems;

  const isSame = (kind: Kind) => sound !== undefined && thingsOf(record, kind) === thingsOf(sound, kind);
  const changes = new Map(
    KIND_ENTRIES.map(([kind]): [Kind, Change<{ id: string }>] => [
      kind,
      sound ? differenceOf(sound, record, kind) : { gone: [], come: thingsOf(record, kind) },
    ]),
  );
  const lost = new Map(
    [...changes].flatMap(([kind, change]): [Kind, ReadonlySet<string>][] => {
      const own = lostIn(change);
      return own.size > 0 ? [[kind, own]] : [];
    }),
  );
  for (const [kind, entry] of KIND_ENTRIES) {
    const things = thingsOf(record, kind);
    if (entry.labelled && !isSame(kind)) uniqueLabels(things as { id: string; label: string }[], entry.list, kind, add);
    // what was sound still is, unless what it names is gone
    const come = changes.get(kind)?.come ?? [];
    const fresh = new Set(come);
    const isThere = (thing: object, to: Kind, id: string) =>
      fresh.has(thing as { id: string }) ? find(record, to, id) !== undefined : !lost.get(to)?.has(id);
    const isDoubtful = Object.values(entry.refs ?? {}).some(({ to }) => lost.has(to));
    references(things, isDoubtful ? things : come, kind, entry, isThere, add);
  }
  for (const { of, check } of CHECKS) if (!sound || of.some((list) => record[list] !== sound[list])) check(record, add);
  return problems.slice(0, 10);
}

/** Identifiers of what is no longer there. */
function lostIn({ gone, come }: Change<{ id: string }>): ReadonlySet<string> {
  const lost = new Set(gone.map(({ id }) => id));
  for (const { id } of come) lost.delete(id);
  return lost;
}

/** A reserved range begins before it ends, an output answers to one address only, and a setting is there once. */
function checkNumbers({ reserves, answers, settings }: RailwayRecord, add: Add): void {
  const named = new Set<string>();
  for (const [index, { deviceId, way, name }] of settings.entries()) {
    const setting = `${deviceId} ${way} ${name.toLowerCase()}`;
    if (named.has(setting)) add(["settings", index], `The setting ${name} of ${deviceId} is there twice.`);
    named.add(setting);
  }
  for (const [index, { first, last, what }] of reserves.entries())
    if (first > last)
      add(["reserves", index, "last"], `The range for ${what} ends at ${last}, before it begins at ${first}.`);
  const seen = new Set<string>();
  for (const [index, { deviceId, way }] of answers.entries()) {
    const output = `${deviceId} ${way}`;
    if (seen.has(output)) add(["answers", index], `Output ${way} of ${deviceId} answers to two addresses.`);
    seen.add(output);
  }
}

/** A turnout lies at one place of the line, and a place has one turnout, or a first and a second. */
function checkLine({ spots }: RailwayRecord, add: Add): void {
  const [turnouts, places] = [new Set<string>(), new Set<string>()];
  for (const [index, { turnoutId, x, y, second }] of spots.entries()) {
    if (turnouts.has(turnoutId)) add(["spots", index], `Turnout ${turnoutId} lies at two places of the line.`);
    turnouts.add(turnoutId);
    const place = `${x} ${y} ${second}`;
    if (places.has(place)) add(["spots", index], `Two turnouts lie at ${x}, ${y} of the line.`);
    places.add(place);
  }
}

/** A route names a turnout once and is asked for once by one thing, and two places of a board have one part between them. */
function checkRoutes({ routeTurnouts, routeControls, boardParts }: RailwayRecord, add: Add): void {
  once(
    add,
    "routeTurnouts",
    routeTurnouts,
    ({ routeId, turnoutId }) => `${routeId} ${turnoutId}`,
    ({ routeId, turnoutId }) => `Route ${routeId} names turnout ${turnoutId} twice.`,
  );
  once(
    add,
    "routeControls",
    routeControls,
    ({ routeId, deviceId, way, throughId }) => `${routeId} ${deviceId} ${way} ${throughId}`,
    ({ routeId, deviceId }) => `Route ${routeId} is asked for twice by ${deviceId}.`,
  );
  for (const [index, { id, deviceId, throughId }] of routeControls.entries())
    if (deviceId === throughId)
      add(["routeControls", index, "throughId"], `Two buttons are held at once (${id}): name two of them.`);
  once(
    add,
    "boardParts",
    boardParts,
    ({ deviceId, from, to }) => `${deviceId} ${[from, to].sort().join(" ")}`,
    ({ deviceId, from, to }) => `Two parts lie between ${from} and ${to} of ${deviceId}.`,
  );
  for (const [index, { deviceId, from, to }] of boardParts.entries())
    if (from === to) add(["boardParts", index, "to"], `A part of ${deviceId} leads from ${from} to itself.`);
}

/** Says what is there a second time under one name. */
function once<T>(
  add: Add,
  list: string,
  things: readonly T[],
  nameOf: (thing: T) => string,
  problem: (thing: T) => string,
): void {
  const seen = new Set<string>();
  for (const [index, thing] of things.entries()) {
    const name = nameOf(thing);
    if (seen.has(name)) add([list, index], problem(thing));
    seen.add(name);
  }
}

/** No two events go by one number, an input produces one event, and an output has one answer to an event. */
function checkEvents({ events, producers, consumers, taught }: RailwayRecord, add: Add): void {
  once(
    add,
    "events",
    events,
    ({ nodeId, number }) => `${nodeId} ${number}`,
    ({ label, number }) => `Event ${label} has number ${number}, as another event of its kind has.`,
  );
  once(
    add,
    "producers",
    producers,
    ({ deviceId, way }) => `${deviceId} ${way}`,
    ({ deviceId, way }) => `Input ${way} of ${deviceId} produces two events.`,
  );
  once(
    add,
    "consumers",
    consumers,
    ({ deviceId, way, eventId }) => `${deviceId} ${way} ${eventId}`,
    ({ deviceId, way, eventId }) => `Output ${way} of ${deviceId} acts twice upon ${eventId}.`,
  );
  once(
    add,
    "taught",
    taught,
    ({ deviceId, way, node, number }) => `${deviceId} ${way} ${node} ${number}`,
    ({ deviceId, way, node, number }) => `Output ${way} of ${deviceId} was taught event ${node}, ${number} twice.`,
  );
}

/** The sentence for a list that holds more than it may. */
export function tooMany(length: number, list: string, most: number): string {
  return `There are ${length} ${list}; a railway may hold ${most}.`;
}

/** Every identifier of another thing must lead to one. @param doubtful those of the things that are to be looked at */
function references(
  things: readonly { id: string }[],
  doubtful: readonly { id: string }[],
  kind: string,
  { list, refs = {} }: KindEntry,
  isThere: (thing: object, kind: Kind, id: string) => boolean,
  add: Add,
): void {
  const fields = Object.entries(refs);
  if (fields.length === 0) return;
  for (const thing of doubtful) {
    for (const [field, { to }] of fields) {
      const id = (thing as Record<string, unknown>)[field];
      if (id === undefined || id === null || isThere(thing, to, String(id))) continue;
      const { label = thing.id } = thing as { label?: string };
      add(
        [list, things.indexOf(thing), field],
        `The ${kind} ${label} names a ${to} that does not exist (${String(id)}).`,
      );
    }
  }
}

/** Wires end where something is, bear numbers of their own, and no two are one core. */
function checkWires({ wires, strips, cables }: RailwayRecord, add: Add): void {
  const waysOf = new Map(strips.map(({ id, ways }) => [id, ways]));
  const coresOf = new Map(cables.map(({ id, cores }) => [id, cores]));
  const numbers = new Set<number>();
  const taken = new Map<string, Set<number>>();
  for (const [index, wire] of wires.entries()) {
    const { number, cableId, core, outAt } = wire;
    if (numbers.has(number))
      add(["wires", index, "number"], `Two wires are called W${number}. Give one of them another number.`);
    numbers.add(number);
    const from = wrongAtEnd(wire.fromDeviceId, wire.fromTerminal, wire.fromStripId, wire.fromWay, waysOf);
    if (from !== null) add(["wires", index, "fromWay"], `W${number} ${from}`);
    const to = wrongAtEnd(wire.toDeviceId, wire.toTerminal, wire.toStripId, wire.toWay, waysOf);
    if (to !== null) add(["wires", index, "toWay"], `W${number} ${to}`);
    if ((cableId === null) !== (core === null))
      add(["wires", index, "core"], `W${number} is in a cable: say which core it is.`);
    if (cableId === null || core === null || outAt !== null) continue;
    const cores = coresOf.get(cableId);
    if (cores !== undefined && core > cores)
      add(["wires", index, "core"], `W${number} is core ${core} of a cable of ${cores}.`);
    const others = taken.get(cableId);
    if (others?.has(core)) add(["wires", index, "core"], `W${number} is the same core of a cable as another wire.`);
    if (others) others.add(core);
    else taken.set(cableId, new Set([core]));
  }
}

/** What is wrong at an end of a wire: it is at a terminal of a device, at a way of a strip, or loose; null when nothing is. */
function wrongAtEnd(
  deviceId: string | null,
  terminal: string | null,
  stripId: string | null,
  way: number | null,
  waysOf: ReadonlyMap<string, number>,
): string | null {
  if (deviceId !== null && stripId !== null) return "cannot end at a device and at a strip at once.";
  if (deviceId !== null && terminal === null) return "ends at a device: say at which terminal.";
  if ((stripId === null) !== (way === null)) return "ends at a strip: say at which of its ways.";
  const ways = stripId === null ? undefined : waysOf.get(stripId);
  return ways !== undefined && way !== null && way > ways ? `ends at way ${way} of a strip of ${ways}.` : null;
}

/** What is written down about places, turnouts and devices must be said once, and where it belongs. */
function checkNotes(record: RailwayRecord, add: Add): void {
  const places = new Set<string>();
  for (const [index, { id, link, deviceId, way, inverts }] of record.senses.entries()) {
    if (inverts && SAID_BY_ASSIGNMENTS.has(link))
      add(["senses", index, "inverts"], `Sense ${id}: whether the ${link} is turned is stated by the assignment.`);
    const place = `${link} ${deviceId} ${way}`;
    if (places.has(place)) add(["senses", index], `A place has one entry in the sense ledger only (${id}).`);
    places.add(place);
  }
  for (const [index, { id, deviceId, turnoutId }] of record.photos.entries()) {
    if ((deviceId === null) === (turnoutId === null))
      add(["photos", index], `Photo ${id} must be of one turnout or of one device.`);
  }
}

/** A colour is said once of each purpose and of each lead, and a thing has one entry in the stock. */
function checkCustoms({ customs, stocks }: RailwayRecord, add: Add): void {
  const said = new Set<string>();
  for (const [index, { id, purpose, deviceId, terminal }] of customs.entries()) {
    const isLead = deviceId !== null && terminal !== null;
    if ((purpose !== null) === isLead || (deviceId === null) !== (terminal === null))
      add(["customs", index], `Colour ${id} must be of one purpose, or of one terminal of a device.`);
    const what = purpose ?? `${deviceId}:${terminal}`;
    if (said.has(what)) add(["customs", index], `The colour of ${what} is said twice (${id}).`);
    said.add(what);
  }
  const things = new Set<string>();
  for (const [index, { thing }] of stocks.entries()) {
    if (things.has(thing)) add(["stocks", index, "thing"], `The stock holds "${thing}" twice. Add the two up.`);
    things.add(thing);
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
  const turnouts = new Map(record.turnouts.map((turnout) => [turnout.id, turnout]));
  for (const [index, turnout] of record.turnouts.entries()) {
    const leader = turnout.movesWith && turnouts.get(turnout.movesWith);
    if (!leader) continue;
    const path = ["turnouts", index, "movesWith"];
    if (leader.id === turnout.id) add(path, `Turnout ${turnout.label} cannot move with itself.`);
    else if (leader.movesWith)
      add(path, `${leader.label} follows another turnout already; let ${turnout.label} follow that one.`);
  }
}

function checkJobs(record: RailwayRecord, add: Add): void {
  const jobs = new Set<string>();
  for (const [index, assignment] of record.assignments.entries()) {
    for (const job of soleJobs(assignment)) {
      if (jobs.has(job.key)) add(["assignments", index], `${job.what} (${assignment.id}).`);
      jobs.add(job.key);
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
      return [{ key: `turnout of lamp ${assignment.deviceId}`, what: "A lamp shows one turnout only" }];
    case "frog":
      return [
        { key: `frog of ${assignment.turnoutId}`, what: "A turnout has one frog only" },
        { key: `turnout of frog ${assignment.deviceId}`, what: "A frog lies in one turnout only" },
      ];
    case "input":
      return [
        { key: `input ${assignment.deviceId} ${assignment.way}`, what: "An input reads one thing only" },
        {
          key: `inputs of ${assignment.controlId} ${assignment.controlWay} at ${assignment.deviceId}`,
          what: "A board reads a control once only",
        },
      ];
    case "block":
      return [{ key: `block ${assignment.deviceId} ${assignment.way}`, what: "A zone watches one block only" }];
    case "resistor":
      return [
        {
          key: `piece ${assignment.deviceId} ${assignment.way}`,
          what: "A piece of a resistor board serves one lamp only",
        },
        { key: `resistor of ${assignment.lampId}`, what: "A lamp's common goes through one piece only" },
      ];
    case "lock":
      return [
        {
          key: `lock of ${assignment.controlId} ${assignment.controlWay}`,
          what: "A control is locked out by one thing only",
        },
      ];
    case "supply":
      return [{ key: `supply of ${assignment.toDeviceId}`, what: "A device has one supply only" }];
    case "commands":
      return [{ key: `commands of ${assignment.toDeviceId}`, what: "A board takes its commands from one place only" }];
    case "address":
      return [{ key: `address of ${assignment.deviceId} ${assignment.way}`, what: "An output has one address only" }];
  }
}

/** The rules that lists have among themselves, and which lists those are. */
const CHECKS: readonly { of: readonly (keyof RailwayRecord)[]; check: (record: RailwayRecord, add: Add) => void }[] = [
  { of: ["turnouts"], check: checkTurnouts },
  { of: ["assignments"], check: checkJobs },
  { of: ["wires", "strips", "cables"], check: checkWires },
  { of: ["senses", "photos"], check: checkNotes },
  { of: ["customs", "stocks"], check: checkCustoms },
  { of: ["reserves", "answers", "settings"], check: checkNumbers },
  { of: ["events", "producers", "consumers", "taught"], check: checkEvents },
  { of: ["spots"], check: checkLine },
  { of: ["routeTurnouts", "routeControls", "boardParts"], check: checkRoutes },
];
