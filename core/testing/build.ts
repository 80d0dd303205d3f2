// Small railways for tests, made through the product's own edits.
import { edit } from "../src/catalogue/edit.ts";
import { Derived } from "../src/derive.ts";
import { Draft } from "../src/equip/draft.ts";
import { turnoutsFromTable } from "../src/equip/table.ts";
import { writeCell } from "../src/equip/write.ts";
import type { Finding } from "../src/findings/rule.ts";
import type { Edit } from "../src/record/edits.ts";
import { emptyRecord, type RailwayRecord } from "../src/record/kinds.ts";
import { PLAIN_TYPE } from "../src/record/schemas.ts";
import type { Thread } from "../src/schematic/thread.ts";

export const HEAD = ["label", "with", "motor", "driver", "control", "lamp", "frog"];

/** A railway from rows of label, with, motor, driver, control, lamp, frog; all turnouts are right-hand ones. */
export function railway(...rows: string[][]): RailwayRecord {
  const record = emptyRecord("Test");
  const handed = rows.map((row) => ["right", ...row]);
  return edit(record, turnoutsFromTable(record, [["hand", ...HEAD], ...handed]).edits).record;
}

/** Four turnouts: a coil pair on one unit, a crossover of stall motors on one output, lamps from contacts. */
export function smallRailway(): RailwayRecord {
  return railway(
    ["Y1", "", "twin-coil-under-board", "cdu", "toggle-centre-off", "lamp-two-colour"],
    ["Y2", "", "twin-coil-surface", "CD1", "toggle-centre-off", ""],
    ["M1", "", "stall-motor", "stall-decoder-8", "", "lamp-two-colour"],
    ["M2", "M1", "stall-motor", "", "", ""],
  );
}

/** Turnouts Y1, Y2 and so on with coil motors, all on one discharge unit, each with a centre-off toggle. */
export function coilStation(motors: number): RailwayRecord {
  const driver = (index: number) => (index === 0 ? "cdu" : "CD1");
  return railway(
    ...Array.from({ length: motors }, (_, index) => [
      ...[`Y${index + 1}`, "", "twin-coil-surface", driver(index), "toggle-centre-off"],
    ]),
  );
}

/** The record after typing into a cell. */
export function typed(record: RailwayRecord, turnoutId: string, column: string, text: string): RailwayRecord {
  const group = writeCell(record, turnoutId, column, text);
  return group ? edit(record, group.edits).record : record;
}

/** The record after edits made on a draft. */
export function drafted(record: RailwayRecord, make: (draft: Draft) => void): RailwayRecord {
  const draft = new Draft(record);
  make(draft);
  return edit(record, draft.edits).record;
}

/** The record with a motor's leads or mounting as given. */
export function mounted(
  record: RailwayRecord,
  turnoutId: string,
  how: { crossed?: boolean; opposite?: boolean },
): RailwayRecord {
  return drafted(record, (draft) => {
    const motor = record.assignments.find((a) => a.role === "motor" && a.turnoutId === turnoutId);
    if (motor?.role === "motor") draft.put("assignment", { ...motor, ...how });
  });
}

/** The record with one device of another type. */
export function retyped(record: RailwayRecord, label: string, typeId: string): RailwayRecord {
  return drafted(record, (draft) => {
    const device = record.devices.find((each) => each.label === label);
    if (!device) throw new Error(`No device ${label} in this test.`);
    draft.put("device", { ...device, typeId });
  });
}

/** The record with an own type of given figures fitted to a device. */
export function withFigures(record: RailwayRecord, label: string, figures: Record<string, number>): RailwayRecord {
  const device = record.devices.find((each) => each.label === label);
  if (!device) throw new Error(`No device ${label} in this test.`);
  const made = drafted(record, (draft) =>
    draft.put("type", {
      id: `own-${device.id}`,
      basedOn: record.types.find(({ id }) => id === device.typeId)?.basedOn ?? device.typeId,
      name: `own ${label}`,
      figures,
      ...PLAIN_TYPE,
    }),
  );
  return retyped(made, label, `own-${device.id}`);
}

/** Findings of one rule. */
export function findingsOf(record: RailwayRecord, ruleId: string): Finding[] {
  return new Derived(record).findings.filter((finding) => finding.ruleId === ruleId);
}

/** The record after a finding's remedy. */
export function remedied(record: RailwayRecord, finding: Finding, label: RegExp | string): RailwayRecord {
  const remedy = finding.remedies.find((each) =>
    typeof label === "string" ? each.label === label : label.test(each.label),
  );
  if (!remedy?.group)
    throw new Error(`No remedy ${label}; there are ${finding.remedies.map((each) => each.label).join(", ")}.`);
  return edit(record, remedy.group.edits as Edit[]).record;
}

export function threadOf(derived: Derived, label: string): Thread {
  const thread = derived.schematic.threads.find((each) => each.label === label);
  if (!thread) throw new Error(`No thread ${label} in this test.`);
  return thread;
}
