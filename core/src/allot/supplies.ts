import { typeOf } from "../catalogue/catalogue.ts";
import { assignmentsOfDevice, deviceOf } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { drawOf } from "./wants.ts";

/** Share of a supply's rating that is given out (common practice: a fifth in hand). */
const SHARE = 0.8;

/** The first supply of a type that can feed a device beside what it feeds already; null when none has room. */
export function supplyWithRoom(record: RailwayRecord, deviceId: string, typeId: string): string | null {
  const wanted = demandOf(record, deviceId);
  for (const supply of record.devices.filter((each) => each.typeId === typeId)) {
    const rated = typeOf(record, supply).figures.ratedAmps?.value ?? 0;
    const given = assignmentsOfDevice(record, supply.id)
      .filter((a) => a.role === "supply" && a.deviceId === supply.id && a.toDeviceId !== deviceId)
      .reduce((sum, a) => sum + (a.role === "supply" ? demandOf(record, a.toDeviceId) : 0), 0);
    if (given + wanted <= rated * SHARE) return supply.id;
  }
  return null;
}

/** Amps that a device may ask of its supply: itself, and its motors all at once; a discharge unit while it charges. */
function demandOf(record: RailwayRecord, deviceId: string): number {
  const type = typeOf(record, deviceOf(record, deviceId));
  const { idleOhms, chargeOhms, mostVolts, ratedAmps } = type.figures;
  const itself = idleOhms && mostVolts ? mostVolts.value / idleOhms.value : 0;
  if (type.drives !== "pair" && type.drives !== "servo") {
    const charging = chargeOhms && mostVolts ? mostVolts.value / chargeOhms.value : 0;
    return itself + charging + (type.family === "lamp" ? (ratedAmps?.value ?? 0) : 0);
  }
  const motors = assignmentsOfDevice(record, deviceId)
    .filter((a) => a.role === "driver" && a.deviceId === deviceId)
    .reduce((sum, a) => sum + (a.role === "driver" ? drawOf(typeOf(record, deviceOf(record, a.motorId)), type) : 0), 0);
  return itself + motors;
}
