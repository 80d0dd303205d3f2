import { findType, typesOfFamily } from "../catalogue/catalogue.ts";
import type { DeviceType } from "../catalogue/deviceType.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { recordError } from "../record/problems.ts";

/** @throws {RecordError} when there is no such type */
export function requireType(record: RailwayRecord, typeId: string): DeviceType {
  const type = findType(record, typeId);
  if (!type) throw recordError(`There is no device type "${typeId}".`);
  return type;
}

/**
 * The type of a family that a text means: its identifier, its name, or a part of its name that only one has.
 * @throws {RecordError} when none or several are meant, naming them
 */
export function typeMeant(record: RailwayRecord, family: DeviceType["family"], text: string): DeviceType {
  const types = typesOfFamily(record, family);
  const wanted = text.trim().toLowerCase();
  const exact = types.find((type) => type.id === wanted || type.name.toLowerCase() === wanted);
  if (exact) return exact;
  const matches = types.filter((type) => type.name.toLowerCase().includes(wanted));
  const [only] = matches;
  if (only && matches.length === 1) return only;
  const choices = (matches.length > 0 ? matches : types).map((type) => `"${type.id}"`).join(", ");
  throw recordError(
    `"${text}" ${matches.length > 0 ? "could be more than one" : "is no"} ${family} type; say ${choices}.`,
  );
}
