import { typeOf } from "../../catalogue/catalogue.ts";
import { deviceOf } from "../../record/find.ts";
import type { RailwayRecord } from "../../record/schemas.ts";
import type { Joiner } from "../nets.ts";
import { supplyOf, type Thread } from "../thread.ts";
import { powerTerminals } from "./supplyToBoard.ts";

/**
 * A supply's plus goes through a motor's contact to one lead of a two-colour lamp or the other; the lamp's common goes
 * back to 0 V. The lamp then knows how the motor's arm lies.
 */
export function lampFromContact(record: RailwayRecord, thread: Thread, joiner: Joiner): void {
  const { lamp } = thread;
  if (!lamp) return;
  const { motorId, way, crossed } = lamp.assignment;
  const motorType = typeOf(record, deviceOf(record, motorId));
  const supply = supplyOf(record, lamp.device.id);
  const id = thread.turnout.id;
  const atLamp = (terminal: string) => ({ deviceId: lamp.device.id, terminal });

  if (way <= motorType.contactSets) {
    const atContact = (end: string) => ({ deviceId: motorId, terminal: `S${way}${end}` });
    if (supply) {
      joiner.join("dc-plus", id, [{ deviceId: supply.device.id, terminal: powerTerminals(supply)[0] }, atContact("c")]);
    }
    joiner.join("lamp-normal", id, [atContact("n"), atLamp(crossed ? "Y" : "G")]);
    joiner.join("lamp-reverse", id, [atContact("r"), atLamp(crossed ? "G" : "Y")]);
  }
  if (supply) {
    joiner.join("dc-zero", id, [{ deviceId: supply.device.id, terminal: powerTerminals(supply)[1] }, atLamp("0")]);
  }
}
