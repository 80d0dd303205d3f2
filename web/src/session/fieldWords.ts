import { find, KINDS, type Kind, type RailwayRecord } from "@alderman/core";

/**
 * What a field of a thing is called in a sentence.
 * @example fieldName("runMetres") // "run"
 * @example fieldName("movesWith") // "moves with"
 */
export function fieldName(field: string): string {
  const words = field.replaceAll(/[A-Z]/g, (letter) => ` ${letter.toLowerCase()}`);
  return words.replace(/ (metres|id)$/, "").replace(/^metres$/, "length");
}

/** A value of a field in a sentence: things by their labels, lengths with their unit. */
export function valueWords(record: RailwayRecord, kind: Kind | "railway", field: string, value: unknown): string {
  if (value === null || value === undefined || value === "") return "empty";
  const refers =
    kind === "railway" ? undefined : (KINDS[kind].refs as Record<string, { to: Kind }> | undefined)?.[field];
  if (refers) {
    const thing = find(record, refers.to, String(value));
    return thing && "label" in thing ? thing.label : "something that is gone";
  }
  if (typeof value === "boolean") return value ? "yes" : "no";
  if (typeof value === "object") return "otherwise";
  return /metres$/i.test(field) ? `${value} m` : String(value);
}
