import type { Figure } from "@alderman/core";

/** The unit of a figure as it is written beside it. */
export function unitWords({ unit }: Figure, currency: string): string {
  return unit === "money" ? currency : unit;
}
