import type { Cable } from "../record/made.ts";
import type { CableColours, Railway } from "../record/schemas.ts";
import type { Gauge } from "../units/gauge.ts";
import { coresOf } from "./reach.ts";
import type { Loom } from "./wire.ts";

/** What a cable is made of: its own, or as all cables of the railway. */
export interface CableMake {
  gauge: Gauge;
  colours: CableColours;
}

/** A cable as it is or is to be laid: what of it is not a fact of its own is as the railway says. */
export interface LaidCable extends CableMake {
  /** Laid length, and length to cut, metres: as its longest core. */
  metres: number;
  cutMetres: number;
}

export function cableMake(railway: Railway, { gauge, colours }: Pick<Cable, "gauge" | "colours">): CableMake {
  return { gauge: gauge ?? railway.cableGauge, colours: colours ?? railway.cableColours };
}

/** What a cable of a loom is, with its lengths. */
export function laidCable(railway: Railway, loom: Loom, cable: Cable): LaidCable {
  const usual = cable.tail ? railway.tailMetres : railway.cableMetres;
  const lengths = [...coresOf(loom, cable.id).values()].map(({ metres }) => metres);
  const metres = cable.metres ?? (lengths.length > 0 ? Math.max(...lengths) : usual);
  return { ...cableMake(railway, cable), metres, cutMetres: cutLength(railway, metres) };
}

/**
 * Length to cut of what is laid so long: with slack at both ends, up to the next whole centimetre.
 * @example cutLength({ ...railway, slackMetres: 0.025 }, 2.4) // 2.45
 */
export function cutLength({ slackMetres }: Railway, metres: number): number {
  return Math.ceil((metres + 2 * slackMetres) * 100 - 1e-6) / 100;
}
