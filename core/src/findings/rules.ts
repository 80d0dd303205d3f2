import { addressDuplicate } from "./addressDuplicate.ts";
import { addressImpossible } from "./addressImpossible.ts";
import { coilHeldOn } from "./coilHeldOn.ts";
import { goesAstray } from "./goesAstray.ts";
import { lampCurrent } from "./lampCurrent.ts";
import { outputOverLimit } from "./outputOverLimit.ts";
import { pairThrownAgainst } from "./pairThrownAgainst.ts";
import { pulseLostInWire } from "./pulseLostInWire.ts";
import type { Finding, Look, Rule, Severity } from "./rule.ts";
import { supplyOutOfRange } from "./supplyOutOfRange.ts";
import { supplyOverRating } from "./supplyOverRating.ts";
import { turnoutIncomplete } from "./turnoutIncomplete.ts";
import { wrongKindForOutput } from "./wrongKindForOutput.ts";

/** All rules, in the order in which their findings are shown within a severity. */
export const RULES: readonly Rule[] = [
  coilHeldOn,
  wrongKindForOutput,
  outputOverLimit,
  supplyOutOfRange,
  supplyOverRating,
  pairThrownAgainst,
  goesAstray,
  pulseLostInWire,
  lampCurrent,
  addressDuplicate,
  addressImpossible,
  turnoutIncomplete,
];

const GRADES: Record<Severity, number> = { stop: 0, look: 1, note: 2 };

/** The findings of all rules, the gravest first. */
export function findingsOf(look: Look): Finding[] {
  return RULES.flatMap((rule) => rule.run(look)).sort((a, b) => GRADES[a.severity] - GRADES[b.severity]);
}
