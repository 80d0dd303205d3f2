import { typeOf } from "../catalogue/catalogue.ts";
import { numbered } from "../catalogue/deviceType.ts";
import { assignmentsOfDevice, deviceOf } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { AssignmentOf } from "../record/schemas.ts";
import { isSingle } from "../schematic/recipes/controlSides.ts";

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
    else if (a.role === "input" && a.controlId === deviceId) used.add(a.controlWay);
  const { contactSets } = typeOf(record, deviceOf(record, deviceId));
  return Array.from({ length: contactSets }, (_, index) => index + 1).find((set) => !used.has(set)) ?? null;
}

/** How many inputs in a row a control takes at the board that reads it. */
export function inputsTaken(record: RailwayRecord, { deviceId, controlId, controlWay }: AssignmentOf<"input">): number {
  // a row of a diode board is one contact's
  if (typeOf(record, deviceOf(record, deviceId)).drives === "matrix") return 1;
  const command = assignmentsOfDevice(record, controlId).find((a) => a.role === "control" && a.way === controlWay);
  // what throws no turnout tells by one contact
  if (!command && typeOf(record, deviceOf(record, controlId)).family !== "control") return 1;
  const how = command?.role === "control" ? command : { to: null, follows: false };
  return isSingle(typeOf(record, deviceOf(record, controlId)), how) ? 1 : 2;
}

/** Numbered inputs of a board by which something is read. */
function usedInputs(record: RailwayRecord, deviceId: string): Set<number> {
  const used = new Set<number>();
  for (const a of assignmentsOfDevice(record, deviceId)) {
    if (a.role !== "input" || a.deviceId !== deviceId) continue;
    for (let way = a.way; way < a.way + inputsTaken(record, a); way++) used.add(way);
  }
  return used;
}

/** Zones of a detector, or the spot of a sensor, that command a turnout, watch a block or tell a lamp how the blades lie. */
function usedZones(record: RailwayRecord, deviceId: string): Set<number> {
  return new Set(
    assignmentsOfDevice(record, deviceId).flatMap((a) => {
      if (a.role === "lamp") return a.fromId === deviceId ? [1] : [];
      return (a.role === "control" || a.role === "block") && a.deviceId === deviceId ? [a.way ?? 1] : [];
    }),
  );
}

/** Whether each numbered output of a board, or input, or zone of a detector, is in use; none for what has no numbers. */
export function waysInUse(record: RailwayRecord, deviceId: string): boolean[] {
  const { outputs, inputs, zones, pieces } = typeOf(record, deviceOf(record, deviceId));
  if (pieces !== undefined) {
    const free = new Set(freePieces(record, deviceId));
    return numbered(pieces).map((piece) => !free.has(piece));
  }
  // a diode board is full when it has no coils left
  const isMatrix = typeOf(record, deviceOf(record, deviceId)).drives === "matrix";
  const ways = numbered(isMatrix ? outputs : (inputs ?? zones ?? outputs));
  if (isMatrix || (inputs === undefined && zones === undefined)) {
    const free = new Set(freeWays(record, deviceId, outputs));
    return ways.map((way) => !free.has(way));
  }
  const used = inputs === undefined ? usedZones(record, deviceId) : usedInputs(record, deviceId);
  return ways.map((way) => used.has(way));
}

/** Pieces of a resistor board that lie in a lamp's common lead, or those that are free. */
export function freePieces(record: RailwayRecord, deviceId: string): number[] {
  const used = new Set(
    assignmentsOfDevice(record, deviceId).flatMap((a) =>
      a.role === "resistor" && a.deviceId === deviceId ? [a.way] : [],
    ),
  );
  return numbered(typeOf(record, deviceOf(record, deviceId)).pieces ?? 0).filter((piece) => !used.has(piece));
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
