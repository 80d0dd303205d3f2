import { typeOf } from "../catalogue/catalogue.ts";
import { edit } from "../catalogue/edit.ts";
import type { EditGroup } from "../record/edits.ts";
import { assignmentsOfTurnout, deviceOf, turnoutOf } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { type Problem, RecordError, recordError } from "../record/problems.ts";
import type { Turnout } from "../record/schemas.ts";
import { isSingle } from "../schematic/recipes/controlSides.ts";
import { inputOf } from "../schematic/thread.ts";
import { count, list } from "../units/format.ts";
import { COLUMNS, type Column, isToldByLeader, writeText } from "./columns.ts";
import { setControls, type WantedControl } from "./controls.ts";
import { Draft } from "./draft.ts";
import { driverOfTurnout } from "./equipment.ts";
import { readLamps } from "./lamps.ts";
import { freeInput, freeWays } from "./ways.ts";

/** Columns that make up a turnout's equipment. */
const EQUIPMENT = ["motor", "driver", "control", "frog", "lamp"] as const;

/**
 * Fills what the first turnout has into the others: the same types, each with devices, outputs and inputs of its own; the
 * next address for each. Labels are left alone.
 *
 * @param turnoutIds in the order of the list, the first one the pattern
 * @throws {RecordError} naming turnout and column of what cannot be; nothing is changed then
 */
export function fillDown(
  record: RailwayRecord,
  turnoutIds: readonly string[],
  columnIds: readonly string[],
): EditGroup {
  const [from, ...to] = turnoutIds;
  const columns = COLUMNS.filter(({ id }) => columnIds.includes(id) && id !== "label");
  if (from === undefined || to.length === 0)
    throw recordError("Choose at least two turnouts: the first is filled into the others.");
  if (columns.length === 0) throw recordError("Labels are not filled down: each turnout has its own.");
  const words = `Filled ${list(columns.map(({ title }) => title.toLowerCase()))} down to ${count(to.length, "turnout")}`;
  return filled(record, from, to, columns, words);
}

/** Equips turnouts like another: motor, driver, control, frog and lamp of the same types. @throws {RecordError} */
export function equipLike(record: RailwayRecord, fromId: string, toIds: readonly string[]): EditGroup {
  const columns = COLUMNS.filter(({ id }) => EQUIPMENT.some((each) => each === id));
  const labels = toIds.map((id) => turnoutOf(record, id).label);
  const words = `Equipped ${labels.length > 6 ? count(labels.length, "turnout") : list(labels)} like ${turnoutOf(record, fromId).label}`;
  return filled(
    record,
    fromId,
    toIds.filter((id) => id !== fromId),
    columns,
    words,
  );
}

function filled(
  record: RailwayRecord,
  from: string,
  to: readonly string[],
  columns: readonly Column[],
  words: string,
): EditGroup {
  const draft = new Draft(record);
  const pattern = turnoutOf(record, from);
  const problems: Problem[] = [];
  for (const [place, id] of to.entries()) {
    const turnout = turnoutOf(draft.record, id);
    for (const column of columns) {
      if (isToldByLeader(column, draft.record, turnout)) continue;
      tried(problems, `${turnout.label}, ${column.title}`, () => fill(draft, column, pattern, turnout, place + 1));
    }
  }
  if (problems.length > 0) throw new RecordError(problems.slice(0, 5));
  if (draft.edits.length === 0) throw recordError("Nothing to fill in: they are like the first already.");
  edit(record, draft.edits);
  return draft.group(words);
}

/** Does something, and adds the sentence that says why it cannot be. */
function tried(problems: Problem[], where: string, what: () => void): void {
  try {
    what();
  } catch (error) {
    if (!(error instanceof RecordError)) throw error;
    problems.push({ path: [where], message: `${where}: ${error.message}` });
  }
}

function fill(draft: Draft, column: Column, from: Turnout, to: Turnout, place: number): void {
  if (column.id === "control") {
    setControls(draft, to.id, controlsLike(draft, from.id));
    return;
  }
  const text = textFor(draft.record, column, from, place);
  if (text !== column.read(draft.record, to)) writeText(draft, column, to.id, text);
}

/** What another turnout's cell says when it is like the first one's. */
function textFor(record: RailwayRecord, column: Column, from: Turnout, place: number): string {
  const text = column.read(record, from);
  if (text === "") return "";
  switch (column.id) {
    case "driver":
      return driverText(record, from);
    case "lamp":
      return lampText(record, from);
    case "frog":
      return frogText(record, from, text);
    case "address":
      return String(Number(text) + place);
    default:
      return text;
  }
}

/** The next output of the same board; another of its kind when all are in use. */
function driverText(record: RailwayRecord, from: Turnout): string {
  const driver = driverOfTurnout(record, from.movesWith ?? from.id);
  if (!driver) return "";
  const device = deviceOf(record, driver.deviceId);
  if (driver.way === null) return device.label;
  const type = typeOf(record, device);
  const boards = [device, ...record.devices.filter((each) => each.typeId === device.typeId && each.id !== device.id)];
  for (const board of boards) {
    const [way] = freeWays(record, board.id, type.outputs);
    if (way !== undefined) return `${board.label}-${way}`;
  }
  return type.id;
}

/** Controls of the same types, read by the next inputs of the same boards. */
function controlsLike(draft: Draft, fromId: string): WantedControl[] {
  const { record } = draft;
  return assignmentsOfTurnout(record, fromId, "control").map(({ deviceId, to, inverse, follows, way }) => {
    const device = deviceOf(record, deviceId);
    const type = typeOf(record, device);
    if (type.family !== "control")
      throw recordError(
        `${device.label}-${way} commands one turnout only; say which output or zone commands this one.`,
      );
    const input = inputOf(record, deviceId, way);
    const how = { device: { typeId: type.id }, way, to, inverse, follows };
    if (!input) return { ...how, by: null };
    const inputs = isSingle(type, { to, follows }) ? 1 : 2;
    const free = freeInput(record, input.deviceId, inputs);
    if (free === null)
      throw recordError(`${deviceOf(record, input.deviceId).label} has no free inputs left. Add a board.`);
    return { ...how, by: { deviceId: input.deviceId, way: free } };
  });
}

/** A lamp of the same type, lit by the same thing of its own turnout, or by the next outputs of the same board. */
function lampText(record: RailwayRecord, from: Turnout): string {
  const lamps = assignmentsOfTurnout(record, from.id, "lamp");
  const texts = readLamps(record, from).split(" + ");
  const taken = new Set<string>();
  return lamps
    .map((lamp, index) => {
      const { id } = typeOf(record, deviceOf(record, lamp.deviceId));
      const source = / from (.+)$/.exec(texts[index] ?? "")?.[1];
      if (!source) return id;
      const board = deviceOf(record, lamp.fromId);
      const type = typeOf(record, board);
      if (lamp.coveredAt)
        throw recordError(`${board.label} sits at one throw bar; say which sensor tells of this one.`);
      if (type.drives !== "sink") return `${id} from ${source}`;
      const free = new Set(freeWays(record, board.id, type.outputs).filter((way) => !taken.has(`${board.id} ${way}`)));
      const way =
        [...free].find((each) => free.has(each + 1) && !free.has(each - 1)) ??
        [...free].find((each) => free.has(each + 1));
      if (way === undefined) throw recordError(`${board.label} has no two free outputs left. Add a board.`);
      for (const each of [way, way + 1]) taken.add(`${board.id} ${each}`);
      return `${id} from ${board.label}-${way}`;
    })
    .join(" + ");
}

/** The same contact of its own motor, a helper of the same type, or the next contact of the same board. */
function frogText(record: RailwayRecord, from: Turnout, text: string): string {
  const [frog] = assignmentsOfTurnout(record, from.id, "frog");
  if (!frog || frog.fromId === null || /^S\d/.test(text)) return text;
  const device = deviceOf(record, frog.fromId);
  const type = typeOf(record, device);
  if (type.outputs === 0) return type.id;
  const [way] = freeWays(record, device.id, type.outputs);
  return way === undefined ? type.id : `${device.label}-S${way}`;
}

/**
 * Writes a block of cells, as pasted from a spreadsheet, over a part of the list.
 *
 * @param turnoutIds the turnouts from the current one on, in the order shown
 * @param columnIds the columns from the current one on
 * @param given the cells
 * @throws {RecordError} naming row and column of what cannot be; nothing is changed then
 */
export function pasteBlock(
  record: RailwayRecord,
  turnoutIds: readonly string[],
  columnIds: readonly string[],
  given: readonly (readonly string[])[],
): EditGroup {
  const wide = Math.max(0, ...given.map((row) => row.length));
  // a blank line is a row of blank cells
  const rows = given.map((row) => (row.length < wide ? [...row, ...Array(wide - row.length).fill("")] : row));
  if (rows.length > turnoutIds.length)
    throw recordError(
      `There are ${count(rows.length, "row")} to paste and only ${count(turnoutIds.length, "turnout")} from here down. Begin further up, or paste a table with a heading row to add turnouts.`,
    );
  if (wide > columnIds.length)
    throw recordError(
      `There are ${count(wide, "column")} to paste and only ${columnIds.length} from here to the right. Begin further to the left.`,
    );
  const draft = new Draft(record);
  const problems: Problem[] = [];
  const at = COLUMNS.filter(({ id }) => columnIds.includes(id));
  for (const column of at) {
    const index = columnIds.indexOf(column.id);
    for (const [number, row] of rows.entries()) {
      const turnout = turnoutOf(draft.record, turnoutIds[number] ?? "");
      const text = row[index]?.trim();
      // a label cannot be blank, and a blank cell says nothing of a turnout that moves with another
      const told = isToldByLeader(column, draft.record, turnout);
      if (text === undefined || (text === "" && (column.id === "label" || told))) continue;
      if (column.read(draft.record, turnout) === text) continue;
      if (told && turnout.movesWith) {
        const leader = turnoutOf(draft.record, turnout.movesWith);
        if (column.read(draft.record, leader) === text) continue;
        const where = `Row ${number + 1}, ${column.title} of ${turnout.label}`;
        const message = `${where}: it moves with ${leader.label}, and this is said of ${leader.label} for both. Leave the cell empty.`;
        problems.push({ path: [where], message });
        continue;
      }
      tried(problems, `Row ${number + 1}, ${column.title} of ${turnout.label}`, () =>
        writeText(draft, column, turnout.id, text),
      );
    }
  }
  if (problems.length > 0) throw new RecordError(problems.slice(0, 10));
  if (draft.edits.length === 0) throw recordError("Nothing changes: the cells hold that already.");
  edit(record, draft.edits);
  return draft.group(`Pasted ${count(rows.length, "row")} and ${count(wide, "column")}`);
}

/** Cells of some turnouts as text, tab and line break between them, for the clipboard. */
export function copyBlock(record: RailwayRecord, turnoutIds: readonly string[], columnIds: readonly string[]): string {
  return turnoutIds
    .map((id) =>
      COLUMNS.filter(({ id: column }) => columnIds.includes(column))
        .map(({ read }) => read(record, turnoutOf(record, id)))
        .join("\t"),
    )
    .join("\n");
}
