import {
  assignmentsOfRole,
  type Outline,
  type RailwayRecord,
  recordError,
  type SetMark,
  setMark,
  setStand,
  traitsOf,
  typeOf,
} from "@alderman/core";
import type { Spot } from "./shapes.ts";

/** What the tool for marks sets. */
export type MarkKind = SetMark | "stand" | Outline["what"];

export const MARK_KINDS: readonly { value: MarkKind; text: string; how: string }[] = [
  { value: "block", text: "Block", how: "Click on track: all of it as far as the next gaps is the block." },
  { value: "signal", text: "Signal", how: "Click beside track: trains that have it on their right obey it." },
  { value: "sensor", text: "Spot sensor", how: "Click on track where it looks." },
  { value: "feeder", text: "Feeder", how: "Click on track where its wires come up." },
  { value: "stand", text: "Board", how: "Click where the board stands." },
  { value: "baseboard", text: "Edge of the baseboard", how: "Drag from point to point." },
  { value: "lift-out", text: "Section lifted out", how: "Drag from point to point." },
  { value: "trunk", text: "Line of the cables", how: "Drag from point to point: wire runs follow it." },
];

export function isOutline(kind: MarkKind): kind is Outline["what"] {
  return kind === "baseboard" || kind === "lift-out" || kind === "trunk";
}

/** Boards under the layout that something is wired to, those that stand nowhere first. */
export function boardsOf(record: RailwayRecord): { id: string; label: string; stands: boolean }[] {
  const standing = new Set(record.marks.flatMap((mark) => (mark.what === "stand" ? [mark.deviceId] : [])));
  const driving = new Set(assignmentsOfRole(record, "driver").map(({ deviceId }) => deviceId));
  return record.devices
    .filter((device) => {
      const { inTrack } = traitsOf(typeOf(record, device));
      return device.place === "layout" && (driving.has(device.id) || inTrack === "detector" || standing.has(device.id));
    })
    .map(({ id, label }) => ({ id, label, stands: standing.has(id) }))
    .sort((a, b) => Number(a.stands) - Number(b.stands) || a.label.localeCompare(b.label, "en", { numeric: true }));
}

/** Sets a mark on a step; a signal so that it stands at the side that was pointed at. */
export function markAt(
  record: RailwayRecord,
  kind: SetMark,
  [a, b]: [[number, number], [number, number]],
  [px, py]: Spot,
): ReturnType<typeof setMark> {
  const isRight = (b[0] - a[0]) * (py - a[1]) - (b[1] - a[1]) * (px - a[0]) > 0;
  return kind === "signal" && !isRight ? setMark(record, kind, b, a) : setMark(record, kind, a, b);
}

/** The board that is put where one clicks: the one that was picked, else the first that stands nowhere. */
export function standAt(record: RailwayRecord, picked: string | null, point: [number, number]) {
  const boards = boardsOf(record);
  const board = boards.find(({ id }) => id === picked) ?? boards[0];
  if (!board) throw recordError("There is no board under the layout to put there.");
  return setStand(record, board.id, point);
}
