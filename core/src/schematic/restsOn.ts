import { find } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { Fact } from "../record/notes.ts";
import type { Thread } from "./thread.ts";

/** The threads that rest on a fact about a type or a device. */
export function restsOn(record: RailwayRecord, threads: readonly Thread[], { typeId, deviceId }: Fact): Thread[] {
  if (typeId === null && deviceId === null) return [];
  const concerns = (device: { id: string; typeId: string } | undefined) =>
    device !== undefined && (device.id === deviceId || device.typeId === typeId);
  return threads.filter(({ motors, control, moreControls, frogs, lamps }) => {
    const all = [
      ...motors.flatMap((motor) => [motor.device, motor.driver?.device]),
      ...[control, ...moreControls].flatMap((each) => [each?.device, each?.reader?.device, each?.lock?.device]),
      ...frogs.flatMap((frog) => [frog.device, frog.from?.device]),
      ...lamps.flatMap((lamp) => [lamp.device, lamp.from.device, lamp.resistor?.device]),
    ];
    return all.some((device) => concerns(device && find(record, "device", device.id)));
  });
}
