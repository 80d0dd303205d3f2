export const ASPECTS = ["red", "yellow", "green"] as const;
export type Aspect = (typeof ASPECTS)[number];

/** A block in the order of travel, with the signal at its end, which guards the next one. */
export interface GuardedBlock {
  id: string;
  occupied: boolean;
  /** The signal is held at danger from the panel. */
  held: boolean;
}

/** Why a signal is red. */
export type RedCause = { why: "held" } | { why: "occupied"; by: string | null };

/** What a signal shows, and why where it is red. */
export interface Shown {
  aspect: Aspect;
  cause: RedCause | null;
}

/**
 * What the signal at the end of each block shows: red when it is held or the next block is occupied, yellow when the next signal
 * is red, else green. Common practice of three-aspect block signals.
 * @param loop after the last block comes the first
 * @param beyond what lies after the last block, where it is no loop; its own signal counts as clear
 */
export function signalsAlong(
  blocks: readonly GuardedBlock[],
  loop: boolean,
  beyond: "clear" | "occupied",
): Map<string, Shown> {
  const causes = blocks.map(({ held }, index): RedCause | null => {
    if (held) return { why: "held" };
    const next = blocks[index + 1] ?? (loop ? blocks[0] : undefined);
    if (next) return next.occupied ? { why: "occupied", by: next.id } : null;
    return beyond === "occupied" ? { why: "occupied", by: null } : null;
  });
  return new Map(
    blocks.map(({ id }, index): [string, Shown] => {
      const cause = causes[index] ?? null;
      if (cause) return [id, { aspect: "red", cause }];
      const next = index + 1 < blocks.length ? index + 1 : loop ? 0 : null;
      const isNextRed = next !== null && causes[next] !== null && next !== index;
      return [id, { aspect: isNextRed ? "yellow" : "green", cause: null }];
    }),
  );
}
