import { Draft } from "../equip/draft.ts";
import type { EditGroup } from "../record/edits.ts";
import { find, freshId } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { Mark, MarkOf, Outline, Point } from "../record/line.ts";
import { recordError } from "../record/problems.ts";
import { nameOfStep, simplified } from "./lattice.ts";
import { type LineLayout, lineLayout, type Stretch } from "./layout.ts";

/** A mark that lies on a step of track, from one point to its neighbour. */
export type StepMark = Extract<Mark, { toX: number }>;

export function isOnStep(mark: Mark): mark is StepMark {
  return "toX" in mark;
}

/** Whether anything of a kind is marked on the line: what follows from none need not be worked out. */
export function isMarked({ marks }: Pick<RailwayRecord, "marks">, what: Mark["what"]): boolean {
  return marks.some((mark) => mark.what === what);
}

/** The step that a mark lies on, whichever way round. */
export function stepOfMark({ x, y, toX, toY }: Pick<StepMark, "x" | "y" | "toX" | "toY">): string {
  return nameOfStep([x, y], [toX, toY]);
}

/** The steps that polylines go over, point by point. */
export function stepsIn(polylines: readonly (readonly Point[])[]): Set<string> {
  return new Set(
    polylines.flatMap((points) => points.slice(1).map((point, index) => nameOfStep(points[index] as Point, point))),
  );
}

const stepsOf = new WeakMap<readonly Stretch[], ReadonlySet<string>>();

/** The steps of all track of a line that has a meaning, found out once. */
export function stepsOfLine({ stretches }: Pick<LineLayout, "stretches">): ReadonlySet<string> {
  const steps = stepsOf.get(stretches) ?? stepsIn(stretches.map(({ points }) => points));
  stepsOf.set(stretches, steps);
  return steps;
}

/** Marks that a hand sets on a step of track and gives a name or a side. */
export type SetMark = "block" | "sensor" | "signal" | "feeder";

/** What the names of marks begin with, where the owner has not begun otherwise. */
const STEMS = { block: "B", sensor: "P", signal: "S" } as const;

/**
 * Sets a mark on a step of track. A signal is for trains that go from the first point to the second; a feeder gives the left rail
 * what the line around it has already, else J.
 * @throws {RecordError} where there is no track
 */
export function setMark(
  record: RailwayRecord,
  what: SetMark,
  a: Point,
  b: Point,
  fields: { name?: string; leftGets?: "J" | "K" } = {},
): { id: string; group: EditGroup } {
  requireTrack(record, a, b);
  const draft = new Draft(record);
  const step = { x: a[0], y: a[1], toX: b[0], toY: b[1] };
  if (what === "feeder") {
    const id = freshId(record, "mark", "feeder-1");
    draft.put("mark", { id, what, ...step, leftGets: fields.leftGets ?? "J", rails: "both" });
    return { id, group: draft.group(`A feeder at ${a[0]}, ${a[1]}`) };
  }
  const name = fields.name ?? nextName(record, what);
  const id = freshId(record, "mark", `${what}-${name}`);
  if (what === "block") draft.put("mark", { id, what, ...step, name });
  else draft.put("mark", { id, what, ...step, name, deviceId: null });
  return { id, group: draft.group(`${what.charAt(0).toUpperCase()}${what.slice(1)} ${name}`) };
}

/** The next free name of a kind of mark: as the last one is called, with the number after the greatest. */
export function nextName(record: RailwayRecord, what: keyof typeof STEMS): string {
  const names = record.marks.flatMap((mark) => (mark.what === what ? [mark.name] : []));
  const stem = /^(.*?)\d+$/.exec(names.at(-1) ?? "")?.[1] ?? STEMS[what];
  const taken = new Set(names.map((name) => name.toLowerCase()));
  let number = names.length + 1;
  while (taken.has(`${stem}${number}`.toLowerCase())) number++;
  return `${stem}${number}`.slice(0, 24);
}

/** What can be changed of a mark, whatever it is. */
export interface MarkFields extends Partial<Pick<StepMark, "x" | "y" | "toX" | "toY">> {
  name?: string;
  deviceId?: string | null;
  leftGets?: "J" | "K";
  rails?: MarkOf<"gap">["rails"];
  alongMetres?: number | null;
  acrossMetres?: number | null;
}

/** Changes what a mark says. A block that detectors watch by its name goes on being watched when it is called otherwise. */
export function changeMark(record: RailwayRecord, id: string, fields: MarkFields): EditGroup {
  const mark = find(record, "mark", id);
  if (!mark) throw recordError("That mark is no longer on the line.");
  const draft = new Draft(record);
  draft.put("mark", { ...mark, ...fields } as Mark);
  if (mark.what === "block" && fields.name !== undefined) {
    const name = fields.name.trim();
    if (name === "") throw recordError("A block needs a name.");
    for (const assignment of record.assignments)
      if (assignment.role === "block" && isBlock(assignment.block, mark.name))
        draft.put("assignment", { ...assignment, block: name });
  }
  return draft.group(`${mark.what === "stand" ? "Where a board stands" : `A ${mark.what}`} changed`);
}

/** Whether two names are those of one block. */
export function isBlock(one: string, other: string): boolean {
  return one.trim().toLowerCase() === other.trim().toLowerCase();
}

/** Exchanges the points of a signal, a sensor or a feeder: a signal is for the other direction then. */
export function turnMark(record: RailwayRecord, id: string): EditGroup | null {
  const mark = find(record, "mark", id);
  if (!mark || !isOnStep(mark)) return null;
  return changeMark(record, id, { x: mark.toX, y: mark.toY, toX: mark.x, toY: mark.y });
}

export function removeMark(record: RailwayRecord, id: string): EditGroup | null {
  const mark = find(record, "mark", id);
  if (!mark) return null;
  const draft = new Draft(record);
  draft.remove("mark", id);
  return draft.group("name" in mark ? `Took away ${mark.what} ${mark.name}` : `Took away a ${mark.what}`);
}

/** Puts a board where it stands; one that stood elsewhere is moved. */
export function setStand(record: RailwayRecord, deviceId: string, [x, y]: Point): EditGroup {
  const device = find(record, "device", deviceId);
  if (!device) throw recordError("That board is no longer there.");
  const draft = new Draft(record);
  const known = record.marks.find((mark) => mark.what === "stand" && mark.deviceId === deviceId);
  const id = known?.id ?? freshId(record, "mark", `stand-${deviceId}`);
  draft.put("mark", { id, what: "stand", x, y, deviceId, alongMetres: null, acrossMetres: null });
  return draft.group(`${device.label} stands at ${x}, ${y}`);
}

/** Draws the edge of the baseboard, a section that is lifted out, or the line along which cables run. */
export function layOutline(record: RailwayRecord, what: Outline["what"], points: readonly Point[]): EditGroup | null {
  const kept = simplified(points);
  const [first] = kept;
  if (!first || kept.length < 2) return null;
  const draft = new Draft(record);
  // one that ends where this begins goes on
  const before = record.outlines.find((each) => each.what === what && String(each.points.at(-1)) === String(first));
  const id = before?.id ?? freshId(record, "outline", `${what}-1`);
  draft.put("outline", { id, what, points: simplified([...(before?.points ?? []), ...kept]) });
  return draft.group(OUTLINE_WORDS[what]);
}

export const OUTLINE_WORDS: Record<Outline["what"], string> = {
  baseboard: "Edge of the baseboard",
  "lift-out": "Section that is lifted out",
  trunk: "Line along which cables run",
};

export function removeOutline(record: RailwayRecord, id: string): EditGroup | null {
  const outline = find(record, "outline", id);
  if (!outline) return null;
  const draft = new Draft(record);
  draft.remove("outline", id);
  return draft.group(`Took away: ${OUTLINE_WORDS[outline.what].toLowerCase()}`);
}

function requireTrack(record: RailwayRecord, a: Point, b: Point): void {
  if (!stepsOfLine(lineLayout(record)).has(nameOfStep(a, b))) throw recordError("There is no track there to mark.");
}
