import { applyEdits, type Edit, type Edited } from "../record/edits.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { RecordError } from "../record/problems.ts";
import { readRailwayFile } from "../record/railwayFile.ts";
import { checkTypes } from "./checkTypes.ts";

/**
 * Applies edits under all rules, those of the record and those of the catalogue.
 *
 * @throws {RecordError} when the result breaks a rule; nothing is changed then
 */
export function edit(record: RailwayRecord, edits: readonly Edit[]): Edited {
  const edited = applyEdits(record, edits);
  requireTypes(edited.record, record);
  return edited;
}

/**
 * Reads a railway file under all rules.
 *
 * @throws {RecordError} with a sentence for the owner
 */
export function openRailwayFile(text: string): RailwayRecord {
  const record = readRailwayFile(text);
  requireTypes(record);
  return record;
}

function requireTypes(record: RailwayRecord, sound?: RailwayRecord): void {
  const problems = checkTypes(record, sound);
  if (problems.length > 0) throw new RecordError(problems);
}
