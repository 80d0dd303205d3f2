import type { RailwayRecord } from "../record/kinds.ts";
import { PURPOSES, type Purpose } from "../record/purposes.ts";
import type { CableColours } from "../record/schemas.ts";
import type { WireColour } from "../units/wireColours.ts";

/** Colours of a cable's cores by their numbers; a cable of more cores begins anew. */
export const CORE_COLOURS: Record<CableColours, readonly WireColour[]> = {
  // usual for signal cables (common practice)
  signal: ["WH", "BN", "GN", "YE", "GY", "PK", "BU", "RD"],
  // ANSI/TIA-568: pairs 1 to 4, of each the white one first
  pairs: ["WHBU", "BU", "WHOG", "OG", "WHGN", "GN", "WHBN", "BN"],
  // flat cable of ten colours in the order of the resistor code, IEC 60062
  ribbon: ["BN", "RD", "OG", "YE", "GN", "BU", "VT", "GY", "WH", "BK"],
};

/** What orders of colours are called. */
export const CABLE_COLOUR_WORDS: Record<CableColours, string> = {
  signal: "signal cable",
  pairs: "twisted pairs, as TIA-568",
  ribbon: "flat cable, ten colours",
};

/**
 * Colour of a core.
 * @example coreColour("pairs", 1) // "WHBU"
 */
export function coreColour(order: CableColours, core: number): WireColour {
  const colours = CORE_COLOURS[order];
  return colours[(core - 1) % colours.length] as WireColour;
}

const customs = new WeakMap<RailwayRecord["customs"], Map<Purpose, WireColour>>();

/** Colour of wires for a purpose: by the owner's custom, or the usual one. */
export function colourOf(record: RailwayRecord, purpose: Purpose): WireColour {
  let own = customs.get(record.customs);
  if (!own) {
    own = new Map(record.customs.flatMap(({ purpose, colour }) => (purpose === null ? [] : [[purpose, colour]])));
    customs.set(record.customs, own);
  }
  return own.get(purpose) ?? PURPOSES[purpose].colour;
}
