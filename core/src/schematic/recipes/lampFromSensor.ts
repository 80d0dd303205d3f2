import { traitsOf } from "../../catalogue/traits.ts";
import type { RailwayRecord } from "../../record/kinds.ts";
import type { Joiner } from "../nets.ts";
import { supplyOf, type ThreadLamp } from "../thread.ts";
import { supplyToBoard } from "./supplyToBoard.ts";

/**
 * A box with lamps inside has a supply and one input, which a sensor at the throw bar pulls to 0 V while the bar covers it.
 * Box and sensor need a common 0 V.
 */
export function lampFromSensor(record: RailwayRecord, lamp: ThreadLamp, joiner: Joiner): void {
  if (traitsOf(lamp.type).shows !== "box") return;
  const supply = supplyOf(record, lamp.device.id);
  if (supply) supplyToBoard(supply, lamp, joiner);
  if (traitsOf(lamp.from.type).inTrack !== "spot-sensor") return;
  const id = lamp.turnout.id;
  const [box, sensor] = [lamp.device.id, lamp.from.device.id];
  joiner.join("sensor", id, [
    { deviceId: sensor, terminal: "O1" },
    { deviceId: box, terminal: "I" },
  ]);
  joiner.join("dc-zero", id, [
    { deviceId: sensor, terminal: "−" },
    { deviceId: box, terminal: "−" },
  ]);
}
