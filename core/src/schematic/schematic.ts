import { traitsOf } from "../catalogue/traits.ts";
import { assignmentsOfRole, feederOf } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { isWiredAlike } from "../record/unchanged.ts";
import { Joiner, type Net } from "./nets.ts";
import { blockFeed } from "./recipes/blockFeed.ts";
import { controlToInputs } from "./recipes/controlToInputs.ts";
import { frogFeed } from "./recipes/frogFeed.ts";
import { lampFromContact } from "./recipes/lampFromContact.ts";
import { lampFromFrog } from "./recipes/lampFromFrog.ts";
import { lampFromOutput } from "./recipes/lampFromOutput.ts";
import { lampFromSensor } from "./recipes/lampFromSensor.ts";
import { keyToRelays } from "./recipes/lockOut.ts";
import { outputToMotor } from "./recipes/outputToMotor.ts";
import { relayBesideMotor } from "./recipes/relayBesideMotor.ts";
import { reversingToggle } from "./recipes/reversingToggle.ts";
import { busToNode, firstPins, pinsToRelays, supplyToBoard, trackToDecoder } from "./recipes/supplyToBoard.ts";
import { toggleToMotor } from "./recipes/toggleToMotor.ts";
import { type Fitted, fitted, isSameThread, type Thread, threadsOf } from "./thread.ts";

export interface Schematic {
  threads: Thread[];
  nets: Net[];
}

/** What was derived before an edit. */
export interface Earlier {
  record: RailwayRecord;
  schematic: Schematic;
}

/**
 * The schematic of a record. Of an earlier one those threads are taken over of which the edit between them left everything
 * as it was, so that they are the same objects; and the nets, when it changed no wiring.
 */
export function schematicAfter(record: RailwayRecord, earlier: Earlier | undefined): Schematic {
  if (!earlier) return schematicOf(record);
  const wiredAlike = isWiredAlike(record, earlier.record);
  if (wiredAlike && record.turnouts === earlier.record.turnouts) return earlier.schematic;
  const before = new Map(earlier.schematic.threads.map((thread) => [thread.turnout.id, thread]));
  const { threads, nets } = wiredAlike
    ? { threads: threadsOf(record), nets: earlier.schematic.nets }
    : schematicOf(record);
  const kept = threads.map((thread) => {
    const known = before.get(thread.turnout.id);
    return known && isSameThread(known, thread) ? known : thread;
  });
  return { threads: kept, nets };
}

/** Which terminals must be joined, from what the owner assigned: each recipe in turn, each thread in the owner's order. */
export function schematicOf(record: RailwayRecord): Schematic {
  const threads = threadsOf(record);
  const joiner = new Joiner();
  const device = (id: string) => fitted(record, id);
  for (const { deviceId, toDeviceId } of assignmentsOfRole(record, "supply")) {
    const fed = device(toDeviceId);
    // a lamp's supply goes through a contact, a relay's through a key: that is their own recipe
    if (fed.type.family !== "lamp" && traitsOf(fed.type).relay === null) supplyToBoard(device(deviceId), fed, joiner);
  }
  joinCommands(record, device, joiner);
  keyToRelays(record, joiner);
  blockFeed(record, (id) => busOf(record, id), joiner);
  for (const thread of threads) {
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
  }
  return { threads, nets: joiner.result() };
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

/** The track bus that a detector's blocks are fed from. */
function busOf(record: RailwayRecord, deviceId: string): Fitted | null {
  const id = feederOf(record, deviceId, "commands");
  return id === null ? null : fitted(record, id);
}
