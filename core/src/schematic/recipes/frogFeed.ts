import { traitsOf } from "../../catalogue/traits.ts";
import type { Position, Turnout } from "../../record/schemas.ts";
import type { Joiner } from "../nets.ts";
import type { Thread, ThreadFrog } from "../thread.ts";

export type StockRail = "L" | "R";

/**
 * The stock rail whose polarity a frog must carry, facing from the toe: on the left-hand one of the two routes the right
 * rail passes through the frog, on the right-hand one the left rail. A turnout's normal is its straight route; of a wye,
 * and where the hand is not known, the left-hand route counts as normal.
 *
 * Source: the frog lies where the inner rails of both routes cross.
 * @example wantedRail("right", "N") // "R": straight on is the left-hand route
 */
export function wantedRail(hand: Turnout["hand"], position: Position): StockRail {
  const leftHandRoute = (hand === "left") === (position === "R");
  return leftHandRoute ? "R" : "L";
}

/**
 * A changeover contact of a motor or relay joins the frog to the rail it must carry; an automatic unit sits between rails
 * and frog. A frog that nothing feeds is joined to nothing.
 */
export function frogFeed(thread: Thread, joiner: Joiner): void {
  for (const frog of thread.frogs) {
    const { from, assignment, turnout } = frog;
    if (!from) continue;
    const at = (terminal: string) => ({ deviceId: from.device.id, terminal });
    const atFrog = (terminal: string) => ({ deviceId: frog.device.id, terminal });
    if (traitsOf(from.type).inTrack === "polarity-unit") {
      joiner.join("frog", turnout.id, [at("F"), atFrog("F")]);
      continue;
    }
    const way = assignment.way ?? 1;
    if (way > from.type.contactSets) continue;
    joiner.join("frog", turnout.id, [at(`S${way}c`), atFrog("F")]);
    for (const [end, position] of [
      ["n", "N"],
      ["r", "R"],
    ] as const) {
      const rail = railAtContact(frog, position);
      joiner.join(rail === "L" ? "track-j" : "track-k", turnout.id, [atFrog(rail), at(`S${way}${end}`)]);
    }
  }
}

/** Rail that the contact for a position is wired to. */
export function railAtContact({ turnout, assignment }: ThreadFrog, position: Position): StockRail {
  const other = position === "N" ? "R" : "N";
  return wantedRail(turnout.hand, assignment.crossed ? other : position);
}
