import * as z from "zod/mini";
import { checkRecord } from "./checkRecord.ts";
import { Id, Text } from "./fields.ts";
import { indexAfter } from "./find.ts";
import { KIND_ENTRIES, KINDS, type Kind, LISTS, type RailwayRecord, thingsOf, type ValueOf } from "./kinds.ts";
import { RecordError } from "./problems.ts";
import { Railway } from "./schemas.ts";

/** A schema of `{ op: "put", kind, value }` for each kind of the table. */
const puts = KIND_ENTRIES.map(([kind, { schema }]) =>
  z.strictObject({ op: z.literal("put"), kind: z.literal(kind), value: schema }),
);
const Put = z.discriminatedUnion("kind", puts as [(typeof puts)[number], ...typeof puts]);

const Remove = z.strictObject({
  op: z.literal("remove"),
  kind: z.enum(Object.keys(KINDS) as [Kind, ...Kind[]]),
  id: Id,
});
const SetRailway = z.strictObject({ op: z.literal("railway"), value: Railway });

/** One typed change of the record: put a thing (new or instead of the one with its id), remove one, set the railway's own fields. */
export type Edit =
  | { [K in Kind]: { op: "put"; kind: K; value: ValueOf<K> } }[Kind]
  | { op: "remove"; kind: Kind; id: string }
  | { op: "railway"; value: Railway };
export const Edit = z.union([Put, Remove, SetRailway]) as unknown as z.ZodMiniType<Edit>;

/** Edits which are applied together or not at all, with what they do in plain words. */
export const EditGroup = z.strictObject({
  words: Text.check(z.minLength(1), z.maxLength(200)),
  edits: z
    .array(Edit)
    .check(z.minLength(1, "must hold at least one edit"), z.maxLength(20_000, "must hold at most 20000 edits")),
});
export type EditGroup = z.infer<typeof EditGroup>;

export interface Edited {
  record: RailwayRecord;
  /** Applied in this order they restore the record as it was. */
  inverses: Edit[];
}

/**
 * Applies edits to a record and gives the edits that undo them. The record given is not changed.
 *
 * @throws {RecordError} when a thing to be removed does not exist, or when the result breaks a rule of the record
 */
export function applyEdits(record: RailwayRecord, edits: readonly Edit[]): Edited {
  const edited = applyUnchecked(record, edits);
  indexAfter(edited.record, record);
  const problems = checkRecord(edited.record, record);
  if (problems.length > 0) throw new RecordError(problems);
  return edited;
}

/**
 * Applies edits without looking at the rules between things; for drafts that are checked as a whole later.
 *
 * @throws {RecordError} when a thing to be removed does not exist
 */
export function applyUnchecked(record: RailwayRecord, edits: readonly Edit[]): Edited {
  const next = { ...record };
  const copied = new Set<Kind>();
  const inverses: Edit[] = [];
  for (const [index, edit] of edits.entries()) {
    if (edit.op === "railway") {
      inverses.push({ op: "railway", value: next.railway });
      next.railway = edit.value;
      continue;
    }
    if (!copied.has(edit.kind)) copyList(next, edit.kind);
    copied.add(edit.kind);
    inverses.push(applyToList(next, edit, index));
  }
  return { record: next, inverses: inverses.reverse() };
}

/** A thing that edits touch, or the railway's own settings. */
export type Touch = { kind: Kind; id: string } | { kind: "railway" };

/** Which things a group of edits touches, each once, by a key that tells whether two groups meet. */
export function touchedThings(edits: readonly Edit[]): ReadonlyMap<string, Touch> {
  return new Map(
    edits.map((edit): [string, Touch] => {
      if (edit.op === "railway") return ["railway", { kind: "railway" }];
      const id = edit.op === "put" ? edit.value.id : edit.id;
      return [`${edit.kind}:${id}`, { kind: edit.kind, id }];
    }),
  );
}

/** An edit that puts a thing, typed by its kind. */
export function putEdit<K extends Kind>(kind: K, value: ValueOf<K>): Edit {
  return { op: "put", kind, value } as Edit;
}

/** An edit that removes a thing. */
export function removeEdit(kind: Kind, id: string): Edit {
  return { op: "remove", kind, id };
}

function copyList(record: RailwayRecord, kind: Kind): void {
  Object.assign(record, { [LISTS[kind]]: [...thingsOf(record, kind)] });
}

function applyToList(record: RailwayRecord, edit: Exclude<Edit, { op: "railway" }>, index: number): Edit {
  const list = record[LISTS[edit.kind]] as { id: string }[];
  const id = edit.op === "put" ? edit.value.id : edit.id;
  const at = placeOf(list, id);
  const old = list[at]?.id === id ? list[at] : undefined;
  if (edit.op === "put") {
    list.splice(at, old ? 1 : 0, edit.value);
    return old ? ({ op: "put", kind: edit.kind, value: old } as Edit) : removeEdit(edit.kind, id);
  }
  if (!old) {
    throw new RecordError([{ path: ["edits", index, "id"], message: `There is no ${edit.kind} "${id}" to remove.` }]);
  }
  list.splice(at, 1);
  return { op: "put", kind: edit.kind, value: old } as Edit;
}

/** Where `id` stands, or would stand, in a list kept in the order of identifiers. */
function placeOf(list: readonly { id: string }[], id: string): number {
  let low = 0;
  let high = list.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if ((list[middle]?.id ?? "") < id) low = middle + 1;
    else high = middle;
  }
  return low;
}
