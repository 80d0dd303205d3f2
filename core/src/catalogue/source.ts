import type { DeviceType } from "./deviceType.ts";

/** Mains may be so much above or below its rating, as a share of it (EN 50160). */
export const MAINS_TOLERANCE = 0.1;

/** A supply as a source behind its inside resistance. */
export interface Source {
  /** With nothing on it, volts: effective ones of a transformer, the amplitude of a track bus. */
  openVolts: number;
  /** How much of these is more than its rated volts. */
  rise: number;
  ohms: number;
}

/**
 * A supply's source by its figures. A transformer gives its rated volts at its rated current: unloaded it gives more, by its
 * regulation, and its windings lose as much at that current.
 */
export function sourceOf({ figures }: Pick<DeviceType, "figures">): Source {
  const of = (name: string) => figures[name]?.value ?? 0;
  const rise = of("volts") * of("regulation");
  const windings = rise === 0 ? 0 : rise / of("ratedAmps");
  return { openVolts: of("volts") + rise, rise, ohms: of("insideOhms") + windings };
}
