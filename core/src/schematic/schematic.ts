import { traitsOf } from "../catalogue/traits.ts";
import { touchedBetween } from "../record/difference.ts";
import { assignmentsOfDevice, assignmentsOfRole } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { isWiredAlike } from "../record/unchanged.ts";
import { isJoinedAlike, type Join, Joiner, type Net, netsOf } from "./nets.ts";
import { blockFeed, busOf, railsBehindZones } from "./recipes/blockFeed.ts";
import { controlToInputs } from "./recipes/controlToInputs.ts";
import { frogFeed } from "./recipes/frogFeed.ts";
import { lampFromContact } from "./recipes/lampFromContact.ts";
import { lampFromFrog } from "./recipes/lampFromFrog.ts";
import { lampFromOutput } from "./recipes/lampFromOutput.ts";
import { lampFromSensor } from "./recipes/lampFromSensor.ts";
import { keyToRelays } from "./recipes/lockOut.ts";
import { outputToMotor } from "./recipes/outputToMotor.ts";
import { plainInputs } from "./recipes/plainInputs.ts";
import { relayBesideMotor } from "./recipes/relayBesideMotor.ts";
import { reversingToggle } from "./recipes/reversingToggle.ts";
import { routeToCoils } from "./recipes/routeToCoils.ts";
import { busToNode, firstPins, pinsToRelays, supplyToBoard, trackToDecoder } from "./recipes/supplyToBoard.ts";
import { toggleToMotor } from "./recipes/toggleToMotor.ts";
import { type Fitted, fitted, isSameThread, supplyOf, type Thread, threadsOf, untouchedThreads } from "./thread.ts";
import { isWatchedAlike, type RailZone, UNWATCHED, type WatchedRails } from "./watched.ts";

export interface Schematic {
  threads: Thread[];
  nets: Net[];
  /** Rails that are fed through a detector, as it was made with. */
  watched: WatchedRails;
}

/** What was derived before an edit. */
export interface Earlier {
  record: RailwayRecord;
  schematic: Schematic;
}

/**
 * The schematic of a record. Of an earlier one those threads and nets are taken over of which the edit between them left
 * everything as it was, so that they are the same objects.
 */
export function schematicAfter(
  record: RailwayRecord,
  earlier: Earlier | undefined,
  watchedNow: WatchedRails,
): Schematic {
  if (!earlier) return schematicOf(record, watchedNow);
  const { schematic } = earlier;
  const watched = isWatchedAlike(schematic.watched, watchedNow) ? schematic.watched : watchedNow;
  const isAlike = isWiredAlike(record, earlier.record) && watched === schematic.watched;
  if (isAlike && record.turnouts === earlier.record.turnouts) return schematic;
  const threads = threadsAfter(record, earlier);
  const nets = isAlike ? schematic.nets : netsAfter(joinsOf(record, threads, watched), schematic.nets);
  return { threads, nets, watched };
}

function threadsAfter(record: RailwayRecord, { record: old, schematic }: Earlier): Thread[] {
  const threads = threadsOf(record, untouchedThreads(schematic.threads, touchedBetween(old, record)));
  const before = new Map(schematic.threads.map((thread) => [thread.turnout.id, thread]));
  // an edit that names a board touches all threads on it, and leaves most of them as they were
  return threads.map((thread) => {
    const known = before.get(thread.turnout.id);
    return known && (known === thread || isSameThread(known, thread)) ? known : thread;
  });
}

/** Which terminals must be joined, from what the owner assigned: each recipe in turn, each thread in the owner's order. */
export function schematicOf(record: RailwayRecord, watched: WatchedRails = UNWATCHED): Schematic {
  const threads = threadsOf(record);
  return { threads, nets: netsAfter(joinsOf(record, threads, watched), []), watched };
}

const madeFrom = new WeakMap<readonly Net[], readonly Join[]>();

/** Nets of a railway's joins; those before an edit where recipes join what they joined. */
function netsAfter(joins: readonly Join[], before: Net[]): Net[] {
  const known = madeFrom.get(before);
  const nets = known && isJoinedAlike(joins, known) ? before : netsOf(joins, before);
  madeFrom.set(nets, joins);
  return nets;
}

function joinsOf(record: RailwayRecord, threads: readonly Thread[], watched: WatchedRails): Join[] {
  return [...joinsBetweenBoards(record, watched), ...threads.flatMap((thread) => joinsOfThread(record, thread))];
}

/** Joins that are made for no single turnout. */
function joinsBetweenBoards(record: RailwayRecord, watched: WatchedRails): Join[] {
  const joiner = new Joiner();
  const device = (id: string) => fitted(record, id);
  for (const { deviceId, toDeviceId } of assignmentsOfRole(record, "supply")) {
    const fed = device(toDeviceId);
    // a lamp's supply goes through a contact, a relay's through a key: that is their own recipe
    // and a discharge unit's pulse through the buttons of routes
    if (fed.type.drives === "matrix") continue;
    if (fed.type.family === "lamp" || traitsOf(fed.type).relay !== null) continue;
    const zones = watched.size > 0 ? zonesAt(record, fed, device(deviceId), watched) : [];
    if (zones.length > 0) railsBehindZones(device(deviceId), fed, zones, joiner);
    else supplyToBoard(device(deviceId), fed, joiner);
  }
  joinCommands(record, device, joiner);
  keyToRelays(record, joiner);
  routeToCoils(record, device, joiner);
  plainInputs(record, device, joiner);
  blockFeed(record, joiner);
  return joiner.joins;
}

const joinsMade = new WeakMap<Thread, { joins: Join[]; supplies: (Fitted | null)[] }>();

/** Joins of a thread; one that an edit did not touch is the same object and has them already, as long as its lamps' supplies are. */
function joinsOfThread(record: RailwayRecord, thread: Thread): Join[] {
  const supplies = thread.lamps.map(({ device }) => supplyOf(record, device.id));
  const known = joinsMade.get(thread);
  const isFedAlike = known?.supplies.every(
    (fed, index) => fed?.device === supplies[index]?.device && fed?.type === supplies[index]?.type,
  );
  if (known && isFedAlike) return known.joins;
  const joiner = new Joiner();
  toggleToMotor(thread, joiner);
  reversingToggle(thread, joiner);
  outputToMotor(thread, joiner);
  controlToInputs(thread, joiner);
  relayBesideMotor(thread, joiner);
  frogFeed(thread, joiner);
  for (const lamp of thread.lamps) {
    lampFromContact(record, lamp, joiner);
    lampFromFrog(thread, lamp, joiner);
    lampFromOutput(lamp, joiner);
    lampFromSensor(record, lamp, joiner);
  }
  joinsMade.set(thread, { joins: joiner.joins, supplies });
  return joiner.joins;
}

/** Zones through which a frog's rails are fed by the bus that its detector hangs on. */
function zonesAt(record: RailwayRecord, frog: Fitted, supply: Fitted, watched: WatchedRails): readonly RailZone[] {
  if (traitsOf(frog.type).inTrack !== "frog") return [];
  const own = assignmentsOfDevice(record, frog.device.id).find((a) => a.role === "frog");
  const zones = own?.role === "frog" ? (watched.get(own.turnoutId) ?? []) : [];
  return zones.filter(({ deviceId }) => {
    const isDetector = traitsOf(fitted(record, deviceId).type).inTrack === "detector";
    return isDetector && busOf(record, deviceId)?.device.id === supply.device.id;
  });
}

function joinCommands(record: RailwayRecord, device: (id: string) => Fitted, joiner: Joiner): void {
  const pins = firstPins(record, device);
  for (const { deviceId, toDeviceId } of assignmentsOfRole(record, "commands")) {
    const [from, to] = [device(deviceId), device(toDeviceId)];
    // what brings commands says how: a detector hears none, but its blocks are fed from that bus
    if (from.type.family === "lock" || traitsOf(from.type).inTrack === "reverser") continue;
    if (traitsOf(from.type).gives === "bus") busToNode(from, to, joiner);
    else if (traitsOf(from.type).gives === "pins") pinsToRelays(from, to, pins.get(toDeviceId) ?? 1, joiner);
    else if (traitsOf(to.type).inTrack !== "detector") trackToDecoder(from, to, joiner);
  }
}
