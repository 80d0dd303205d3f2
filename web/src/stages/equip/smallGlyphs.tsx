import type { DeviceType, Turnout } from "@alderman/core";
import { traitsOf } from "@alderman/core";

/** A turnout's hand as a small drawing, toe at the foot. */
export function HandGlyph({ hand, pair }: { hand: Turnout["hand"]; pair: boolean }) {
  const path = pair
    ? "M3 15V1M13 15V1M3 12C3 8 13 8 13 4"
    : hand === "left"
      ? "M8 15V1M8 12C8 7 4 6 3 1"
      : hand === "right"
        ? "M8 15V1M8 12C8 7 12 6 13 1"
        : hand === "wye"
          ? "M8 15V11C8 7 4 6 3 1M8 11C8 7 12 6 13 1"
          : "M8 15V1";
  return (
    <svg
      width="16"
      height="16"
      fill="none"
      stroke="var(--ink)"
      strokeWidth="1.5"
      className="inline align-[-3px]"
      role="img"
      aria-label={pair ? "crossover" : `${hand} hand`}
    >
      <path d={path} strokeDasharray={hand === "unknown" && !pair ? "2 2" : undefined} />
    </svg>
  );
}

/** The kind of a motor by glyph and word. */
export function MotorGlyph({ type }: { type: DeviceType }) {
  return (
    <span className="inline-flex items-center gap-1">
      <svg width="16" height="16" fill="none" stroke="var(--ink)" strokeWidth="1.5" aria-hidden="true">
        {traitsOf(type).movedBy === "pulse" ? (
          <path d="M2 12C2 3 6 3 6 12C6 3 10 3 10 12C10 3 14 3 14 12" />
        ) : (
          <path d="M8 2.500A5.500 5.500 0 1 0 8 13.500A5.500 5.500 0 1 0 8 2.500M8 8L12 4" />
        )}
      </svg>
      {type.short}
    </span>
  );
}

/** Outputs of a board: filled ones are in use. */
export function WaysGlyph({ used }: { used: readonly boolean[] }) {
  return (
    <svg width={used.length * 8 + 2} height="12" aria-hidden="true">
      {used
        .map((filled, index) => ({ filled, way: index + 1 }))
        .map(({ filled, way }) => (
          <rect
            key={way}
            x={way * 8 - 7}
            y="1"
            width="6.400"
            height="10"
            fill={filled ? "var(--ink-2)" : "none"}
            stroke="var(--ink-2)"
          />
        ))}
    </svg>
  );
}
