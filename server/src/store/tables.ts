import type { Assignment, Kind, TestResult, ValueOf } from "@alderman/core";

export type Row = Record<string, unknown>;

/** How one kind of thing is kept: its table, its columns, and how a value becomes a row and a row a value. */
interface Table<K extends Kind> {
  name: string;
  columns: readonly string[];
  toRow: (value: ValueOf<K>) => unknown[];
  fromRow: (row: Row) => ValueOf<K>;
}

const ROLE_FIELDS: Record<Assignment["role"], readonly string[]> = {
  motor: ["turnoutId", "crossed", "opposite"],
  driver: ["way", "motorId"],
  control: ["turnoutId", "way", "to", "inverse"],
  lamp: ["turnoutId", "fromId", "way", "crossed"],
  frog: ["turnoutId", "fromId", "way", "crossed"],
  input: ["way", "controlId"],
  block: ["way", "block", "rail"],
  supply: ["toDeviceId"],
  commands: ["toDeviceId"],
  address: ["way", "address"],
};

const ASSIGNMENT_COLUMNS: Record<string, string> = {
  turnoutId: "turnout_id",
  toDeviceId: "to_device_id",
  motorId: "motor_id",
  fromId: "from_id",
  controlId: "control_id",
  way: "way",
  crossed: "crossed",
  opposite: "opposite",
  address: "address",
  to: "to_position",
  inverse: "inverse",
  block: "block",
  rail: "rail",
};

const YES_OR_NO: readonly string[] = ["crossed", "opposite", "inverse"];

/** How each kind of thing is kept. */
export const TABLES: { [K in Kind]: Table<K> } = {
  zone: {
    name: "zone",
    columns: ["label", "name", "place"],
    toRow: (zone) => [zone.label, zone.name, zone.order],
    fromRow: (row) => ({ id: row.id, label: row.label, name: row.name, order: row.place }) as ValueOf<"zone">,
  },
  turnout: {
    name: "turnout",
    columns: ["label", "name", "hand", "zone_id", "moves_with", "run_metres", "place", "note"],
    toRow: (t) => [t.label, t.name, t.hand, t.zoneId, t.movesWith, t.runMetres, t.order, t.note],
    fromRow: (row) =>
      ({
        id: row.id,
        label: row.label,
        name: row.name,
        hand: row.hand,
        zoneId: row.zone_id,
        movesWith: row.moves_with,
        runMetres: row.run_metres,
        order: row.place,
        note: row.note,
      }) as ValueOf<"turnout">,
  },
  type: {
    name: "own_type",
    columns: ["based_on", "name", "box"],
    toRow: (type) => [type.basedOn, type.name, type.box],
    fromRow: (row) =>
      ({
        ...{ id: row.id, basedOn: row.based_on, name: row.name, box: row.box },
        ...{ figures: {}, printed: {}, settings: [] },
      }) as unknown as ValueOf<"type">,
  },
  device: {
    name: "device",
    columns: ["type_id", "label", "place", "note"],
    toRow: (device) => [device.typeId, device.label, device.place, device.note],
    fromRow: (row) =>
      ({ id: row.id, typeId: row.type_id, label: row.label, place: row.place, note: row.note }) as ValueOf<"device">,
  },
  assignment: {
    name: "assignment",
    columns: ["role", "device_id", ...Object.values(ASSIGNMENT_COLUMNS)],
    toRow: (assignment) => {
      const fields = assignment as unknown as Row;
      const cells = Object.keys(ASSIGNMENT_COLUMNS).map((field) => toCell(fields[field]));
      return [assignment.role, assignment.deviceId, ...cells];
    },
    fromRow: (row) => {
      const assignment: Row = { id: row.id, role: row.role, deviceId: row.device_id };
      for (const field of ROLE_FIELDS[row.role as Assignment["role"]]) {
        const cell = row[ASSIGNMENT_COLUMNS[field] ?? field];
        assignment[field] = YES_OR_NO.includes(field) ? cell === 1 : cell;
      }
      return assignment as unknown as Assignment;
    },
  },
  test: {
    name: "test",
    columns: [
      "turnout_id",
      "step",
      "position",
      "unit",
      "expected",
      "low",
      "high",
      "read",
      "seen",
      "verdict",
      "instrument",
      "note",
      "at",
    ],
    toRow: (t) => [
      t.turnoutId,
      t.step,
      t.position,
      t.unit,
      t.expected,
      t.low,
      t.high,
      t.read,
      t.seen,
      t.verdict,
      t.instrument,
      t.note,
      t.at,
    ],
    fromRow: ({ railway_id, turnout_id, ...row }) =>
      ({ ...row, turnoutId: turnout_id, chain: {} }) as unknown as TestResult,
  },
  reading: {
    name: "reading",
    columns: [
      "red",
      "black",
      "red_name",
      "black_name",
      "range",
      "turnout_id",
      "position",
      "moment",
      "expected",
      "low",
      "high",
      "read",
      "agrees",
      "at",
    ],
    toRow: (r) => [
      r.red,
      r.black,
      r.redName,
      r.blackName,
      r.range,
      r.turnoutId,
      r.position,
      r.moment,
      r.expected,
      r.low,
      r.high,
      r.read,
      toCell(r.agrees),
      r.at,
    ],
    fromRow: ({ railway_id, red_name, black_name, turnout_id, agrees, ...row }) =>
      ({
        ...row,
        redName: red_name,
        blackName: black_name,
        turnoutId: turnout_id,
        agrees: agrees === 1,
      }) as unknown as ValueOf<"reading">,
  },
  acceptance: {
    name: "acceptance",
    columns: ["rule", "subject", "cause", "reason", "at"],
    toRow: (a) => [a.rule, a.subject, a.cause, a.reason, a.at],
    fromRow: ({ railway_id, ...row }) => row as unknown as ValueOf<"acceptance">,
  },
  sense: {
    name: "sense",
    columns: ["link", "device_id", "way", "inverts", "known", "flips", "note", "at"],
    toRow: (s) => [s.link, s.deviceId, s.way, toCell(s.inverts), s.known, s.flips, s.note, s.at],
    fromRow: ({ railway_id, device_id, inverts, ...row }) =>
      ({ ...row, deviceId: device_id, inverts: inverts === 1 }) as unknown as ValueOf<"sense">,
  },
  fact: {
    name: "fact",
    columns: ["text", "standing", "type_id", "figure", "device_id", "source", "at"],
    toRow: (f) => [f.text, f.standing, f.typeId, f.figure, f.deviceId, f.source, f.at],
    fromRow: ({ railway_id, type_id, device_id, ...row }) =>
      ({ ...row, typeId: type_id, deviceId: device_id }) as unknown as ValueOf<"fact">,
  },
  debt: {
    name: "debt",
    columns: ["kind", "text", "blocks", "turnout_id", "done", "at"],
    toRow: (d) => [d.kind, d.text, d.blocks, d.turnoutId, toCell(d.done), d.at],
    fromRow: ({ railway_id, turnout_id, done, ...row }) =>
      ({ ...row, turnoutId: turnout_id, done: done === 1 }) as unknown as ValueOf<"debt">,
  },
  photo: {
    name: "photo",
    columns: ["turnout_id", "device_id", "caption", "picture", "at"],
    toRow: (p) => [p.turnoutId, p.deviceId, p.caption, p.picture, p.at],
    fromRow: ({ railway_id, turnout_id, device_id, ...row }) =>
      ({ ...row, turnoutId: turnout_id, deviceId: device_id }) as unknown as ValueOf<"photo">,
  },
};

function toCell(value: unknown): unknown {
  return typeof value === "boolean" ? Number(value) : (value ?? null);
}
