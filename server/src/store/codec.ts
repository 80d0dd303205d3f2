import { problemsOf } from "@alderman/core";
import * as z from "zod";

export type Row = Record<string, unknown>;

/** A column of a kind's table, as its schema says. */
export interface Column {
  /** Name of the field in the record. */
  field: string;
  /** Name of the column. */
  name: string;
  type: "TEXT" | "INTEGER" | "REAL";
  nullable: boolean;
  /** How the field is kept: as it is, as 0 or 1, or as JSON. */
  kept: "plain" | "yes-no" | "json";
}

/** A table's columns, and how a value becomes the cells of a row and a row a value. */
export interface Codec<T> {
  columns: readonly Column[];
  toCells: (value: T) => unknown[];
  /**
   * @param cells in the order of the columns
   * @param id by which an error names it, when that is no column of its own
   * @throws {UnreadableRowError} when they are not what the schema allows
   */
  fromCells: (cells: readonly unknown[], id?: string) => T;
}

/** A row of the database does not hold what the program may have written there. */
export class UnreadableRowError extends Error {
  override readonly name = "UnreadableRowError";
  constructor(table: string, id: unknown, problem: string) {
    super(
      `The database holds ${/^[aeiou]/.test(table) ? "an" : "a"} ${table} that cannot be read (${String(id)}): ${problem}`,
    );
  }
}

/** What a JSON Schema says of one field. */
interface Shape {
  type?: string | string[];
  anyOf?: Shape[];
  const?: unknown;
  enum?: unknown[];
}

interface ObjectShape {
  properties: Record<string, Shape>;
}

/**
 * The codec of a schema: a column for each field, in snake case; what is a list or an object within a thing is kept as
 * JSON. Of a union of objects, each field of any of them has a column, and a row is read by those that its constants fit.
 *
 * @example codecOf("turnout", Turnout).columns[4] // { field: "zoneId", name: "zone_id", type: "TEXT", nullable: true, kept: "plain" }
 */
export function codecOf<T extends object>(table: string, schema: z.core.$ZodType<T>): Codec<T> {
  const whole = z.toJSONSchema(schema) as unknown as ObjectShape & { oneOf?: ObjectShape[]; anyOf?: ObjectShape[] };
  const shapes = whole.oneOf ?? whole.anyOf ?? [whole];
  const fields = [...new Set(shapes.flatMap(({ properties }) => Object.keys(properties)))];
  const columns = fields.map((field) => columnOf(field, shapes));
  const idAt = fields.indexOf("id");
  const objects = objectsOf(schema);
  const ways = shapes.map(({ properties }, number) => ({
    constants: columns.flatMap(({ field }, at) => {
      const { const: only } = properties[field] ?? {};
      return only === undefined ? [] : [{ at, only }];
    }),
    own: Object.keys(properties).map((field) => {
      const at = fields.indexOf(field);
      return { column: columns[at] as Column, at, holds: holdsOf(objects[number]?._zod.def.shape[field]) };
    }),
  }));
  return {
    columns,
    toCells: (value) => columns.map((column) => toCell((value as Row)[column.field], column)),
    fromCells(cells, id) {
      const way = ways.find(({ constants }) => constants.every(({ at, only }) => cells[at] === only));
      const thing: Row = {};
      let isGood = way !== undefined;
      for (const { column, at, holds } of way?.own ?? []) {
        const value = fromCell(cells[at], column);
        thing[column.field] = value;
        isGood &&= holds(value);
      }
      if (isGood) return thing as T;
      const parsed = z.safeParse(schema, thing);
      if (!parsed.success)
        throw new UnreadableRowError(
          table,
          id ?? cells[idAt],
          problemsOf(parsed.error)[0]?.message ?? "it fits no schema.",
        );
      return parsed.data;
    },
  };
}

/** The objects that a schema allows, in their order; null in the place of one of which a field depends on the others. */
function objectsOf(schema: z.core.$ZodType): (z.core.$ZodObject | null)[] {
  const all = schema instanceof z.core.$ZodDiscriminatedUnion ? schema._zod.def.options : [schema];
  return all.map((each) => (each instanceof z.core.$ZodObject && !each._zod.def.checks?.length ? each : null));
}

/** Values that are remembered of a field: labels, colours and moments come again and again. */
const MOST_REMEMBERED = 10_000;

/** Whether a field may hold a value; false where that is not known by the field alone. A record has a million of them. */
function holdsOf(field: z.core.$ZodType | undefined): (value: unknown) => boolean {
  if (!field) return () => false;
  const good = new Set<unknown>();
  return (value) => {
    if (good.has(value)) return true;
    const isGood = z.safeParse(field, value).success;
    const isOne = typeof value !== "object" || value === null;
    if (isGood && isOne && good.size < MOST_REMEMBERED) good.add(value);
    return isGood;
  };
}

function columnOf(field: string, shapes: readonly ObjectShape[]): Column {
  const found = shapes.flatMap(({ properties }) => properties[field] ?? []);
  const types = new Set(found.flatMap(typesOf));
  const nullable = types.delete("null") || found.length < shapes.length;
  const name = field.replaceAll(/[A-Z]/g, (letter) => `_${letter.toLowerCase()}`);
  const only = types.size === 1 ? [...types][0] : types.has("number") ? "number" : "object";
  if (only === "boolean") return { field, name, type: "INTEGER", nullable, kept: "yes-no" };
  if (only === "string") return { field, name, type: "TEXT", nullable, kept: "plain" };
  if (only === "integer") return { field, name, type: "INTEGER", nullable, kept: "plain" };
  if (only === "number") return { field, name, type: "REAL", nullable, kept: "plain" };
  return { field, name, type: "TEXT", nullable, kept: "json" };
}

function typesOf({ type, anyOf = [], const: only }: Shape): string[] {
  const own = type === undefined ? (only === undefined ? [] : [typeof only]) : [type].flat();
  const all = [...own, ...anyOf.flatMap(typesOf)];
  // a whole number given as a constant is kept as one
  return Number.isInteger(only) || anyOf.some((each) => Number.isInteger(each.const)) ? ["integer"] : all;
}

function toCell(value: unknown, { kept }: Column): unknown {
  if (value === undefined || value === null) return null;
  if (kept === "json") return JSON.stringify(value);
  return kept === "yes-no" ? Number(value) : value;
}

function fromCell(cell: unknown, { kept }: Column): unknown {
  if (cell === null) return null;
  if (kept === "json") return JSON.parse(String(cell));
  return kept === "yes-no" ? cell === 1 : cell;
}
