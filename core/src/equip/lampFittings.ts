import { typeOf } from "../catalogue/catalogue.ts";
import type { DeviceType } from "../catalogue/deviceType.ts";
import type { EditGroup } from "../record/edits.ts";
import { deviceOf, find, freshId } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { recordError } from "../record/problems.ts";
import { Colour, type OwnType, PLAIN_TYPE } from "../record/schemas.ts";
import { wayName } from "../schematic/nets.ts";
import { Draft } from "./draft.ts";
import { freePieces } from "./ways.ts";

/**
 * Forward voltage of an LED at 10 mA by a word in its colour's name, volts (common practice, with no source). A green that looks yellowish
 * is made of GaP; a pure one, a blue or a white of InGaN, which takes nearly a volt more.
 */
const FORWARD_VOLTS: readonly [RegExp, number][] = [
  [/white|blue|violet|purple|pink|pure green|true green|emerald|turquoise/, 3],
  [/green/, 2.2],
  [/yellow|orange|amber/, 2.1],
  [/red/, 1.9],
];

/** The usual forward voltage of an LED of a colour, volts; null for a colour that is not known by its name. */
export function forwardVolts(colour: string): number | null {
  return FORWARD_VOLTS.find(([word]) => word.test(colour))?.[1] ?? null;
}

/** Colours that are offered for lamps; any other may be typed. */
export const LAMP_COLOURS = ["green", "pure green", "yellow", "red", "white", "warm white", "blue", "orange"] as const;

/**
 * Gives a lamp other colours: it becomes one of an own type of these colours, which other lamps share. The forward voltages
 * go with the colours.
 *
 * @throws {RecordError} when its type has no colours
 */
export function setColours(record: RailwayRecord, lampId: string, colours: readonly [string, string]): EditGroup {
  const device = deviceOf(record, lampId);
  const type = typeOf(record, device);
  if (!type.colours) throw recordError(`${device.label} (${type.name}) has no colours to choose.`);
  for (const colour of colours) {
    if (!Colour.safeParse(colour).success)
      throw recordError(`"${colour}" is no colour; type it in small letters, as red or warm white.`);
  }
  const draft = new Draft(record);
  draft.put("device", { ...device, typeId: typeOfColours(draft, type, colours) });
  return draft.group(`${device.label} is ${colours[0]} at normal, ${colours[1]} at reverse`);
}

/** The type with other colours: the one it is a copy of when these are its own, else an own type that is there or made. */
function typeOfColours(draft: Draft, type: DeviceType, colours: readonly [string, string]): string {
  const { record } = draft;
  const own = find(record, "type", type.id);
  const basis = own?.basedOn ?? type.id;
  const plain = (name: string) => name.replace(/ \([a-z -]+ and [a-z -]+\)$/, "");
  const name = `${plain(type.name)} (${colours[0]} and ${colours[1]})`.slice(0, 80);
  const known = record.types.find((each) => each.basedOn === basis && each.name === name);
  if (known) return known.id;
  const [greenVolts, yellowVolts] = colours.map(forwardVolts);
  const made: OwnType = {
    ...PLAIN_TYPE,
    ...own,
    ...{ id: freshId(record, "type", `lamp-${colours.join("-")}`), basedOn: basis, name },
    figures: {
      ...own?.figures,
      ...(greenVolts && type.figures.greenVolts ? { greenVolts } : {}),
      ...(yellowVolts && type.figures.yellowVolts ? { yellowVolts } : {}),
    },
    colours: [colours[0], colours[1]],
  };
  draft.put("type", made);
  return made.id;
}

/** A piece of a resistor board. */
export interface Piece {
  deviceId: string;
  way: number;
}

/** Pieces of resistor boards that a lamp's common may go through: the free ones, and the one that it goes through already. */
export function possiblePieces(record: RailwayRecord, lampId: string): (Piece & { label: string })[] {
  const present = pieceOf(record, lampId);
  return record.devices.flatMap((device) => {
    if (typeOf(record, device).pieces === undefined) return [];
    const free = freePieces(record, device.id);
    const own = present?.deviceId === device.id ? [present.way] : [];
    return [...own, ...free]
      .sort((a, b) => a - b)
      .map((way) => ({ deviceId: device.id, way, label: wayName(device.label, way) }));
  });
}

/** The piece of a resistor board in a lamp's common lead; null for none. */
export function pieceOf(record: RailwayRecord, lampId: string): Piece | null {
  for (const a of record.assignments) if (a.role === "resistor" && a.lampId === lampId) return a;
  return null;
}

/** Puts a piece of a resistor board into a lamp's common lead, instead of what was there; null for none. */
export function setPiece(record: RailwayRecord, lampId: string, piece: Piece | null): EditGroup {
  const draft = new Draft(record);
  const { label } = deviceOf(record, lampId);
  draft.unassign((a) => a.role === "resistor" && a.lampId === lampId);
  if (piece) draft.assign("resistor", { deviceId: piece.deviceId, way: piece.way, lampId });
  const at = piece ? wayName(deviceOf(record, piece.deviceId).label, piece.way) : null;
  return draft.group(at ? `The common of ${label} goes through ${at}` : `${label} has no resistor in its common`);
}
