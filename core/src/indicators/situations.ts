import { figureValue, findType } from "../catalogue/catalogue.ts";
import type { DeviceType } from "../catalogue/deviceType.ts";
import { opensFrom, protectionOf } from "../catalogue/protection.ts";
import { traitsOf } from "../catalogue/traits.ts";
import type { Element } from "../circuit/elements.ts";
import type { OperatingPoint } from "../circuit/solution.ts";
import { type Circuitry, SHORT_OHMS } from "../readings/circuitry.ts";
import { inputNode } from "../readings/models.ts";
import type { Extra } from "../readings/solving.ts";
import { bothHalves, type RailwayState, turnedIf } from "../readings/states.ts";
import { AT_REST, stateFor } from "../readings/threadReading.ts";
import type { Position } from "../record/schemas.ts";
import { controlsOf, supplyOf, type Thread, type ThreadFrog, type ThreadLamp } from "../schematic/thread.ts";
import { type Knows, knowledgeOf } from "./knowledge.ts";

/** What an indicator shows: a position, both at once, nothing, or whatever it showed before. */
export type Shows = Position | "both" | "dark" | "as before";

/** What one lamp of a thread shows, situation by situation. */
export interface LampSituations {
  lampId: string;
  rows: Situation[];
}

/** What an indicator shows in one situation, while the turnout lies at normal and at reverse. */
export interface Situation {
  what: string;
  N: Shows;
  R: Shows;
  /** Whether somebody who looks at it is told the truth, told nothing, or deceived. */
  tells: "truth" | "nothing" | "lie";
}

/**
 * What a lamp of a thread shows when all is well and when something is not: each wire open, each two wires shorted, no
 * power, a dead frog - from the solved circuit of that state - and what follows from what it knows: a motor that sticks, a
 * link that came off, the computer off.
 */
export function situationsOf(circuitry: Circuitry, thread: Thread, lamp: ThreadLamp): Situation[] {
  const { knows } = knowledgeOf(thread, lamp);
  const looked = { circuitry, thread, lamp, knows, lies: liesOf(circuitry, thread, lamp) };
  const faults = lamp.type.leads
    ? wiredFaults(looked)
    : traitsOf(lamp.type).shows === "box"
      ? boxFaults(looked)
      : unwiredFaults(looked);
  const rows = [...faults, ...beyondWires(looked)];
  const frog = frogOf(looked);
  // which lamp should light at a frog hangs on the hand
  return frog?.turnout.hand === "unknown" ? rows.map((row) => ({ ...row, tells: "nothing" as const })) : rows;
}

/** A lamp that is looked at. */
interface Looked {
  circuitry: Circuitry;
  thread: Thread;
  lamp: ThreadLamp;
  knows: Knows;
  /** Where the blades lie when the turnout is asked for a position: a throw may fail, and a lamp that shows it does not lie. */
  lies: Record<Position, Position>;
}

function liesOf(circuitry: Circuitry, { motors }: Thread, { from, turnout }: ThreadLamp): Looked["lies"] {
  const motor =
    motors.find(({ device }) => device.id === from.device.id) ?? motors.find((each) => each.turnout.id === turnout.id);
  const at = (position: Position) =>
    motor ? (circuitry.motorGoesTo(motor.device.id, AT_REST[position]) ?? "N") : position;
  return { N: at("N"), R: at("R") };
}

function frogOf({ thread, lamp }: Looked): ThreadFrog | undefined {
  return thread.frogs.find(({ device }) => device.id === lamp.from.device.id);
}

function situation({ lies }: Looked, what: string, N: Shows, R: Shows): Situation {
  const wrong = (shown: Shows, position: Position) => (shown === "N" || shown === "R") && shown !== lies[position];
  const tells = wrong(N, "N") || wrong(R, "R") ? "lie" : N === lies.N && R === lies.R ? "truth" : "nothing";
  return { what, N, R, tells };
}

function wiredFaults(looked: Looked): Situation[] {
  const { circuitry, thread, lamp, knows } = looked;
  const { device, type, from } = lamp;
  const [normal, reverse, common] = type.leads as readonly [string, string, string];
  const key = (lead: string) => `${device.id}:${lead}`;
  const name = (lead: string) => nameOfLead(type, lead);
  const at = (position: Position, extra: Extra, off = false) =>
    shown(circuitry, lamp, { ...stateFor(thread, position, "rest"), off }, extra);
  const both = (what: string, extra: Extra, off = false) =>
    situation(looked, what, at("N", extra, off), at("R", extra, off));
  const open = (lead: string, what: string) => both(`${what} open`, { elements: [], loose: new Set([key(lead)]) });
  const shorted = (a: string, b: string, what: string) => {
    const bridge: Element = { kind: "resistor", id: "bridge", nodes: [key(a), key(b)], ohms: SHORT_OHMS };
    return both(`${what} touch`, { elements: [bridge] });
  };
  const supply = supplyOf(circuitry.record, device.id)?.device.label;
  const atFrog = traitsOf(from.type).inTrack === "frog";
  const dead = atFrog ? "no track power" : supply ? `no power at ${supply}` : "no power";
  return [
    both(knows === "last train" ? "all in order, after the first wheel" : "all in order", { elements: [] }),
    ...(knows === "last train" ? [situation(looked, "thrown, and no wheel over the frog since", "R", "N")] : []),
    open(normal, `wire of ${name(normal)}`),
    open(reverse, `wire of ${name(reverse)}`),
    open(common, "common wire"),
    shorted(normal, reverse, "the two colours' wires"),
    shorted(normal, common, `${name(normal)} and common`),
    shorted(reverse, common, `${name(reverse)} and common`),
    both(dead, { elements: [] }, true),
    ...(atFrog ? [both("frog dead", { elements: [], loose: deadFrog(thread, from.device.id) })] : []),
  ];
}

/** What a lamp's lead is called: by the colour that it lights. */
function nameOfLead({ leads, colours }: DeviceType, lead: string): string {
  const [normal, reverse] = colours ?? ["normal", "reverse"];
  if (normal === reverse) return lead === leads?.[0] ? "the one for N" : "the one for R";
  return lead === leads?.[0] ? normal : reverse;
}

/** The terminals whose wires feed a frog; open, they leave it dead while the lamp stays joined to it. */
function deadFrog({ frogs }: Thread, frogId: string): Set<string> {
  const frog = frogs.find(({ device }) => device.id === frogId);
  if (!frog?.from) return new Set();
  const way = frog.assignment.way ?? 1;
  return new Set([`${frog.from.device.id}:${frog.from.type.contactSets > 0 ? `S${way}c` : "F"}`]);
}

/** A box with an input shows one aspect when it is told nothing: a wire that is open looks like a sensor that is clear. */
function boxFaults(looked: Looked): Situation[] {
  const { circuitry, thread, lamp } = looked;
  const key = (end: string) => `${lamp.device.id}:${end}`;
  const covered = lamp.assignment.coveredAt ?? "R";
  const at = (position: Position, extra: Extra, off = false): Shows => {
    const state = { ...stateFor(thread, position, "rest"), off };
    const solved = circuitry.solveWith(key("I"), state, extra)?.point;
    const volts = (end: string) => solved?.between(key(end), key("−")) ?? 0;
    if (volts("+") < figureValue(lamp.type, "leastVolts")) return "dark";
    return turnedIf(
      volts(inputNode(lamp.type, "I")) >= figureValue(lamp.type, "thresholdVolts") !== lamp.assignment.crossed,
      covered,
    );
  };
  const both = (what: string, extra: Extra, off = false) =>
    situation(looked, what, at("N", extra, off), at("R", extra, off));
  const bridge: Element = { kind: "resistor", id: "bridge", nodes: [key("I"), key("−")], ohms: SHORT_OHMS };
  const supply = supplyOf(circuitry.record, lamp.device.id)?.device.label;
  const { label } = lamp.from.device;
  return [
    both("all in order", { elements: [] }),
    both(`wire from ${label} open, or its sensor blind`, { elements: [], loose: new Set([key("I")]) }),
    both(`${label} stays covered, by dust or sunlight`, { elements: [bridge] }),
    both(supply ? `no power at ${supply}` : "no power", { elements: [] }, true),
  ];
}

/** A semaphore without power stays where it stands; a flag needs none. */
function unwiredFaults(looked: Looked): Situation[] {
  const { circuitry, thread, lamp } = looked;
  const shows = (position: Position): Shows => {
    if (traitsOf(lamp.type).movedBy === "signal")
      return circuitry.semaphoreShows(lamp, AT_REST[position]) ?? "as before";
    const motor = thread.motors.find(({ turnout }) => turnout.id === lamp.turnout.id);
    return motor ? (circuitry.motorGoesTo(motor.device.id, AT_REST[position]) ?? "as before") : "as before";
  };
  const well = situation(looked, "all in order", shows("N"), shows("R"));
  if (traitsOf(lamp.type).movedBy !== "signal") return [well];
  return [
    well,
    situation(looked, "signal wire open", "as before", "as before"),
    situation(looked, "no power", "as before", "as before"),
  ];
}

/** What the solved circuit does not hold: things that move, and whoever sends the commands. */
function beyondWires({ knows, thread }: Looked): Situation[] {
  // the motor stays at normal whatever is asked, so that at reverse the blades are not where they should be
  const rows: Situation[] = [];
  const row = (what: string, tells: Situation["tells"], R: Shows) => rows.push({ what, N: "N", R, tells });
  if (knows === "command") row("asked for R, the motor sticks at N", "lie", "R");
  else row("asked for R, the motor sticks at N", "truth", "N");
  if (knows === "blades" || knows === "sensor") row("asked for R, the link came off at N", "truth", "N");
  else if (knows === "last train") row("asked for R, the link came off at N", "truth", "N");
  else row("asked for R, the link came off at N", "lie", "R");
  if (!byMessages(thread)) return rows;
  const what = "computer or command station off";
  // the command station gives the track its power, and with it what a lamp at the frog lives on
  if (knows === "frog" || knows === "last train") rows.push({ what, N: "dark", R: "dark", tells: "nothing" });
  else if (knows === "command") rows.push({ what, N: "as before", R: "as before", tells: "nothing" });
  else rows.push({ what, N: "N", R: "R", tells: "truth" });
  return rows;
}

/** Whether a turnout's commands pass through a computer or command station. */
function byMessages(thread: Thread): boolean {
  const driver = thread.motors[0]?.driver;
  const read = controlsOf(thread).some(({ reader }) => reader !== null);
  const own = controlsOf(thread).length > 0 && (driver?.type.ownInputs ?? false);
  return read || (driver?.type.hears !== undefined && !own) || driver?.type.hears === "bus";
}

/** What lights in a state, with something amiss. */
function shown(circuitry: Circuitry, { device, type }: ThreadLamp, state: RailwayState, extra: Extra): Shows {
  const [normal, reverse] = type.leads as readonly [string, string, string];
  const least = figureValue(type, "leastAmps");
  const key = `${device.id}:${normal}`;
  const lit = { normal: false, reverse: false };
  const halves = circuitry.isOnTrack(key) ? bothHalves(state) : [state];
  for (const half of halves) {
    const point = circuitry.solveWith(key, half, extra)?.point;
    // a supply that is shorted shuts down
    if (point && extra.elements.length > 0 && shortsSupply(circuitry, point)) return "dark";
    if ((point?.amps(`${device.id}.${normal}`) ?? 0) >= least) lit.normal = true;
    if ((point?.amps(`${device.id}.${reverse}`) ?? 0) >= least) lit.reverse = true;
  }
  if (lit.normal && lit.reverse) return "both";
  return lit.normal ? "N" : lit.reverse ? "R" : "dark";
}

/** Whether a supply gives more in a solved state than it shuts down from. */
function shortsSupply({ record }: Circuitry, point: OperatingPoint): boolean {
  return record.devices.some((device) => {
    const type = findType(record, device.typeId);
    const trips = type?.family === "supply" ? opensFrom(protectionOf(type)) : Number.POSITIVE_INFINITY;
    return Math.abs(point.prospective.amps(`${device.id}.inside`) ?? 0) > trips;
  });
}
