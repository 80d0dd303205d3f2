import type { Loom, RailwayRecord } from "@alderman/core";

/** A strip, a cable or a wire of the loom, or a turnout with its wires. */
export interface LoomThing {
  kind: "strip" | "cable" | "wire" | "turnout";
  id: string;
}

/** Opens the card of a thing. */
export type OpenThing = (thing: LoomThing) => void;

/** What every card of a thing gets. */
export interface ThingProps<T> {
  thing: T;
  record: RailwayRecord;
  loom: Loom;
  open: OpenThing;
  close: () => void;
}
