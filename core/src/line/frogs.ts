import type { Position } from "../record/schemas.ts";
import { type Direction, opposite, turnedBy } from "./lattice.ts";
import type { Junction, LineLayout } from "./layout.ts";

/** Which rail a frog has to carry in one position of its turnout. */
export interface FrogNeed {
  position: Position;
  /** Of the two routes, as one faces the points from the toe. */
  route: "left-hand" | "right-hand";
  /** Of the two rails of the track at the toe, as one faces the points from there. */
  rail: "left" | "right";
  /** Where that rail lies as the line is drawn: front is towards the foot of the sheet. */
  edge: "front" | "rear" | "left" | "right";
}

/**
 * What the frog of blades has to carry. Facing the points from the toe: on the left-hand of the two routes the frog carries the
 * right rail, on the right-hand route the left one (common practice, and by geometry: the frog lies between the routes).
 */
export function frogNeeds({
  toe,
  normal,
  reverse,
  spot,
}: Pick<Junction, "toe" | "normal" | "reverse" | "spot">): [FrogNeed, FrogNeed] {
  const isNormalLeft = eighthsLeft(normal, reverse);
  const need = (position: Position): FrogNeed => {
    const isOnNormal = (position === "N") !== (spot?.turned ?? false);
    const isLeft = isOnNormal === isNormalLeft;
    const rail = isLeft ? "right" : "left";
    return { position, route: isLeft ? "left-hand" : "right-hand", rail, edge: edgeOf(opposite(toe), rail) };
  };
  return [need("N"), need("R")];
}

/** Whether the first direction lies to the left of the second. */
function eighthsLeft(a: Direction, b: Direction): boolean {
  return turnedBy(a, -b) < 4;
}

/** On which side of the drawing a rail lies, of track that one goes along in a direction. */
function edgeOf(facing: Direction, rail: "left" | "right"): FrogNeed["edge"] {
  const side = turnedBy(facing, rail === "left" ? 2 : -2);
  if (side === 0) return "right";
  if (side === 4) return "left";
  return side < 4 ? "rear" : "front";
}

/** The needs of all frogs of a line, in the owner's order of turnouts; those of blades without one last. */
export function allFrogs({ junctions }: LineLayout): { junction: Junction; needs: [FrogNeed, FrogNeed] }[] {
  const order = ({ turnout }: Junction) => turnout?.order ?? Number.MAX_SAFE_INTEGER;
  return [...junctions]
    .sort((a, b) => order(a) - order(b))
    .map((junction) => ({ junction, needs: frogNeeds(junction) }));
}
