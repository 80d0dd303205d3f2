import { traitsOf } from "../../catalogue/traits.ts";
import { assignmentsOfDevice, assignmentsOfRole } from "../../record/find.ts";
import type { RailwayRecord } from "../../record/kinds.ts";
import type { AssignmentOf } from "../../record/schemas.ts";
import type { Joiner } from "../nets.ts";
import type { Fitted } from "../thread.ts";

/** Inputs at which a zone of a detector or a contact of a motor is read that throws no turnout: what they tell is for others. */
export function plainInputsOf(record: RailwayRecord): AssignmentOf<"input">[] {
  return assignmentsOfRole(record, "input").filter(
    ({ controlId, controlWay }) =>
      !assignmentsOfDevice(record, controlId).some((a) => a.role === "control" && a.way === controlWay),
  );
}

/** The two terminals by which something tells, the one that is joined to the input first; null for what cannot. */
export function tellingTerminals({ type }: Fitted, way: number): [string, string] | null {
  const { inTrack } = traitsOf(type);
  if (inTrack === "detector") return [`O${way}`, "0"];
  if (inTrack === "spot-sensor") return ["O1", "−"];
  // made while the blades lie at reverse
  return type.family === "motor" && way <= type.contactSets ? [`S${way}r`, `S${way}c`] : null;
}

/** A zone closes an input to its common while it is occupied, a contact while the blades lie at reverse. */
export function plainInputs(record: RailwayRecord, fitted: (id: string) => Fitted, joiner: Joiner): void {
  for (const { deviceId, way, controlId, controlWay } of plainInputsOf(record)) {
    const ends = tellingTerminals(fitted(controlId), controlWay ?? 1);
    if (!ends) continue;
    const motor = assignmentsOfDevice(record, controlId).find((a) => a.role === "motor");
    const turnoutId = motor?.role === "motor" ? motor.turnoutId : null;
    const [signal, common] = ends;
    joiner.join("sensor", turnoutId, [
      { deviceId: controlId, terminal: signal },
      { deviceId, terminal: `I${way}` },
    ]);
    joiner.join("dc-zero", turnoutId, [
      { deviceId: controlId, terminal: common },
      { deviceId, terminal: "0" },
    ]);
  }
}
