import type { DeviceType } from "./deviceType.ts";

/**
 * Multiples of its rated current by which a miniature fuse is judged, quick or slow (IEC 60127-2, from memory): it holds 1.5 for an
 * hour at least, opens within half an hour at 2.1, and within seconds from 2.75. What flows for ever before it opens counts for the
 * wire, what opens it within seconds for a short.
 */
const HOLDS = 1.45;
const OPENS_SOON = 2.75;

/** What ends a supply's current: its own breaker or limit, and a fuse behind it. Amps; null where there is none. */
export interface Protection {
  trips: number | null;
  fuse: number | null;
}

/** What protects what hangs on a supply. */
export function protectionOf({ figures }: Pick<DeviceType, "figures">): Protection {
  const fuse = figures.fuseAmps?.value ?? 0;
  return { trips: figures.tripAmps?.value ?? null, fuse: fuse > 0 ? fuse : null };
}

/** The most that flows for ever before anything opens, amps: what the thinnest wire has to bear. Infinite without protection. */
export function flowsForEver({ trips, fuse }: Protection): number {
  return Math.min(trips ?? Number.POSITIVE_INFINITY, fuse === null ? Number.POSITIVE_INFINITY : fuse * HOLDS);
}

/** The least that opens something within seconds, amps: what a short has to draw. Infinite without protection. */
export function opensFrom({ trips, fuse }: Protection): number {
  return Math.min(trips ?? Number.POSITIVE_INFINITY, fuse === null ? Number.POSITIVE_INFINITY : fuse * OPENS_SOON);
}

/** Usual sizes of small fuses, amps (IEC 60127 series). */
const FUSES = [0.2, 0.25, 0.315, 0.4, 0.5, 0.63, 0.8, 1, 1.25, 1.6, 2, 2.5, 3.15, 4, 5, 6.3, 8, 10];

/** The largest usual fuse that protects a wire which bears a current; null when none is small enough. */
export function fuseFor(bears: number): number | null {
  return [...FUSES].reverse().find((size) => size * HOLDS <= bears) ?? null;
}

/** The smallest usual fuse that bears a current for ever with a share of it to spare; null when none is large enough. */
export function fuseAbove(flows: number, share: number): number | null {
  return FUSES.find((size) => size * share >= flows) ?? null;
}

/** How a fuse takes a current, in words. */
export function fuseWords(fuse: number, flows: number): string {
  const times = flows / fuse;
  if (times <= HOLDS) return "holds it for ever";
  if (times < 2.1) return "may hold it for an hour";
  if (times < OPENS_SOON) return "may take half an hour to open";
  return times < 10 ? "opens within seconds" : "opens at once";
}
