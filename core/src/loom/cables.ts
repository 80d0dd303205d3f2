import type { Cable } from "../record/made.ts";
import type { CableColours, Railway } from "../record/schemas.ts";
import type { Gauge } from "../units/gauge.ts";

/** A cable as it is or is to be laid: what of it is not a fact of its own is as the railway says. */
export interface LaidCable {
  gauge: Gauge;
  colours: CableColours;
  /** Laid length, and length to cut, metres. */
  metres: number;
  cutMetres: number;
}

export function laidCable(
  railway: Railway,
  { gauge, colours, metres }: Pick<Cable, "gauge" | "colours" | "metres">,
): LaidCable {
  const laid = metres ?? railway.cableMetres;
  return {
    gauge: gauge ?? railway.cableGauge,
    colours: colours ?? railway.cableColours,
    metres: laid,
    cutMetres: cutLength(railway, laid),
  };
}

/**
 * Length to cut of what is laid so long: with slack at both ends, up to the next whole centimetre.
 * @example cutLength({ ...railway, slackMetres: 0.025 }, 2.4) // 2.45
 */
export function cutLength({ slackMetres }: Railway, metres: number): number {
  return Math.ceil((metres + 2 * slackMetres) * 100 - 1e-6) / 100;
}
