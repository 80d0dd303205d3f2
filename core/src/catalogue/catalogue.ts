import { find } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { Device } from "../record/schemas.ts";
import { ownOf } from "../units/ownOf.ts";
import { CONTROLS, LOCKS } from "./controls.ts";
import type { DeviceType, Family } from "./deviceType.ts";
import { DRIVERS } from "./drivers.ts";
import { LAMPS } from "./lamps.ts";
import { MOTORS } from "./motors.ts";
import { priced } from "./prices.ts";
import { READERS } from "./readers.ts";
import { SUPPLIES } from "./supplies.ts";
import { TRACK } from "./track.ts";
import { WIRING_TYPES } from "./wiring.ts";

/** The generic device types, in the order in which they are offered. */
export const CATALOGUE: readonly DeviceType[] = [
  ...MOTORS,
  ...DRIVERS,
  ...READERS,
  ...SUPPLIES,
  ...CONTROLS,
  ...LOCKS,
  ...LAMPS,
  ...TRACK,
  ...WIRING_TYPES,
].map(priced);

const generic = new Map(CATALOGUE.map((type) => [type.id, type]));

/** A generic type by its identifier, or undefined. */
export function genericType(id: string): DeviceType | undefined {
  return generic.get(id);
}

const merged = new WeakMap<object, DeviceType>();

/**
 * A type by its identifier, generic or the owner's own.
 *
 * An own type is its generic type with the owner's figures set over the generic ones.
 */
export function findType(record: RailwayRecord, id: string): DeviceType | undefined {
  const known = generic.get(id);
  if (known) return known;
  const own = find(record, "type", id);
  const base = own && generic.get(own.basedOn);
  if (!own || !base) return undefined;
  const cached = merged.get(own);
  if (cached) return cached;
  const figures = { ...base.figures };
  for (const [name, value] of Object.entries(own.figures)) {
    const old = ownOf(base.figures, name);
    if (old) figures[name] = { ...old, value, origin: "own" };
  }
  // what the owner says of a setting stands over what the catalogue says, and what it is for stays
  const noted = new Map(own.settings.map((setting) => [setting.name, setting]));
  const settings = (base.settings ?? []).map((setting) => ({ ...setting, ...noted.get(setting.name) }));
  const more = own.settings.filter(({ name }) => !settings.some((each) => each.name === name));
  const terminals = base.terminals.map((terminal) => {
    const printed = own.printed[terminal.name];
    return printed === undefined ? terminal : { ...terminal, printed };
  });
  const type: DeviceType = {
    ...base,
    ...{ id: own.id, name: own.name, figures, terminals },
    ...(own.colours && base.colours ? { colours: own.colours } : {}),
    settings: [...settings, ...more],
    ...(own.switches && base.numberSwitches
      ? { numberSwitches: { ...own.switches, names: switchNames(base.numberSwitches.names, own.switches.onMeans) } }
      : {}),
  };
  merged.set(own, type);
  return type;
}

/** The type of a device. @throws {Error} when the record is broken */
export function typeOf(record: RailwayRecord, device: Device): DeviceType {
  const type = findType(record, device.typeId);
  if (!type) throw new Error(`Record: device ${device.label} is of type "${device.typeId}", which does not exist.`);
  return type;
}

/** A figure's value in SI units. @throws {Error} when the type has no such figure */
export function figureValue(type: DeviceType, name: string): number {
  const found = type.figures[name];
  if (!found) throw new Error(`Catalogue: ${type.name} has no figure "${name}".`);
  return found.value;
}

/** All types of a family, the owner's own after the generic ones. */
export function typesOfFamily(record: RailwayRecord, family: Family): DeviceType[] {
  const own = record.types.map((type) => findType(record, type.id)).filter((type) => type !== undefined);
  return [...CATALOGUE, ...own].filter((type) => type.family === family);
}

/** Outputs of a type that get their addresses at once with another, itself among them, by their numbers. */
export function blockOf({ programming, outputs }: DeviceType, way: number): number[] {
  const size = programming?.block ?? 1;
  const first = Math.floor((way - 1) / size) * size + 1;
  const length = Math.max(1, Math.min(size, Math.max(1, outputs) - first + 1));
  return Array.from({ length }, (_, place) => first + place);
}

/** What is printed beside the switches of a node, as far as the catalogue knows them; numbers beside others. */
function switchNames(names: readonly string[], onMeans: readonly unknown[]): string[] {
  return onMeans.map((_, bit) => names[bit] ?? String(bit + 1));
}
