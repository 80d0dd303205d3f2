import { Draft } from "../equip/draft.ts";
import type { EditGroup } from "../record/edits.ts";
import { find, freshId } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { MarkOf, Point } from "../record/line.ts";
import { recordError } from "../record/problems.ts";
import { nameOfPoint, nameOfStep } from "./lattice.ts";
import { settle } from "./laying.ts";
import { type Junction, lineLayout } from "./layout.ts";

/** Blades without a turnout of the list, nearest to a point first. */
export function openJunctions(record: RailwayRecord): Junction[] {
  return lineLayout(record).junctions.filter(({ turnout }) => turnout === null);
}

/** Turnouts of the list that lie nowhere on the line. */
export function trayOf(record: RailwayRecord) {
  const placed = new Set(record.spots.map(({ turnoutId }) => turnoutId));
  return record.turnouts.filter(({ id }) => !placed.has(id)).sort((a, b) => a.order - b.order);
}

/**
 * Puts a turnout of the list at a point's blades; one that lies there goes to the tray, and the turnout comes from wherever it lay.
 * @throws {RecordError} when there are no blades
 */
export function placeTurnout(record: RailwayRecord, turnoutId: string, point: Point, second = false): EditGroup {
  const place = lineLayout(record).at.get(nameOfPoint(point));
  const junction = place?.junctions.find((each) => each.second === second);
  const turnout = find(record, "turnout", turnoutId);
  if (!junction || !turnout) throw recordError(`There are no blades at ${point[0]}, ${point[1]} to put a turnout at.`);
  const draft = new Draft(record);
  const old = record.spots.find((spot) => spot.turnoutId === turnoutId);
  if (old) draft.remove("spot", old.id);
  if (junction.spot && junction.spot !== old) draft.remove("spot", junction.spot.id);
  const id = old?.id ?? freshId(draft.record, "spot", `at-${turnoutId}`);
  draft.put("spot", { id, turnoutId, x: point[0], y: point[1], second, turned: false, powerRouting: false });
  if (turnout.hand === "unknown") draft.put("turnout", { ...turnout, hand: junction.hand });
  return draft.group(`${turnout.label} lies at ${point[0]}, ${point[1]}`);
}

/** Takes a turnout off the line, back into the tray. */
export function liftTurnout(record: RailwayRecord, turnoutId: string): EditGroup | null {
  const spot = record.spots.find((each) => each.turnoutId === turnoutId);
  if (!spot) return null;
  const draft = new Draft(record);
  draft.remove("spot", spot.id);
  return draft.group(`${find(record, "turnout", turnoutId)?.label ?? turnoutId} is in the tray`);
}

/** The owner calls the other leg normal. */
export function turnNormal(record: RailwayRecord, turnoutId: string): EditGroup | null {
  const spot = record.spots.find((each) => each.turnoutId === turnoutId);
  if (!spot) return null;
  const draft = new Draft(record);
  draft.put("spot", { ...spot, turned: !spot.turned });
  return draft.group(`${find(record, "turnout", turnoutId)?.label ?? turnoutId}: the other leg is normal`);
}

/** The blades of a turnout feed its frog and the inner rails behind it, or do not. */
export function setPowerRouting(record: RailwayRecord, turnoutId: string, powerRouting: boolean): EditGroup | null {
  const spot = record.spots.find((each) => each.turnoutId === turnoutId);
  if (!spot || spot.powerRouting === powerRouting) return null;
  const draft = new Draft(record);
  draft.put("spot", { ...spot, powerRouting });
  const label = find(record, "turnout", turnoutId)?.label ?? turnoutId;
  return draft.group(
    powerRouting ? `The blades of ${label} feed its frog` : `The blades of ${label} do not feed its frog`,
  );
}

/** Names an end of track, and says whether it has a buffer. @throws {RecordError} where no track ends */
export function nameEnd(record: RailwayRecord, point: Point, name: string, buffer: boolean): EditGroup {
  const end = lineLayout(record).ends.find((each) => nameOfPoint(each.point) === nameOfPoint(point));
  if (!end) throw recordError(`No track ends at ${point[0]}, ${point[1]}.`);
  const draft = new Draft(record);
  const text = name.trim();
  if (text === "") {
    if (end.mark) draft.remove("mark", end.mark.id);
    return draft.group("An end without a name");
  }
  const id = end.mark?.id ?? freshId(record, "mark", `end-${text}`);
  draft.put("mark", { id, what: "end", x: point[0], y: point[1], name: text, buffer });
  return draft.group(`Track ends: ${text}`);
}

/**
 * Gives a crossing blades, or takes them away.
 * @param other of a single slip, its other curve
 * @throws {RecordError} where tracks cross by a quarter of a turn, or not at all
 */
export function setSlip(
  record: RailwayRecord,
  point: Point,
  slip: MarkOf<"slip">["slip"] | null,
  other = false,
): EditGroup | null {
  const place = lineLayout(record).at.get(nameOfPoint(point));
  if (!place?.acute) throw recordError("Only a crossing by an eighth of a turn can be a slip.");
  const known = record.marks.find(
    (mark) => mark.what === "slip" && nameOfPoint([mark.x, mark.y]) === nameOfPoint(point),
  );
  const draft = new Draft(record);
  if (slip === null) {
    if (!known) return null;
    draft.remove("mark", known.id);
  } else {
    const id = known?.id ?? freshId(record, "mark", `slip-${point[0]}-${point[1]}`);
    draft.put("mark", { id, what: "slip", x: point[0], y: point[1], slip, other });
  }
  settle(draft, record);
  return draft.group(slip === null ? "A crossing without blades" : `A ${slip} slip`);
}

/** Parts the rails between two neighbouring points, or joins them again. @throws {RecordError} where there is no track */
export function setGap(
  record: RailwayRecord,
  a: Point,
  b: Point,
  rails: MarkOf<"gap">["rails"] | null,
): EditGroup | null {
  const step = nameOfStep(a, b);
  const isTrack = lineLayout(record).stretches.some(({ points }) =>
    points.some((point, index) => index > 0 && nameOfStep(points[index - 1] as Point, point) === step),
  );
  if (!isTrack) throw recordError("There is no track to part there.");
  const known = record.marks.find(
    (mark) => mark.what === "gap" && nameOfStep([mark.x, mark.y], [mark.toX, mark.toY]) === step,
  );
  const draft = new Draft(record);
  if (known) draft.remove("mark", known.id);
  if (rails !== null) {
    const id = known?.id ?? freshId(record, "mark", `gap-${a[0]}-${a[1]}`);
    draft.put("mark", { id, what: "gap", x: a[0], y: a[1], toX: b[0], toY: b[1], rails });
  }
  if (draft.edits.length === 0) return null;
  return draft.group(
    rails === null ? "Rails joined again" : `A gap in ${rails === "both" ? "both rails" : `the ${rails} rail`}`,
  );
}

/** Says that stretches are out of sight, or in sight. */
export function setHidden(record: RailwayRecord, trackIds: readonly string[], hidden: boolean): EditGroup | null {
  const draft = new Draft(record);
  for (const track of record.tracks)
    if (trackIds.includes(track.id) && track.hidden !== hidden) draft.put("track", { ...track, hidden });
  return draft.edits.length === 0 ? null : draft.group(hidden ? "Track out of sight" : "Track in sight");
}
