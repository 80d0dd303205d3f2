import * as z from "zod/mini";
import { edit } from "../catalogue/edit.ts";
import type { EditGroup } from "../record/edits.ts";
import { freshId } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { problemsOf, RecordError, recordError } from "../record/problems.ts";
import { typesOfVersion3 } from "../record/railwayFile.ts";
import { OwnType, PLAIN_TYPE } from "../record/schemas.ts";
import { Draft } from "./draft.ts";

export const TYPES_FORMAT = "alderman-types";
const MOST_TYPES_CHARACTERS = 1_000_000;

const TypesFile = z.strictObject({
  format: z.literal(TYPES_FORMAT),
  version: z.literal(4),
  types: z
    .array(OwnType)
    .check(z.minLength(1, "must hold at least one type"), z.maxLength(500, "must hold at most 500 types")),
});

/** The owner's own device types as the text of an open file, to be taken into another railway. */
export function writeTypesFile(record: RailwayRecord): string {
  return `${JSON.stringify({ format: TYPES_FORMAT, version: 4, types: record.types }, null, 1)}\n`;
}

/**
 * Takes in device types from a file. One that is already there, the same in all it says, is passed over; another of the
 * same identifier gets a fresh one.
 *
 * @throws {RecordError} with a sentence when the text is no such file or a type in it makes no sense; nothing is taken then
 */
export function typesFromFile(record: RailwayRecord, text: string): EditGroup {
  if (text.length > MOST_TYPES_CHARACTERS)
    throw recordError("The file holds more than a million characters; a file of types may hold one million.");
  let json: unknown;
  try {
    json = JSON.parse(text);
  } catch {
    throw recordError("The file is not a file of device types: its text is not JSON. Export the types again.");
  }
  const head = z.object({ format: z.unknown() }).safeParse(json);
  if (!head.success || head.data.format !== TYPES_FORMAT) {
    throw recordError(`The file is not a file of device types: it does not say "format": "${TYPES_FORMAT}".`, [
      "format",
    ]);
  }
  const parsed = TypesFile.safeParse(fromEarlier(json));
  if (!parsed.success) throw new RecordError(problemsOf(parsed.error));
  const draft = new Draft(record);
  const names: string[] = [];
  for (const type of parsed.data.types) {
    const known = record.types.some((own) => own.name === type.name && isSame(own, type));
    if (known) continue;
    const taken = draft.record.types.some(({ id }) => id === type.id);
    draft.put("type", taken ? { ...type, id: freshId(draft.record, "type", type.id) } : type);
    names.push(type.name);
  }
  if (names.length === 0) throw recordError("All types in the file are here already.");
  edit(record, draft.edits);
  return draft.group(`Took in ${names.length === 1 ? `the type ${names[0]}` : `${names.length} device types`}`);
}

/** A file of version 1 said nothing but figures of its types; 2 no colours of lamps; 3 not where settings are kept, and no switches. */
function fromEarlier(json: unknown): unknown {
  const file = json as { version?: unknown; types?: unknown };
  if (![1, 2, 3].includes(file.version as number) || !Array.isArray(file.types)) return json;
  const more = file.version === 1 ? PLAIN_TYPE : file.version === 2 ? { colours: PLAIN_TYPE.colours } : {};
  const types = file.types.map((type) => (typeof type === "object" ? { ...type, ...more } : type));
  return { ...file, version: 4, types: typesOfVersion3(types) };
}

function isSame(a: OwnType, b: OwnType): boolean {
  const sorted = ({ basedOn, figures, printed, settings, switches, box, colours }: OwnType) => {
    const named = [Object.entries(figures).sort(), Object.entries(printed).sort()];
    return JSON.stringify([basedOn, named, settings, switches, box, colours]);
  };
  return sorted(a) === sorted(b);
}
