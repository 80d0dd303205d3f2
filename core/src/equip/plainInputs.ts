import { typeOf } from "../catalogue/catalogue.ts";
import { numbered } from "../catalogue/deviceType.ts";
import { traitsOf } from "../catalogue/traits.ts";
import type { EditGroup } from "../record/edits.ts";
import { assignmentsOfDevice, deviceOf, find } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { recordError } from "../record/problems.ts";
import { wayName } from "../schematic/nets.ts";
import { plainInputsOf } from "../schematic/recipes/plainInputs.ts";
import { Draft } from "./draft.ts";

/** Something that can be read at an input without throwing a turnout. */
export interface PlainSource {
  deviceId: string;
  way: number;
  /** As "BD1-2" or "L1-S1". */
  label: string;
  /** What it tells, as "block Loop, east" or "L1 at reverse". */
  tells: string;
}

/** Zones of detectors and contacts of motors that nothing else uses, in the order of devices. */
export function plainSources(record: RailwayRecord): PlainSource[] {
  const read = new Set(
    record.assignments.flatMap((a) => (a.role === "input" ? [`${a.controlId} ${a.controlWay}`] : [])),
  );
  return record.devices.flatMap((device): PlainSource[] => {
    const type = typeOf(record, device);
    const isDetector = traitsOf(type).inTrack === "detector";
    const ways = isDetector ? (type.zones ?? 0) : type.family === "motor" ? type.contactSets : 0;
    return numbered(ways).flatMap((way): PlainSource[] => {
      const own = assignmentsOfDevice(record, device.id);
      const isUsed = own.some(
        (a) =>
          (a.role === "control" && a.deviceId === device.id && a.way === way) ||
          ((a.role === "lamp" || a.role === "frog") && a.fromId === device.id && (a.way ?? 1) === way),
      );
      if (isUsed || read.has(`${device.id} ${way}`)) return [];
      return [
        {
          deviceId: device.id,
          way,
          label: sourceLabel(record, device.id, way),
          tells: tellsOf(record, device.id, way),
        },
      ];
    });
  });
}

/** As "BD1-2" for a zone, "L1-S1" for a contact. */
export function sourceLabel(record: RailwayRecord, deviceId: string, way: number): string {
  const device = deviceOf(record, deviceId);
  return typeOf(record, device).family === "motor" ? `${device.label}-S${way}` : wayName(device.label, way);
}

/** What a zone or contact tells. */
export function tellsOf(record: RailwayRecord, deviceId: string, way: number): string {
  const own = assignmentsOfDevice(record, deviceId);
  const block = own.find((a) => a.role === "block" && a.deviceId === deviceId && a.way === way);
  if (block?.role === "block") return `block ${block.block} occupied`;
  const motor = own.find((a) => a.role === "motor" && a.deviceId === deviceId);
  if (motor?.role === "motor") return `${find(record, "turnout", motor.turnoutId)?.label} at reverse`;
  return "a train on it";
}

/**
 * A zone or contact is read at a numbered input from now on; null for nothing there.
 * @throws {RecordError} when a control is read there
 */
export function setPlainInput(
  record: RailwayRecord,
  deviceId: string,
  way: number,
  source: Pick<PlainSource, "deviceId" | "way"> | null,
): EditGroup | null {
  const label = wayName(deviceOf(record, deviceId).label, way);
  const here = record.assignments.find((a) => a.role === "input" && a.deviceId === deviceId && a.way === way);
  if (here && !plainInputsOf(record).some(({ id }) => id === here.id))
    throw recordError(`A control is read at ${label}; take it away from its turnout first.`);
  const draft = new Draft(record);
  if (here) draft.remove("assignment", here.id);
  if (source) draft.assign("input", { deviceId, way, controlId: source.deviceId, controlWay: source.way });
  if (draft.edits.length === 0) return null;
  return draft.group(
    source ? `${label} reads ${sourceLabel(record, source.deviceId, source.way)}` : `Nothing at ${label}`,
  );
}
