import * as z from "zod/mini";
import { checkRecord, tooMany } from "./checkRecord.ts";
import { KIND_ENTRIES, type RailwayRecord, thingsOf } from "./kinds.ts";
import { problemsOf, RecordError, recordError } from "./problems.ts";
import { Railway } from "./schemas.ts";

export const FILE_FORMAT = "alderman-railway";
export const FILE_VERSION = 13;
/** Largest railway file that is read, in characters: 5,000 turnouts with all their wires and 200 photos are 61 million. */
export const MOST_CHARACTERS = 100_000_000;
const MOST_NESTING = 12;

/** The file: format, version, the railway's own fields, and a list for each kind. A list that is missing is empty. */
export const RailwayFile = z.strictObject({
  format: z.literal(FILE_FORMAT),
  version: z.literal(FILE_VERSION),
  railway: Railway,
  ...Object.fromEntries(KIND_ENTRIES.map(([, { list, schema }]) => [list, z._default(z.array(schema), [])])),
}) as unknown as z.ZodMiniType<RailwayRecord & { format: string; version: number }>;

/** The JSON Schema (draft 2020-12) of a railway file, as text; what `npm run schema` publishes in docs/. */
export function railwayFileSchema(): string {
  const schema = z.toJSONSchema(RailwayFile, { io: "input", reused: "inline" });
  return `${JSON.stringify({ title: "Railway file of Alderman", ...schema }, null, 1)}\n`;
}

/**
 * A railway as the text of its open file; reads back to the same railway, and writes the same characters again.
 */
export function writeRailwayFile(record: RailwayRecord): string {
  return [...railwayFilePieces(record)].join("");
}

/** Things in one piece of a file. */
const THINGS_AT_ONCE = 400;

/** The same text in pieces, so that a large one need not be made at once. */
export function* railwayFilePieces(record: RailwayRecord): Generator<string> {
  const indented = (value: unknown, by: string) => JSON.stringify(value, null, 1).replaceAll("\n", `\n${by}`);
  const head = { format: FILE_FORMAT, version: FILE_VERSION, railway: Railway.parse(record.railway) };
  yield `{${Object.entries(head).map(([name, value]) => `\n "${name}": ${indented(value, " ")}`)}`;
  for (const [kind, { list, schema }] of KIND_ENTRIES) {
    const things = kind === "type" ? record.types.map(withFiguresInOrder) : thingsOf(record, kind);
    yield `,\n "${list}": [`;
    for (let from = 0; from < things.length; from += THINGS_AT_ONCE) {
      // parsing puts each thing's fields in the order of its schema
      const some = z.array(schema as z.ZodMiniType).parse(things.slice(from, from + THINGS_AT_ONCE));
      yield `${from > 0 ? "," : ""}${some.map((thing) => `\n  ${indented(thing, "  ")}`)}`;
    }
    yield things.length > 0 ? "\n ]" : "]";
  }
  yield "\n}\n";
}

function withFiguresInOrder(type: RailwayRecord["types"][number]): RailwayRecord["types"][number] {
  const inOrder = <T>(fields: Record<string, T>) =>
    Object.fromEntries(Object.entries(fields).sort(([a], [b]) => (a < b ? -1 : 1)));
  return { ...type, figures: inOrder(type.figures), printed: inOrder(type.printed) };
}

/**
 * Reads a railway file.
 *
 * @throws {RecordError} with a sentence for the owner when the text is too large, nested too deep, cut short, of another
 *   format or version, or breaks a rule of the record
 */
export function readRailwayFile(text: string): RailwayRecord {
  if (text.length > MOST_CHARACTERS) {
    throw recordError(
      `The file holds ${Math.round(text.length / 1e6)} million characters; a railway file may hold ${MOST_CHARACTERS / 1e6} million.`,
    );
  }
  requireShallow(text);
  const { format: _format, version: _version, ...record } = parseFile(parseJson(text));
  const problems = [...doubled(record), ...checkRecord(record)];
  if (problems.length > 0) throw new RecordError(problems);
  const inOrder = KIND_ENTRIES.map(([kind, { list }]) => [
    list,
    [...thingsOf(record, kind)].sort((a, b) => (a.id < b.id ? -1 : 1)),
  ]);
  return { ...record, ...Object.fromEntries(inOrder) };
}

function parseJson(text: string): unknown {
  try {
    return JSON.parse(text, (key, value) => {
      if (key === "__proto__" || key === "constructor" || key === "prototype") {
        throw recordError(`The file holds a field called "${key}", which no railway file has. It was not read.`);
      }
      return value;
    });
  } catch (error) {
    if (error instanceof RecordError) throw error;
    const where = text.trimEnd().endsWith("}") ? "" : " It seems to be cut short.";
    throw recordError(`The file is not a railway file: its text is not JSON.${where} Export the railway again.`);
  }
}

function parseFile(json: unknown): z.infer<typeof RailwayFile> {
  const head = z.object({ format: z.unknown(), version: z.unknown() }).safeParse(json);
  if (!head.success || head.data.format !== FILE_FORMAT) {
    throw recordError(`The file is not a railway file: it does not say "format": "${FILE_FORMAT}".`, ["format"]);
  }
  if (head.data.version === 1) return parseFile(fromVersion1(json as Record<string, unknown>));
  if (head.data.version === 2) return parseFile(fromVersion2(json as Record<string, unknown>));
  if (head.data.version === 3) return parseFile(fromVersion3(json as Record<string, unknown>));
  if (head.data.version === 4) return parseFile(fromVersion4(json as Record<string, unknown>));
  if (head.data.version === 5) return parseFile(fromVersion5(json as Record<string, unknown>));
  if (head.data.version === 6) return parseFile(fromVersion6(json as Record<string, unknown>));
  if (head.data.version === 7) return parseFile(fromVersion7(json as Record<string, unknown>));
  if (head.data.version === 8) return parseFile(fromVersion8(json as Record<string, unknown>));
  if (head.data.version === 9) return parseFile(fromVersion9(json as Record<string, unknown>));
  if (head.data.version === 10) return parseFile(fromVersion10(json as Record<string, unknown>));
  if (head.data.version === 11) return parseFile(fromVersion11(json as Record<string, unknown>));
  if (head.data.version === 12) return parseFile(fromVersion12(json as Record<string, unknown>));
  if (head.data.version !== FILE_VERSION) {
    throw recordError(
      `The file is of version ${JSON.stringify(head.data.version)?.slice(0, 20)}; this program reads versions 1 to ${FILE_VERSION}. Use the program that wrote it, or a newer one.`,
      ["version"],
    );
  }
  for (const [, { list, most }] of KIND_ENTRIES) {
    const things = (json as Record<string, unknown>)[list];
    if (Array.isArray(things) && things.length > most) throw recordError(tooMany(things.length, list, most), [list]);
  }
  const parsed = RailwayFile.safeParse(json);
  if (!parsed.success) throw new RecordError(problemsOf(parsed.error));
  return parsed.data;
}

/** A file of version 1, in which a control said less, a lamp named the motor whose contact lights it, readings were not kept and
 * strips and cables were of one size. */
function fromVersion1(json: Record<string, unknown>): unknown {
  const { assignments } = json;
  const railway = typeof json.railway === "object" ? { ...json.railway, stripWays: 12, cableCores: 8 } : json.railway;
  const now = { ...json, railway, version: 2 };
  if (!Array.isArray(assignments)) return now;
  const upgraded = assignments.map((assignment) => {
    if (typeof assignment !== "object" || assignment === null) return assignment;
    if (assignment.role === "control") return { ...assignment, way: null, to: null, inverse: false };
    if (assignment.role !== "lamp") return assignment;
    const { motorId, ...lamp } = assignment;
    return { ...lamp, fromId: motorId };
  });
  return { ...now, assignments: upgraded };
}

/** A file of version 2, in which own types had figures only, and nothing was said of senses, facts, debts and prices. */
function fromVersion2(json: Record<string, unknown>): unknown {
  const railway = typeof json.railway === "object" ? { ...json.railway, currency: "EUR" } : json.railway;
  const types = Array.isArray(json.types)
    ? json.types.map((type) => (typeof type === "object" ? { ...type, printed: {}, settings: [], box: "" } : type))
    : json.types;
  return { ...json, railway, types, version: 3 };
}

/** A file of version 3, in which an input read a control as a whole: it reads the first zone, output or pole that commands. */
function fromVersion3(json: Record<string, unknown>): unknown {
  const { assignments } = json;
  const now = { ...json, version: 4 };
  if (!Array.isArray(assignments)) return now;
  const wayOf = new Map<unknown, unknown>();
  for (const assignment of assignments) {
    if (assignment?.role === "control" && !wayOf.has(assignment.deviceId))
      wayOf.set(assignment.deviceId, assignment.way ?? null);
  }
  const upgraded = assignments.map((assignment) =>
    assignment?.role === "input" ? { ...assignment, controlWay: wayOf.get(assignment.controlId) ?? null } : assignment,
  );
  return { ...now, assignments: upgraded };
}

/** A file of version 4, in which lamps had the catalogue's colours, no control followed a level and no sensor lit a lamp. */
function fromVersion4(json: Record<string, unknown>): unknown {
  const { assignments, types } = json;
  const told = (things: unknown, more: (thing: { role?: unknown }) => object) =>
    Array.isArray(things)
      ? things.map((thing) => (typeof thing === "object" && thing !== null ? { ...thing, ...more(thing) } : thing))
      : things;
  return {
    ...json,
    version: 5,
    ...(types === undefined ? {} : { types: told(types, () => ({ colours: null })) }),
    ...(assignments === undefined
      ? {}
      : {
          assignments: told(assignments, ({ role }) =>
            role === "control" ? { follows: false } : role === "lamp" ? { coveredAt: null } : {},
          ),
        }),
  };
}

/**
 * A file of version 5, in which all wires were derived, commons went from motor to motor, and screws had their names by the
 * numbers of strips.
 */
function fromVersion5(json: Record<string, unknown>): unknown {
  const { readings, railway, zones } = json;
  const screw = (probe: unknown) =>
    typeof probe === "string"
      ? probe.replace(/^([PK]\d+):(\d+)$/, (_, strip, way) => `${strip.toLowerCase()}/${way}`)
      : probe;
  const laid = { commons: "bus", feeders: "chain", busGauge: "1.5 mm2", spacingMetres: 0.3 };
  return {
    ...json,
    version: 6,
    railway: typeof railway === "object" ? { ...railway, ...laid } : railway,
    ...(Array.isArray(zones) ? { zones: zones.map((zone) => ({ ...zone, commons: null })) } : {}),
    ...(Array.isArray(readings)
      ? { readings: readings.map((each) => ({ ...each, red: screw(each?.red), black: screw(each?.black) })) }
      : {}),
  };
}

/** A file of version 6, in which cables had the colours of signal cables, strips had no plugs, and no way was left free. */
function fromVersion6(json: Record<string, unknown>): unknown {
  const { railway } = json;
  const usual = { cableColours: "signal", spareShare: 0, tailMetres: 0.6, slackMetres: 0.025, reelMetres: 25 };
  return {
    ...json,
    version: 7,
    railway: typeof railway === "object" ? { ...railway, ...usual } : railway,
    ...(json.strips === undefined ? {} : { strips: withFields(json.strips, { pinAmps: null }) }),
    ...(json.cables === undefined ? {} : { cables: withFields(json.cables, { colours: null }) }),
  };
}

/** A file of version 7, in which all strips under the layout were beside the boards, and motors had single wires. */
function fromVersion7(json: Record<string, unknown>): unknown {
  const { railway } = json;
  const usual = { stripsAt: "boards", reachMetres: 2, coresBy: "number", motorTails: "wires", tailCores: 8 };
  const ofStrip = { zoneId: null, runMetres: null, front: false };
  return {
    ...json,
    version: 8,
    railway: typeof railway === "object" ? { ...railway, ...usual } : railway,
    ...(json.strips === undefined ? {} : { strips: withFields(json.strips, ofStrip) }),
    ...(json.cables === undefined ? {} : { cables: withFields(json.cables, { tail: false, zoneId: null }) }),
  };
}

/** A file of version 8, in which nothing was said of events, of plastic joints, of where settings are kept and of switches. */
function fromVersion8(json: Record<string, unknown>): unknown {
  const zones = json.zones === undefined ? {} : { zones: withFields(json.zones, { plasticJoints: 0 }) };
  const types = json.types === undefined ? {} : { types: typesOfVersion3(json.types) };
  return { ...json, version: 9, ...zones, ...types };
}

/** A file of version 9, which had no line diagram. */
function fromVersion9(json: Record<string, unknown>): unknown {
  const { railway } = json;
  return {
    ...json,
    version: 10,
    railway: typeof railway === "object" ? { ...railway, stepMetres: 0.1 } : railway,
  };
}

/** A file of version 10, in which nothing was said of scale and trains, nor of blades that feed their frog. */
function fromVersion10(json: Record<string, unknown>): unknown {
  const { railway } = json;
  const usual = { scale: 87.1, trainKmh: 60, trainMetres: 1.5 };
  return {
    ...json,
    version: 11,
    railway: typeof railway === "object" ? { ...railway, ...usual } : railway,
    ...(json.spots === undefined ? {} : { spots: withFields(json.spots, { powerRouting: false }) }),
  };
}

/** A file of version 11, which had no routes. */
function fromVersion11(json: Record<string, unknown>): unknown {
  const { railway } = json;
  return {
    ...json,
    version: 12,
    railway: typeof railway === "object" ? { ...railway, matrixBy: "fewest" } : railway,
  };
}

/** A file of version 12, in which all boards and supplies stood together. */
function fromVersion12(json: Record<string, unknown>): unknown {
  return {
    ...json,
    version: FILE_VERSION,
    ...(json.devices === undefined ? {} : { devices: withFields(json.devices, { runMetres: null }) }),
  };
}

/** Own types of which nothing was said of where settings are kept and of switches. */
export function typesOfVersion3(types: unknown): unknown {
  const withNumbers = (type: object) =>
    "settings" in type ? { ...type, settings: withFields(type.settings, { number: "" }) } : type;
  const now = withFields(types, { switches: null });
  return Array.isArray(now) ? now.map((type) => (typeof type === "object" && type ? withNumbers(type) : type)) : now;
}

/** Things of a file with fields that they had not yet. */
function withFields(things: unknown, fields: object): unknown {
  if (!Array.isArray(things)) return things;
  return things.map((thing) => (typeof thing === "object" && thing !== null ? { ...thing, ...fields } : thing));
}

/** Refuses nesting that no railway file has, before anything walks into it. */
function requireShallow(text: string): void {
  let depth = 0;
  let inString = false;
  for (let index = 0; index < text.length; index++) {
    const code = text.charCodeAt(index);
    if (inString) {
      if (code === 92) index++;
      else if (code === 34) inString = false;
    } else if (code === 34) inString = true;
    else if (code === 123 || code === 91) {
      if (++depth > MOST_NESTING) {
        throw recordError(`The file is nested more than ${MOST_NESTING} deep; no railway file is. It was not read.`);
      }
    } else if (code === 125 || code === 93) depth--;
  }
}

function doubled(record: RailwayRecord) {
  const problems = [];
  for (const [kind, { list }] of KIND_ENTRIES) {
    const seen = new Set<string>();
    for (const [index, { id }] of thingsOf(record, kind).entries()) {
      if (seen.has(id))
        problems.push({ path: [list, index, "id"], message: `Two ${list} have the identifier "${id}".` });
      seen.add(id);
    }
  }
  return problems.slice(0, 10);
}
