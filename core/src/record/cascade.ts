import type { Edit } from "./edits.ts";
import { find } from "./find.ts";
import { KIND_ENTRIES, type Kind, type RailwayRecord, type Removed, thingsOf } from "./kinds.ts";

/** An edit of a thing, the railway's own fields apart. */
type ThingEdit = Exclude<Edit, { op: "railway" }>;

/**
 * What it takes to remove a thing: everything that refers to it is removed, lets go of it, or becomes what the table of
 * kinds says; then the thing itself goes.
 *
 * @returns the edits in order, none when there is no such thing
 * @example removal(record, "turnout", "y1") // its motor, controls, lamps, tests and photos go; its readings stay
 */
export function removal(record: RailwayRecord, kind: Kind, id: string): ThingEdit[] {
  const removed: Removed | undefined = find(record, kind, id);
  if (!removed) return [];
  const edits: ThingEdit[] = [];
  for (const [holderKind, { refs = {} }] of KIND_ENTRIES) {
    const fields = Object.entries(refs).filter(([, { to }]) => to === kind);
    if (fields.length === 0) continue;
    for (const holder of thingsOf(record, holderKind)) {
      let now: { id: string } | null = holder;
      for (const [field, { onRemove }] of fields) {
        if (now === null || (now as Record<string, unknown>)[field] !== id) continue;
        if (onRemove === "remove") now = null;
        else now = onRemove === "clear" ? { ...now, [field]: null } : onRemove(now, removed);
      }
      if (now === null) edits.push(...removalOf(holderKind, holder.id));
      else if (now !== holder) edits.push({ op: "put", kind: holderKind, value: now } as ThingEdit);
    }
  }
  return once([...edits, { op: "remove", kind, id }]);

  function removalOf(holder: Kind, holderId: string): ThingEdit[] {
    // what refers to the holder in turn goes the same way; a thing does not hold itself
    return holder === kind && holderId === id ? [] : removal(record, holder, holderId);
  }
}

/** What refers to two things that go is named twice: it goes once, and nothing else becomes of it. */
function once(edits: readonly ThingEdit[]): ThingEdit[] {
  const nameOf = (edit: ThingEdit) => `${edit.kind} ${edit.op === "put" ? edit.value.id : edit.id}`;
  const gone = new Set(edits.flatMap((edit) => (edit.op === "remove" ? [nameOf(edit)] : [])));
  const seen = new Set<string>();
  return edits.filter((edit) => {
    const name = nameOf(edit);
    if (edit.op === "put") return !gone.has(name);
    if (seen.has(name)) return false;
    seen.add(name);
    return true;
  });
}
