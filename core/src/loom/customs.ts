import { Draft } from "../equip/draft.ts";
import type { EditGroup } from "../record/edits.ts";
import { find, freshId } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { PURPOSES, type Purpose } from "../record/purposes.ts";
import { type End, terminalName } from "../schematic/nets.ts";
import { WIRE_COLOURS, type WireColour } from "../units/wireColours.ts";

/** Wires for a purpose have a colour by the owner's custom; null for the usual one. What is cut stays as it is. */
export function setPurposeColour(record: RailwayRecord, purpose: Purpose, colour: WireColour | null): EditGroup | null {
  const known = record.customs.find((custom) => custom.purpose === purpose);
  const wanted = colour === PURPOSES[purpose].colour ? null : colour;
  if ((known?.colour ?? null) === wanted) return null;
  const draft = new Draft(record);
  if (wanted === null) {
    if (known) draft.remove("custom", known.id);
  } else {
    const id = known?.id ?? freshId(record, "custom", purpose);
    draft.put("custom", { id, purpose, deviceId: null, terminal: null, colour: wanted });
  }
  const words = WIRE_COLOURS[wanted ?? PURPOSES[purpose].colour];
  return draft.group(`Wires for "${PURPOSES[purpose].about}" are ${words}`);
}

/** Colour of the lead that a device has at a terminal; null when nothing is known of it. */
export function setLeadColour(record: RailwayRecord, end: End, colour: WireColour | null): EditGroup | null {
  const { deviceId, terminal } = end;
  const known = record.customs.find((custom) => custom.deviceId === deviceId && custom.terminal === terminal);
  if ((known?.colour ?? null) === colour) return null;
  const draft = new Draft(record);
  if (colour === null) {
    if (known) draft.remove("custom", known.id);
  } else {
    const id = known?.id ?? freshId(record, "custom", `${deviceId}-${terminal}`);
    draft.put("custom", { id, purpose: null, deviceId, terminal, colour });
  }
  const name = terminalName(find(record, "device", deviceId)?.label ?? deviceId, terminal);
  return draft.group(
    colour === null ? `Forgot the colour at ${name}` : `The lead at ${name} is ${WIRE_COLOURS[colour]}`,
  );
}
