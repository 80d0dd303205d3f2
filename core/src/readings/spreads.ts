import type { OperatingPoint } from "../circuit/solution.ts";
import { type Changing, combined, type Spread } from "./spread.ts";

/** Operating points whose changes are kept. */
const CHANGING_KEPT = 4;

/** Spreads at operating points, by the terminals between which they are; a point is the same object as long as its piece is. */
const known = new WeakMap<OperatingPoint, Map<string, Spread>>();

/** How far single parts may bring volts from what was solved, found out once for each operating point. */
export class Spreads {
  /** At which points changes were last looked for: many are looked for at a few of the same. */
  private readonly changing = new Map<OperatingPoint, Changing>();

  /** @param changesAt how builds differ at a point; asked only when it is not known */
  at(point: OperatingPoint, plus: string, minus: string, changesAt: () => Changing): Spread {
    const own = known.get(point) ?? new Map<string, Spread>();
    known.set(point, own);
    const ends = `${plus} ${minus}`;
    const spread = own.get(ends) ?? combined(this.changesAt(point, changesAt).between(plus, minus));
    own.set(ends, spread);
    return spread;
  }

  private changesAt(point: OperatingPoint, make: () => Changing): Changing {
    const before = this.changing.get(point);
    if (before) return before;
    const made = make();
    const [oldest] = this.changing.keys();
    if (oldest && this.changing.size >= CHANGING_KEPT) this.changing.delete(oldest);
    this.changing.set(point, made);
    return made;
  }
}
