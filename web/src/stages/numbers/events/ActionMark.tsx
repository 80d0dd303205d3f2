import type { EventAction } from "@alderman/core";

/** How an output acts, as a shape: solid acts, hollow acts inverted, half of either only upon "on". */
const SHAPES: Record<EventAction, { d: string; solid: boolean }> = {
  acts: { d: "M-5 -5H5V5H-5Z", solid: true },
  inverted: { d: "M-5 -5H5V5H-5Z", solid: false },
  on: { d: "M-5.5 5L0 -5.5L5.5 5Z", solid: true },
  off: { d: "M-5.5 -5L0 5.5L5.5 -5Z", solid: false },
};

/** What an output is to do upon an event; a bar below says that it was taught so, a copper one that it was taught otherwise. */
export function ActionMark({
  action,
  taught,
  known,
}: {
  action: EventAction | null;
  taught: EventAction | null;
  /** It is known what was taught. */
  known: boolean;
}) {
  const shape = action && SHAPES[action];
  const isOther = known && taught !== action;
  return (
    <svg viewBox="-10 -9 20 20" width="20" height="20" aria-hidden="true" className="block">
      {shape && <path d={shape.d} fill={shape.solid ? "var(--ink)" : "none"} stroke="var(--ink)" strokeWidth="1.7" />}
      {known && (taught !== null || isOther) && (
        <path d="M-6 9H6" stroke={isOther ? "var(--copper)" : "var(--ink)"} strokeWidth={isOther ? 3 : 1.6} />
      )}
    </svg>
  );
}
