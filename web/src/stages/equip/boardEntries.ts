import {
  type BoardLoad,
  boardAlong,
  type Device,
  type DeviceType,
  findType,
  type RailwayRecord,
  type SupplyLoad,
  traitsOf,
  waysInUse,
} from "@alderman/core";
import { useDeferredValue, useMemo } from "react";
import { useOverview } from "../../derivation/hooks.ts";
import { useRecord } from "../../session/hooks.ts";

/** A board or supply as the lists show it. */
export interface BoardEntry {
  device: Device;
  type: DeviceType;
  /** What a supply gives, or the outputs of a board together; undefined where nothing lasting flows. */
  load: SupplyLoad | BoardLoad | undefined;
  /** How far along the trunk line it stands from the supplies, metres; 0 beside them. */
  along: number;
  /** Whether each of its numbered outputs, inputs or zones is in use. */
  used: readonly boolean[];
}

/** Boards first, then supplies, by label. */
export function useBoards(): BoardEntry[] {
  // an edit is drawn before they are looked through
  const record = useDeferredValue(useRecord());
  const overview = useDeferredValue(useOverview());
  return useMemo(() => {
    const given = [...(overview?.loads ?? []), ...(overview?.boards ?? [])];
    return record ? entriesOf(record, new Map(given.map((load) => [load.deviceId, load]))) : [];
  }, [record, overview?.loads, overview?.boards]);
}

function entriesOf(record: RailwayRecord, loads: ReadonlyMap<string, SupplyLoad | BoardLoad>): BoardEntry[] {
  return record.devices
    .flatMap((device): BoardEntry[] => {
      const type = findType(record, device.typeId);
      if (!type || !isBoard(type)) return [];
      const along = boardAlong(device);
      return [{ device, type, along, load: loads.get(device.id), used: waysInUse(record, device.id) }];
    })
    .sort((a, b) => a.type.family.localeCompare(b.type.family) || BY_LABEL.compare(a.device.label, b.device.label));
}

/** Made once: making one takes longer than many comparisons. */
const BY_LABEL = new Intl.Collator("en", { numeric: true });

/**
 * Whether a type stands among boards and supplies: what drives, feeds, reads controls and trains, locks controls out, holds
 * resistors, or is a control with electronics that want a supply.
 */
export function isBoard(type: DeviceType): boolean {
  const { family, inputs, zones, pieces } = type;
  if (family === "control") return traitsOf(type).takesSupply;
  return ["driver", "supply", "lock"].includes(family) || (inputs ?? zones ?? pieces) !== undefined;
}

/** Whether two entries are drawn alike. */
export function isDrawnAlike<P extends BoardEntry>(a: P, b: P): boolean {
  const figures = ({ load }: P) => (load ? `${load.rest} ${load.moving} ${worstOf(load)}` : "");
  return (
    a.device === b.device &&
    a.type === b.type &&
    a.along === b.along &&
    a.used.join() === b.used.join() &&
    figures(a) === figures(b)
  );
}

/** The greatest load of all moments looked at, amps. */
export function worstOf(load: SupplyLoad | BoardLoad): number {
  return "worst" in load ? load.worst : Math.max(load.rest, load.moving);
}

/** What a board is for, in few words. */
export function boardKind(type: DeviceType): string {
  if (type.drives === "matrix") return "diodes for routes";
  if (type.inputs !== undefined) return "reads controls";
  if (type.zones !== undefined) return "watches trains";
  if (type.pieces !== undefined) return "resistors of lamps";
  if (type.family === "lock") return "locks controls out";
  return traitsOf(type).gives === "pulse" ? "discharge unit" : (KINDS[type.drives ?? ""] ?? type.short);
}

const KINDS: Record<string, string> = {
  pair: "for stall motors",
  coil: "for coils",
  servo: "for servos",
  contact: "relays",
  sink: "for lamps",
};
