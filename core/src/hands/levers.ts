import { type DeviceType, numbered } from "../catalogue/deviceType.ts";
import { traitsOf } from "../catalogue/traits.ts";
import type { DeviceState } from "../readings/kit.ts";
import type { Member } from "../readings/piece.ts";
import type { Position } from "../record/schemas.ts";

/** One way in which a lever can stand. */
export interface Setting {
  /** What stands so, with the device's label: "T1", "zone 2 of BD1". */
  name: (label: string) => string;
  /** How it stands: "at N", "occupied". */
  stands: string;
  /** Lasts only while a finger holds it. */
  held: boolean;
  /** The device's state when it stands so. */
  set: (state: DeviceState) => DeviceState;
}

/** Something about a device that a hand, a train, a board or a restart sets, however everything else stands. */
export interface Lever {
  deviceId: string;
  /** How it can stand; first how it is found at rest. */
  settings: readonly Setting[];
}

/**
 * All that can be set of a device, each by itself.
 * @param isJoined whether a terminal of it is wired to anything
 */
export function leversOf(
  { device, type }: Pick<Member, "device" | "type">,
  outputs: Iterable<number>,
  isJoined: (terminal: string) => boolean,
): Lever[] {
  const lever = (...settings: Setting[]): Lever => ({ deviceId: device.id, settings });
  if (type.family === "control") return [lever(...hands(type))];
  const ways = [...outputs];
  const levers: Lever[] = [];
  // what a free output is told makes no difference
  const paired = ways.filter((way) => ["A", "B"].some((side) => isJoined(`${way}${side}`)));
  if (type.drives === "pair") levers.push(...paired.map((way) => lever(sent(way, "N"), sent(way, "R"))));
  if (type.drives === "sink") levers.push(...ways.map((way) => lever(...switched(way, (at) => `${at}-${way}`))));
  if (type.drives === "contact")
    levers.push(...numbered(type.outputs).map((way) => lever(...switched(way, (at) => `relay ${way} of ${at}`))));
  else if (type.contactSets > 0) levers.push(lever(...arm(type)));
  if (traitsOf(type).inTrack === "polarity-unit") levers.push(lever(rail("N", "J"), rail("R", "K")));
  if (type.zones !== undefined) levers.push(...numbered(type.zones).map((zone) => lever(...train(zone, type))));
  if (traitsOf(type).gives === "track" && type.figures.engines?.value)
    levers.push(lever(...engines(type.figures.engines.value)));
  if (traitsOf(type).gives === "pins") {
    const pins = type.terminals.flatMap(({ name }) =>
      /^P\d+$/.test(name) && isJoined(name) ? Number(name.slice(1)) : [],
    );
    levers.push(...pins.map((pin) => lever(...switched(pin, (at) => `pin ${pin} of ${at}`))));
  }
  if (traitsOf(type).moving && type.figures.stalledAmps) levers.push(lever(...stopped()));
  return levers;
}

const itself = (label: string) => label;

function setting(stands: string, set: Setting["set"], name: Setting["name"] = itself, held = false): Setting {
  return { name, stands, held, set };
}

/** A control stays where it is put, or is made while it is held. */
function hands(type: DeviceType): Setting[] {
  const { asks } = traitsOf(type);
  const made = (position: Position | null, stands: string, held = false) =>
    setting(stands, (state) => ({ ...state, made: position }), itself, held);
  if (asks === "press") return [made(null, "let go"), made("N", "pressed", true)];
  const side = (position: Position) => (asks === "position" ? `at ${position === "N" ? 1 : 2}` : `at ${position}`);
  if (!type.maintained)
    return [made(null, "let go"), made("N", `held ${side("N")}`, true), made("R", `held ${side("R")}`, true)];
  const both = [made("N", side("N")), made("R", side("R"))];
  return asks === "position" ? [...both, made(null, "at none of its positions in use")] : both;
}

/** What a board was told by its address, its events or its inputs. */
function sent(way: number, position: Position): Setting {
  return setting(
    `at ${position}`,
    (state) => ({ ...state, outputs: new Map(state.outputs).set(way, position) }),
    (label) => `${label}-${way}`,
  );
}

/** Something of a board that is off or on: outputs, relays, pins, zones. */
function switched(way: number, name: Setting["name"], [off, on] = ["off", "on"]): [Setting, Setting] {
  const without = (state: DeviceState) => new Set([...state.on].filter((each) => each !== way));
  return [
    setting(off ?? "off", (state) => ({ ...state, on: without(state) }), name),
    setting(on ?? "on", (state) => ({ ...state, on: new Set([...state.on, way]) }), name),
  ];
}

function train(zone: number, type: DeviceType): [Setting, Setting] {
  if (type.zones === 1) return switched(zone, itself, ["clear", "covered"]);
  const [clear, occupied] = switched(zone, (label) => `zone ${zone} of ${label}`, ["clear", "occupied"]);
  const standing = (state: DeviceState, there: boolean) => {
    const others = [...state.standing].filter((each) => each !== zone);
    return { ...state, standing: new Set(there ? [...others, zone] : others) };
  };
  return [
    { ...clear, set: (state) => standing(clear.set(state), false) },
    { ...occupied, set: (state) => standing(occupied.set(state), true) },
  ];
}

/** The engines that run on a track bus at once. */
function engines(count: number): [Setting, Setting] {
  const name = (label: string) => `${count === 1 ? "the engine" : `${count} engines`} on ${label}`;
  return [
    setting("standing", (state) => ({ ...state, standing: new Set<number>() }), name),
    setting("running", (state) => ({ ...state, standing: new Set([1]) }), name),
  ];
}

/** The contacts of a motor or relay follow its arm, and stand open half way. */
function arm(type: DeviceType): Setting[] {
  const at = (contacts: Position | null, stands: string) => setting(stands, (state) => ({ ...state, contacts }));
  if (traitsOf(type).relay === "held") return [at("N", "dropped out"), at("R", "picked up"), at(null, "changing over")];
  return [at("N", "lying at N"), at("R", "lying at R"), at(null, "half way")];
}

function rail(contacts: Position, name: string): Setting {
  return setting(`on ${name}`, (state) => ({ ...state, contacts }));
}

/** A servo whose end point lies beyond what the blades allow takes the most that it can. */
function stopped(): [Setting, Setting] {
  return [
    setting("at rest", (state) => ({ ...state, blocked: false })),
    setting("held against a stop", (state) => ({ ...state, blocked: true })),
  ];
}
