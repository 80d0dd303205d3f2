import type { Position } from "@alderman/core";
import type { Verdict } from "./verdict.ts";

const WORDS: Record<Verdict, string> = {
  good: "agrees",
  wrong: "wrong",
  doubtful: "doubtful",
  stale: "stale",
  open: "not finished",
};

/** A verdict's shape, centred on 0,0 and 16 units wide, for use within a drawing. */
export function MarkShape({ verdict }: { verdict: Verdict }) {
  switch (verdict) {
    case "good":
      return <path d="M-5 .5L-1.6 4L5.5 -5" fill="none" stroke="var(--good)" strokeWidth="2.4" />;
    case "wrong":
      return (
        <>
          <path d="M-7 -7H7V7H-7Z" fill="var(--red)" />
          <path d="M-3.4 -3.4L3.4 3.4M3.4 -3.4L-3.4 3.4" stroke="var(--sheet)" strokeWidth="2.2" />
        </>
      );
    case "doubtful":
      return (
        <>
          <path
            d="M0 -7.6L8 6.6H-8Z"
            fill="var(--amber-fill)"
            stroke="#15213A"
            strokeWidth="1.2"
            strokeLinejoin="round"
          />
          <path d="M0 -2.6V2.2M0 3.6V5.2" stroke="#15213A" strokeWidth="1.9" />
        </>
      );
    case "stale":
      return (
        <>
          <circle r="6.4" fill="none" stroke="var(--amber)" strokeWidth="1.6" />
          <path d="M0 -3.6V0L2.6 1.6M-6.5 6.5L6.5 -6.5" fill="none" stroke="var(--amber)" strokeWidth="1.6" />
        </>
      );
    case "open":
      return <circle r="6" fill="none" stroke="var(--ink-2)" strokeWidth="1.4" strokeDasharray="2.4 2.3" />;
  }
}

/** A verdict mark beside text. */
export function Mark({ verdict, size = 16 }: { verdict: Verdict; size?: number }) {
  return (
    <svg
      width={size}
      height={size}
      viewBox="-9 -9 18 18"
      role="img"
      aria-label={WORDS[verdict]}
      className="inline-block flex-none align-[-3px]"
    >
      <MarkShape verdict={verdict} />
    </svg>
  );
}

/** Normal: upright square, N. Reverse: leaning block, R. Filled: stands there. */
export function PositionShape({ position, filled }: { position: Position; filled: boolean }) {
  const ink = filled ? "var(--sheet)" : "var(--ink)";
  return (
    <>
      <path
        d={position === "N" ? "M-8 -8H8V8H-8Z" : "M-5 -8H12L5 8H-12Z"}
        fill={filled ? "var(--ink)" : "var(--sheet)"}
        stroke="var(--ink)"
        strokeWidth="1.3"
      />
      <text y="4.4" textAnchor="middle" style={{ font: "700 12px 'B612 Mono'", fill: ink }}>
        {position}
      </text>
    </>
  );
}

export function PositionMark({
  position,
  filled = false,
  scale = 1,
}: {
  position: Position;
  filled?: boolean;
  scale?: number;
}) {
  return (
    <svg width={26 * scale} height={18 * scale} viewBox="-13 -9 26 18" aria-hidden="true" className="flex-none">
      <PositionShape position={position} filled={filled} />
    </svg>
  );
}
