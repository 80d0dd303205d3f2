import type { Edit } from "./edits.ts";
import type { RailwayRecord } from "./kinds.ts";

// What server and interface tell each other about a railway; docs/http.md says when.

/** A railway in the list. */
export interface Summary {
  id: string;
  name: string;
  revision: number;
  turnouts: number;
  /** Things left open: noted by hand, or seen in the record. */
  openEnds: number;
  /** ISO 8601. */
  changedAt: string;
}

/** What undo and redo would do next, in words; null when there is nothing. */
export interface Turns {
  undo: string | null;
  redo: string | null;
}

/** A railway as it is opened. */
export interface OpenRailway extends Turns {
  id: string;
  revision: number;
  record: RailwayRecord;
}

/** What all open windows are told after a group was applied. */
export interface Change extends Turns {
  /** Revision that the group made. */
  revision: number;
  words: string;
  edits: Edit[];
}

/** One row of the history. */
export interface HistoryRow {
  revision: number;
  words: string;
  origin: "edit" | "undo" | "redo";
  /** Revision of the group that an undo or redo is about. */
  about: number | null;
  /** ISO 8601. */
  at: string;
}
