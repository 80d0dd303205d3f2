import { typeOf } from "../catalogue/catalogue.ts";
import { assignmentsOfRole, deviceOf } from "../record/find.ts";
import type { RailwayRecord } from "../record/schemas.ts";
import { Joiner, type Net } from "./nets.ts";
import { lampFromContact } from "./recipes/lampFromContact.ts";
import { outputToMotor } from "./recipes/outputToMotor.ts";
import { supplyToBoard, trackToDecoder } from "./recipes/supplyToBoard.ts";
import { toggleToMotor } from "./recipes/toggleToMotor.ts";
import { type Thread, threadsOf } from "./thread.ts";

export interface Schematic {
  threads: Thread[];
  nets: Net[];
}

/** Which terminals must be joined, from what the owner assigned: each recipe in turn, each thread in the owner's order. */
export function schematicOf(record: RailwayRecord): Schematic {
  const threads = threadsOf(record);
  const joiner = new Joiner();
  const fitted = (deviceId: string) => {
    const device = deviceOf(record, deviceId);
    return { device, type: typeOf(record, device) };
  };
  for (const { deviceId, toDeviceId } of assignmentsOfRole(record, "supply")) {
    const board = fitted(toDeviceId);
    if (board.type.family === "driver") supplyToBoard(fitted(deviceId), board, joiner);
  }
  for (const { deviceId, toDeviceId } of assignmentsOfRole(record, "commands")) {
    trackToDecoder(fitted(deviceId), fitted(toDeviceId), joiner);
  }
  for (const thread of threads) {
    toggleToMotor(thread, joiner);
    outputToMotor(thread, joiner);
    lampFromContact(record, thread, joiner);
  }
  return { threads, nets: joiner.result() };
}
