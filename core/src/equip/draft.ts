import { removal } from "../record/cascade.ts";
import { applyUnchecked, type Edit, type EditGroup } from "../record/edits.ts";
import { find, freshId, inheritIndex } from "../record/find.ts";
import type { Kind, RailwayRecord, ValueOf } from "../record/kinds.ts";
import type { Assignment, Device, Place, Role } from "../record/schemas.ts";

type Given<R extends Role> = Omit<Extract<Assignment, { role: R }>, "id" | "role">;

/** Edits in the making: each is applied to a working copy, so that the next one sees it. */
export class Draft {
  record: RailwayRecord;
  /** The last edit of each thing touched, by `kind:id`. */
  private readonly last = new Map<string, Exclude<Edit, { op: "railway" }>>();
  /** How many devices have a label, in lower case; known from when the first is added. */
  private labels: Map<string, number> | null = null;
  /** Numbers up to which all labels of a prefix are taken; until a label is given up. */
  private readonly takenUpTo = new Map<string, number>();

  constructor(private readonly before: RailwayRecord) {
    this.record = before;
  }

  /** What has been done so far, one edit for each thing that is not as it was. */
  get edits(): Edit[] {
    return [...this.last.values()].filter((edit) => edit.op === "put" || find(this.before, edit.kind, edit.id));
  }

  put<K extends Kind>(kind: K, value: ValueOf<K>): void {
    this.apply({ op: "put", kind, value } as Exclude<Edit, { op: "railway" }>);
  }

  remove(kind: Kind, id: string): void {
    this.apply({ op: "remove", kind, id });
  }

  /** Removes a thing with what cannot be without it, as the table of kinds says. */
  removeWhole(kind: Kind, id: string): void {
    for (const edit of removal(this.record, kind, id)) this.apply(edit);
  }

  /** A new device with the first free label of its prefix, or with the label wished for when that is free. */
  addDevice(typeId: string, prefix: string, place: Place, wish?: string): Device {
    const label = wish !== undefined && !this.isTaken(wish) ? wish : this.freshLabel(prefix);
    const device: Device = {
      id: freshId(this.record, "device", label),
      typeId,
      label,
      place,
      runMetres: null,
      note: "",
    };
    this.put("device", device);
    return device;
  }

  assign<R extends Role>(role: R, given: Given<R>): void {
    const id = freshId(this.record, "assignment", `${role}-${Object.values(given).slice(0, 2).join("-")}`);
    this.put("assignment", { id, role, ...given } as unknown as Assignment);
  }

  /** Removes the assignments that match. */
  unassign(match: (assignment: Assignment) => boolean): void {
    for (const assignment of this.record.assignments.filter(match)) this.remove("assignment", assignment.id);
  }

  /** Takes in what another edit would do to the working copy; nothing of null. */
  take(group: EditGroup | null): void {
    for (const edit of group?.edits ?? []) if (edit.op !== "railway") this.apply(edit);
  }

  group(words: string): EditGroup {
    return { words: words.slice(0, 200), edits: this.edits };
  }

  private freshLabel(prefix: string): string {
    let number = (this.takenUpTo.get(prefix) ?? 0) + 1;
    while (this.isTaken(`${prefix}${number}`)) number++;
    this.takenUpTo.set(prefix, number - 1);
    return `${prefix}${number}`;
  }

  private isTaken(label: string): boolean {
    if (!this.labels) {
      this.labels = new Map();
      for (const device of this.record.devices) this.count(device, 1);
    }
    return (this.labels.get(label.toLowerCase()) ?? 0) > 0;
  }

  private count(device: Device | undefined, change: 1 | -1): void {
    if (!device || !this.labels) return;
    const label = device.label.toLowerCase();
    this.labels.set(label, (this.labels.get(label) ?? 0) + change);
  }

  /** Keeps the labels up to date when a device comes, goes, or is called otherwise. */
  private relabel(before: Device | undefined, now: Device | undefined): void {
    if (before?.label === now?.label) return;
    this.count(before, -1);
    this.count(now, 1);
    if (before) this.takenUpTo.clear();
  }

  private apply(edit: Exclude<Edit, { op: "railway" }>): void {
    const id = edit.op === "put" ? edit.value.id : edit.id;
    const { record } = applyUnchecked(this.record, [edit]);
    if (edit.kind === "device")
      this.relabel(find(this.record, "device", id), edit.op === "put" ? edit.value : undefined);
    inheritIndex(this.before, this.record, record, edit.kind, id);
    this.record = record;
    this.last.set(`${edit.kind}:${id}`, edit);
  }
}
