import { typeOf } from "../catalogue/catalogue.ts";
import { traitsOf } from "../catalogue/traits.ts";
import { assignmentsOfDevice, deviceOf } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";

/** Numbers of a board's outputs that nothing uses: no motor, lamp, frog or board commanded by it. */
export function freeWays(record: RailwayRecord, deviceId: string, outputs: number): number[] {
  const used = new Set<number | null>();
  const { drives } = typeOf(record, deviceOf(record, deviceId));
  for (const a of assignmentsOfDevice(record, deviceId)) {
    if ((a.role === "driver" || a.role === "control") && a.deviceId === deviceId) used.add(a.way);
    if ((a.role !== "lamp" && a.role !== "frog") || a.fromId !== deviceId) continue;
    used.add(a.way);
    // on outputs to 0 V a lamp has one for each colour
    if (a.role === "lamp" && a.way !== null && drives === "sink") used.add(a.way + 1);
  }
  return Array.from({ length: outputs }, (_, index) => index + 1).filter((way) => !used.has(way));
}

/** The first contact set of a motor or relay that feeds no frog and lights no lamp; null when none is free. */
export function freeContact(record: RailwayRecord, deviceId: string): number | null {
  const used = new Set<number | null>();
  for (const a of assignmentsOfDevice(record, deviceId))
    if ((a.role === "frog" || a.role === "lamp") && a.fromId === deviceId) used.add(a.way ?? 1);
  const { contactSets } = typeOf(record, deviceOf(record, deviceId));
  return Array.from({ length: contactSets }, (_, index) => index + 1).find((set) => !used.has(set)) ?? null;
}

/** Numbered inputs of a board by which something is read. */
export function usedInputs(record: RailwayRecord, deviceId: string): Set<number> {
  const used = new Set<number>();
  for (const a of assignmentsOfDevice(record, deviceId)) {
    if (a.role !== "input" || a.deviceId !== deviceId) continue;
    const { asks } = traitsOf(typeOf(record, deviceOf(record, a.controlId)));
    const command = assignmentsOfDevice(record, a.controlId).find(
      (each) => each.role === "control" && each.way === a.controlWay,
    );
    const single = asks === "press" || (command?.role === "control" && command.to !== null);
    for (let way = a.way; way < a.way + (single ? 1 : 2); way++) used.add(way);
  }
  return used;
}

/** Zones of a detector, or the spot of a sensor, that command a turnout or watch a block. */
export function usedZones(record: RailwayRecord, deviceId: string): Set<number> {
  return new Set(
    assignmentsOfDevice(record, deviceId).flatMap((a) =>
      (a.role === "control" || a.role === "block") && a.deviceId === deviceId ? [a.way ?? 1] : [],
    ),
  );
}

/** The first of so many inputs in a row that nothing is read by; null when the board has none. */
export function freeInput(record: RailwayRecord, deviceId: string, inputs: number): number | null {
  const used = usedInputs(record, deviceId);
  const all = typeOf(record, deviceOf(record, deviceId)).inputs ?? 0;
  for (let first = 1; first + inputs - 1 <= all; first++) {
    const row = Array.from({ length: inputs }, (_, index) => first + index);
    if (row.every((way) => !used.has(way))) return first;
  }
  return null;
}
