import { applyUnchecked, type Edit, type EditGroup, putEdit, removeEdit } from "../record/edits.ts";
import { freshId } from "../record/find.ts";
import type { Assignment, Device, Kind, Place, RailwayRecord, Role, ValueOf } from "../record/schemas.ts";

type Given<R extends Role> = Omit<Extract<Assignment, { role: R }>, "id" | "role">;

/** Edits in the making: each is applied to a working copy, so that the next one sees it. */
export class Draft {
  readonly edits: Edit[] = [];

  constructor(public record: RailwayRecord) {}

  put<K extends Kind>(kind: K, value: ValueOf<K>): void {
    this.apply(putEdit(kind, value));
  }

  remove(kind: Kind, id: string): void {
    this.apply(removeEdit(kind, id));
  }

  /** A new device with the first free label of its prefix, or with the label wished for when that is free. */
  addDevice(typeId: string, prefix: string, place: Place, wish?: string): Device {
    const labels = new Set(this.record.devices.map((device) => device.label.toLowerCase()));
    let label = wish !== undefined && !labels.has(wish.toLowerCase()) ? wish : "";
    for (let number = 1; label === ""; number++) {
      if (!labels.has(`${prefix}${number}`.toLowerCase())) label = `${prefix}${number}`;
    }
    const device: Device = { id: freshId(this.record, "device", label), typeId, label, place, note: "" };
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

  group(words: string): EditGroup {
    return { words: words.slice(0, 200), edits: this.edits };
  }

  private apply(edit: Edit): void {
    this.edits.push(edit);
    this.record = applyUnchecked(this.record, [edit]).record;
  }
}
