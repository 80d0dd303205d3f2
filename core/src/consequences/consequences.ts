import { findType } from "../catalogue/catalogue.ts";
import { edit } from "../catalogue/edit.ts";
import { Derived } from "../derive.ts";
import { ACTION_WORDS } from "../events/edits.ts";
import type { Finding } from "../findings/rule.ts";
import { feederWords } from "../line/rails.ts";
import { CABLE_COLOUR_WORDS } from "../loom/colours.ts";
import { endNames } from "../loom/endNames.ts";
import { placeWords } from "../loom/places.ts";
import type { Loom } from "../loom/wire.ts";
import { STEP_WORDS, wireNames } from "../loom/work.ts";
import { type Edit, type EditGroup, touchedThings } from "../record/edits.ts";
import { find } from "../record/find.ts";
import { KINDS, type Kind, type RailwayRecord } from "../record/kinds.ts";
import { standingOfWire, WIRE_STEPS } from "../record/made.ts";
import { PURPOSES } from "../record/purposes.ts";
import type { Assignment, Railway } from "../record/schemas.ts";
import { terminalName } from "../schematic/nets.ts";
import { devicesOfThread, fitted } from "../schematic/thread.ts";
import { PLACES } from "../sense/places.ts";
import { figureWords } from "../units/figureWords.ts";
import { amps } from "../units/format.ts";
import { ownOf } from "../units/ownOf.ts";
import { WIRE_COLOURS } from "../units/wireColours.ts";

/** One thing that an edit changes, in plain words. */
export interface Touched {
  what: string;
  from: string;
  to: string;
}

/** What an edit would do to the findings. */
export interface Consequence {
  /** Sentences of findings that go, and of those that come. */
  cured: string[];
  raised: string[];
  /** Readings that change, of turnouts with a device of a type that is changed. */
  readings: { label: string; what: string; from: string; to: string }[];
  /** What it would change of the loom: wires that are new, that go, and made ones that would be in the way. */
  loom: string[];
}

/** What a group of edits changes of the record, thing by thing, as it was and as it will be. */
export function touchedWords(record: RailwayRecord, edits: readonly Edit[]): Touched[] {
  const next = edit(record, edits).record;
  return [...touchedThings(edits).values()].flatMap((thing): Touched[] => {
    if (thing.kind === "railway") return railwayWords(record.railway, next.railway);
    const { kind, id } = thing;
    const words = { from: describe(record, kind, id), to: describe(next, kind, id) };
    if (words.from === words.to) return [];
    const isAddress = kind === "assignment" && (find(next, kind, id) ?? find(record, kind, id))?.role === "address";
    // an output always answers to something
    const [none, gone] = isAddress ? ["as the factory set it", "as the factory set it"] : ["not there", "taken away"];
    return [{ what: nameOf(record, next, kind, id), from: words.from ?? none, to: words.to ?? gone }];
  });
}

/** What the settings of a railway are called. */
const SETTINGS: Record<keyof Railway, string> = {
  ...{ name: "Name", units: "Units", addressShift: "Shift of addresses", wireGauge: "All wires" },
  ...{ cableGauge: "All cables", stripWays: "Ways of a strip", cableCores: "Cores of a cable", currency: "Currency" },
  ...{ commons: "Commons of pulses", feeders: "Feeders of track and supplies", busGauge: "Trunks of a bus" },
  ...{ stepMetres: "A step of the line diagram, m", scale: "Scale, 1 to", trainKmh: "Speed of trains, km/h" },
  trainMetres: "The longest train, m",
  ...{ spacingMetres: "From one turnout to the next, m", tailMetres: "From a control to its strip, m" },
  ...{ slackMetres: "Slack at each end, m", reelMetres: "Length of a reel, m", cableColours: "Colours of cores" },
  ...{ spareShare: "Share left spare", stripsAt: "Where new strips are put", reachMetres: "Reach of a strip, m" },
  matrixBy: "How diode boards are built",
  ...{ coresBy: "Which core a net gets", motorTails: "Tails of motors", tailCores: "Cores of a tail" },
  ...{ cableMetres: "Length of a cable, m", runMetres: "Usual run, m", note: "Note" },
};

function railwayWords(before: Railway, now: Railway): Touched[] {
  return (Object.keys(SETTINGS) as (keyof Railway)[]).flatMap((field) =>
    before[field] === now[field]
      ? []
      : [{ what: SETTINGS[field], from: String(before[field]), to: String(now[field]) }],
  );
}

function nameOf(record: RailwayRecord, next: RailwayRecord, kind: string, id: string): string {
  const device = find(next, "device", id) ?? find(record, "device", id);
  if (kind === "device" && device) return device.label;
  if (kind === "turnout") return find(next, "turnout", id)?.label ?? id;
  if (kind === "type") return find(next, "type", id)?.name ?? id;
  if (kind === "strip" || kind === "cable") {
    const thing = find(next, kind, id) ?? find(record, kind, id);
    return thing ? `${kind} ${thing.label}` : id;
  }
  if (kind === "custom") return customName(next, id) ?? customName(record, id) ?? id;
  if (kind === "setting" || kind === "answer") {
    const thing = find(next, kind, id) ?? find(record, kind, id);
    const label = find(next, "device", thing?.deviceId ?? "")?.label ?? thing?.deviceId;
    const of = thing?.way == null ? label : `${label}-${thing.way}`;
    return thing && "name" in thing ? `${thing.name} of ${of}` : `What ${of} answers to`;
  }
  if (kind === "spot") {
    const spot = find(next, kind, id) ?? find(record, kind, id);
    return `where ${find(next, "turnout", spot?.turnoutId ?? "")?.label ?? spot?.turnoutId} lies`;
  }
  if (kind === "route") return `route ${(find(next, kind, id) ?? find(record, kind, id))?.label ?? id}`;
  if (kind === "routeTurnout" || kind === "routeControl") {
    const thing = find(next, kind, id) ?? find(record, kind, id);
    const route = (find(next, "route", thing?.routeId ?? "") ?? find(record, "route", thing?.routeId ?? ""))?.label;
    if (thing && "turnoutId" in thing) return `${labelOfTurnout(record, next, thing.turnoutId)} in route ${route}`;
    return `What asks for route ${route}`;
  }
  if (kind === "boardPart") {
    const part = find(next, kind, id) ?? find(record, kind, id);
    return part ? `${find(next, "device", part.deviceId)?.label ?? part.deviceId}, ${part.from} to ${part.to}` : id;
  }
  if (kind === "track") return "track";
  if (kind === "outline") return (find(next, kind, id) ?? find(record, kind, id))?.what ?? "outline";
  if (kind === "mark") return markName(next, id) ?? markName(record, id) ?? "mark";
  if (kind === "event") return `event ${(find(next, kind, id) ?? find(record, kind, id))?.label}`;
  if (kind === "producer" || kind === "consumer" || kind === "taught") {
    const link = find(next, kind, id) ?? find(record, kind, id);
    if (!link) return id;
    const of = `${find(next, "device", link.deviceId)?.label ?? link.deviceId}-${link.way}`;
    if (!("eventId" in link)) return `What ${of} was taught of event ${link.node}, ${link.number}`;
    return `${of} upon event ${(find(next, "event", link.eventId) ?? find(record, "event", link.eventId))?.label}`;
  }
  const wire = kind === "wire" ? (find(next, "wire", id) ?? find(record, "wire", id)) : undefined;
  if (wire) return `W${wire.number}`;
  if (kind === "assignment") {
    const assignment = find(next, "assignment", id) ?? find(record, "assignment", id);
    return assignment
      ? ((find(next, "device", assignment.deviceId) ?? find(record, "device", assignment.deviceId))?.label ?? id)
      : id;
  }
  return KINDS[kind as Kind]?.title ?? kind;
}

function labelOfTurnout(record: RailwayRecord, next: RailwayRecord, id: string): string {
  return (find(next, "turnout", id) ?? find(record, "turnout", id))?.label ?? id;
}

/** What is said of a route, of its turnouts and controls, and of what lies on a diode board; null where it is not there. */
function routeWords(
  record: RailwayRecord,
  kind: "route" | "routeTurnout" | "routeControl" | "boardPart",
  id: string,
): string | null {
  const device = (deviceId: string) => find(record, "device", deviceId)?.label ?? deviceId;
  if (kind === "route") return find(record, kind, id)?.label ?? null;
  if (kind === "routeTurnout") {
    const each = find(record, kind, id);
    return each ? `to ${each.to}` : null;
  }
  if (kind === "routeControl") {
    const each = find(record, kind, id);
    if (!each) return null;
    const name = each.way === null ? device(each.deviceId) : `${device(each.deviceId)}-${each.way}`;
    return each.throughId === null ? name : `${name}, with ${device(each.throughId)} held`;
  }
  const part = find(record, kind, id);
  if (!part) return null;
  const what = part.with === "wire" ? "a plain wire" : `a diode, band at ${part.turned ? part.from : part.to}`;
  return part.madeAt === null ? `${what}, kept` : `${what}, soldered`;
}

/** A mark of the line as its owner would call it, as "signal S3". */
function markName(record: RailwayRecord, id: string): string | null {
  const mark = find(record, "mark", id);
  if (!mark) return null;
  if ("name" in mark) return `${mark.what} ${mark.name}`;
  return mark.what === "stand" ? `where ${find(record, "device", mark.deviceId)?.label} stands` : mark.what;
}

/** What a mark of the line says. */
function markWords(record: RailwayRecord, id: string): string | null {
  const mark = find(record, "mark", id);
  if (!mark) return null;
  const at = `at ${mark.x}, ${mark.y}`;
  switch (mark.what) {
    case "gap":
      return `${at}, in ${mark.rails === "both" ? "both rails" : `the ${mark.rails} rail`}`;
    case "feeder":
      return `${at}, ${feederWords(mark)}`;
    case "signal":
    case "sensor":
      return `${at}, towards ${mark.toX}, ${mark.toY}${mark.deviceId ? `, ${find(record, "device", mark.deviceId)?.label}` : ""}`;
    case "slip":
      return `${at}, ${mark.slip}${mark.other ? ", its other curve" : ""}`;
    case "end":
      return `${at}, ${mark.buffer ? "at a buffer" : "leading on"}`;
    case "stand":
      return `${at}${mark.alongMetres === null ? "" : `, ${mark.alongMetres} m along`}${mark.acrossMetres === null ? "" : `, ${mark.acrossMetres} m across`}`;
    default:
      return at;
  }
}

function describe(record: RailwayRecord, kind: string, id: string): string | null {
  if (kind === "device") {
    const device = find(record, "device", id);
    return device ? (findType(record, device.typeId)?.name ?? device.typeId) : null;
  }
  if (kind === "assignment") {
    const assignment = find(record, "assignment", id);
    return assignment ? assignmentWords(record, assignment) : null;
  }
  if (kind === "type") {
    const type = find(record, "type", id);
    const base = type && findType(record, type.id);
    const figures = Object.entries(type?.figures ?? {}).map(([name, value]) => {
      const known = base && ownOf(base.figures, name);
      return known ? `${known.about}: ${figureWords(value, known.unit)}` : `${name} ${value}`;
    });
    return type ? figures.join(", ") || "as in the catalogue" : null;
  }
  if (kind === "turnout") return turnoutWords(record, id);
  if (kind === "wire") return madeWords(record, id);
  if (kind === "strip" || kind === "cable" || kind === "custom") return loomThingWords(record, kind, id);
  if (kind === "setting") {
    const setting = find(record, "setting", id);
    return setting ? `wanted ${setting.wanted ?? "as the factory set it"}, read ${setting.read ?? "never"}` : null;
  }
  if (kind === "track" || kind === "outline") {
    const points = find(record, kind, id)?.points;
    return points ? `from ${points[0]?.join(", ")} to ${points.at(-1)?.join(", ")}` : null;
  }
  if (kind === "spot") {
    const spot = find(record, "spot", id);
    const more = [spot?.turned ? "its other leg normal" : "", spot?.powerRouting ? "its blades feed its frog" : ""];
    return spot ? [`at ${spot.x}, ${spot.y}`, ...more.filter(Boolean)].join(", ") : null;
  }
  if (kind === "mark") return markWords(record, id);
  if (kind === "route" || kind === "routeTurnout" || kind === "routeControl" || kind === "boardPart")
    return routeWords(record, kind, id);
  if (kind === "answer") {
    const answer = find(record, "answer", id);
    return answer ? `${answer.address}, ${answer.how}` : null;
  }
  if (kind === "event") {
    const event = find(record, "event", id);
    const node = event?.nodeId ? find(record, "device", event.nodeId)?.label : null;
    return event ? `${node ? `long, of ${node},` : "short,"} ${event.number}` : null;
  }
  if (kind === "producer") {
    const producer = find(record, "producer", id);
    return producer ? "produces it" : null;
  }
  if (kind === "consumer" || kind === "taught") {
    const action = find(record, kind, id)?.action;
    return action === undefined ? null : action === null ? "unlearned" : ACTION_WORDS[action];
  }
  if (kind === "reserve") {
    const reserve = find(record, "reserve", id);
    return reserve ? `${reserve.first} to ${reserve.last}, ${reserve.what}` : null;
  }
  if (kind === "sense") {
    const sense = find(record, "sense", id);
    return sense ? `${PLACES[sense.link].name} ${sense.inverts ? "turns" : "does not turn"}, ${sense.known}` : null;
  }
  const thing = find(record, kind as Kind, id);
  return thing ? noteWords(thing) : null;
}

/** What is known of a wire; null for one that is only proposed, and follows from the plan. */
function madeWords(record: RailwayRecord, id: string): string | null {
  const wire = find(record, "wire", id);
  if (!wire || standingOfWire(wire) === "proposed") return null;
  const { from, to } = endNames(record, wire);
  const done = WIRE_STEPS.filter((step) => wire[step] !== null).map((step) => STEP_WORDS[step]);
  const standing = wire.outAt === null ? done.join(", ") || "kept" : "taken out";
  const cable = wire.cableId === null ? undefined : find(record, "cable", wire.cableId);
  return `from ${from} to ${to}${cable ? ` as ${cable.label}.${wire.core}` : ""}, ${standing}`;
}

/** What a colour by custom is the colour of. */
function customName(record: RailwayRecord, id: string): string | null {
  const custom = find(record, "custom", id);
  if (!custom) return null;
  const { purpose, deviceId, terminal } = custom;
  if (purpose !== null) return `wires for "${PURPOSES[purpose].about}"`;
  const device = deviceId === null ? undefined : find(record, "device", deviceId);
  return `lead at ${terminalName(device?.label ?? "", terminal ?? "")}`;
}

/** A strip, a cable or a colour by custom. */
function loomThingWords(record: RailwayRecord, kind: "strip" | "cable" | "custom", id: string): string | null {
  if (kind === "custom") {
    const custom = find(record, kind, id);
    return custom ? WIRE_COLOURS[custom.colour] : null;
  }
  if (kind === "strip") {
    const strip = find(record, kind, id);
    if (!strip) return null;
    const plug = strip.pinAmps === null ? "" : `, a plug of ${amps(strip.pinAmps)} a pin`;
    return `${strip.label}, ${strip.ways} ways${plug}, ${placeWords(record, strip)}`;
  }
  const cable = find(record, kind, id);
  if (!cable) return null;
  const { label, cores, gauge, metres, colours, tail, zoneId } = cable;
  const zone = zoneId === null ? undefined : find(record, "zone", zoneId)?.label;
  const more = [
    tail ? "a tail" : zone ? `to zone ${zone}` : null,
    gauge,
    metres === null ? null : `${metres} m`,
    colours && CABLE_COLOUR_WORDS[colours],
  ];
  return [`${label}, ${cores} cores`, ...more.filter((word) => word !== null)].join(", ");
}

function turnoutWords(record: RailwayRecord, id: string): string | null {
  const turnout = find(record, "turnout", id);
  if (!turnout) return null;
  const { label, name, hand, zoneId, movesWith, runMetres, note } = turnout;
  const zone = zoneId === null ? null : (find(record, "zone", zoneId)?.label ?? zoneId);
  const words = [
    ...[label, name, hand === "unknown" ? "" : `${hand} hand`, zone ?? "", note],
    movesWith === null ? "moves by itself" : `moves with ${find(record, "turnout", movesWith)?.label ?? movesWith}`,
    runMetres === null ? "" : `run ${runMetres} m`,
  ];
  return words.filter((word) => word !== "").join(", ");
}

/** What a note of the record says: a fact, a debt, a finding that is kept, a test. */
function noteWords(thing: object): string {
  const { text, standing, reason, verdict, label, name } = thing as Record<string, string | undefined>;
  const [what, how] = [text ?? reason ?? verdict ?? label ?? name ?? "noted", standing];
  return how ? `${what}, ${how}` : what;
}

/** What an assignment says, in plain words. */
function assignmentWords(record: RailwayRecord, a: Assignment): string {
  const label = (id: string | null) => (id === null ? "nothing" : (find(record, "device", id)?.label ?? id));
  const isContact = "fromId" in a && a.fromId !== null && fitted(record, a.fromId).type.contactSets > 0;
  const way = "way" in a && a.way !== null ? `-${isContact ? "S" : ""}${a.way}` : "";
  switch (a.role) {
    case "motor":
      return `leads ${a.crossed ? "crossed" : "straight"}, ${a.opposite ? "mounted the other way round" : "mounted as drawn"}`;
    case "driver":
      return `drives ${label(a.motorId)} from ${label(a.deviceId)}${way}`;
    case "control":
      return `commands ${find(record, "turnout", a.turnoutId)?.label ?? ""}${a.to ? ` to ${a.to}` : ""}${a.inverse ? ", labelled for the other line" : ""}${a.follows ? ", which follows it" : ""}`;
    case "lamp":
      return `lit by ${label(a.fromId)}${way}${a.coveredAt ? `, covered at ${a.coveredAt}` : ""}${a.crossed ? ", leads exchanged" : ""}`;
    case "frog":
      return `fed by ${label(a.fromId)}${way}${a.crossed ? ", rails exchanged" : ""}`;
    case "input":
      return `reads ${label(a.controlId)} at input ${a.way}`;
    case "block":
      return `watches ${a.block} in rail ${a.rail}`;
    case "resistor":
      return `piece ${a.way} in the common of ${label(a.lampId)}`;
    case "lock":
      return `locks out ${label(a.controlId)}`;
    case "supply":
      return `feeds ${label(a.toDeviceId)}`;
    case "commands":
      return `commands ${label(a.toDeviceId)}`;
    case "address":
      return `output ${a.way} answers to ${a.address}`;
  }
}

/**
 * What an edit would do to the findings: those that would go, and those that would come.
 * @param after what follows from the record with the edit; for who looks for its findings in steps
 */
export function consequencesOf(
  before: Derived,
  group: Pick<EditGroup, "edits">,
  after = new Derived(edit(before.record, group.edits).record, before),
): Consequence {
  const counted = (findings: readonly Finding[]) =>
    new Map(findings.filter(({ kept }) => kept === null).map(({ key, why }) => [key, why]));
  const [was, is] = [counted(before.findings), counted(after.findings)];
  return {
    cured: [...was].filter(([key]) => !is.has(key)).map(([, why]) => why),
    raised: [...is].filter(([key]) => !was.has(key)).map(([, why]) => why),
    readings: changedReadings(before, after, group.edits),
    loom: loomWords(before.loom, after.loom),
  };
}

/** What becomes of wires, in words; made ones that no longer serve are named each. */
export function loomWords(before: Loom, after: Loom): string[] {
  if (before === after) return [];
  const elements = ({ wires }: Loom) => new Set(wires.map(({ element }) => element));
  const [was, is] = [elements(before), elements(after)];
  const idle = new Set(before.idle.map(({ fact }) => fact.id));
  const inTheWay = after.idle.filter(({ fact }) => !idle.has(fact.id));
  const known = new Set(after.idle.map(({ fact }) => fact.id));
  const fresh = after.wires.filter(({ element, fact }) => !was.has(element) && fact === null);
  const gone = before.wires.filter(({ element, id }) => !is.has(element) && !known.has(id));
  return [
    ...(fresh.length > 0 ? [`New: ${wireNames(fresh)}`] : []),
    ...(gone.length > 0 ? [`No longer needed: ${wireNames(gone)}`] : []),
    ...inTheWay.map(({ fact, from, to }) => `Made, and without use then: W${fact.number} from ${from} to ${to}`),
  ];
}

/** Turnouts of which changed readings are told. */
const MOST_READINGS = 6;

/** What the driver gives and the lamp takes, where an edit of a type changes it. */
function changedReadings(before: Derived, after: Derived, edits: readonly Edit[]): Consequence["readings"] {
  const types = new Set(edits.flatMap((each) => (each.op === "put" && each.kind === "type" ? [each.value.id] : [])));
  if (types.size === 0) return [];
  const devices = new Set(before.record.devices.filter(({ typeId }) => types.has(typeId)).map(({ id }) => id));
  const concerned = before.schematic.threads.filter((thread) => devicesOfThread(thread).some((id) => devices.has(id)));
  const found: Consequence["readings"] = [];
  for (const thread of concerned) {
    if (found.length >= MOST_READINGS) break;
    const next = after.schematic.threads.find(({ turnout }) => turnout.id === thread.turnout.id);
    if (!next) continue;
    for (const moment of ["throwing", "rest"] as const) {
      const [was, is] = [before.reading(thread, "R", moment), after.reading(next, "R", moment)];
      const words = { throwing: "while it is thrown", rest: "at rest" }[moment];
      const tell = (what: string, from: number | null | undefined, to: number | null | undefined) => {
        if (from == null || to == null || amps(from) === amps(to)) return;
        found.push({ label: thread.label, what: `${what} ${words}`, from: amps(from), to: amps(to) });
      };
      tell("driver", was.driverAmps, is.driverAmps);
      for (const { device } of thread.lamps) {
        const [from, to] = [was, is].map(({ lamps }) => lamps.find(({ deviceId }) => deviceId === device.id)?.reverse);
        tell(device.label, from, to);
      }
    }
  }
  return found;
}
