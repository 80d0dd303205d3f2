import type { WireColour } from "@alderman/core";

/** A wire in its true colour over an ink line; a dashed one is laid elsewhere and only passes on. */
export function WirePath({ d, colour, dashed = false }: { d: string; colour: WireColour; dashed?: boolean }) {
  const dash = dashed ? { strokeDasharray: "5 4" } : {};
  return (
    <g fill="none" strokeLinejoin="round">
      <path d={d} stroke="var(--wire-line)" strokeWidth="4.8" {...dash} />
      <path d={d} stroke={`var(--w-${colour})`} strokeWidth="3" {...dash} />
    </g>
  );
}

/** Swatch and code of a wire within a drawing. */
export function WireCode({ x, y, colour, text }: { x: number; y: number; colour: WireColour; text?: string }) {
  return (
    <g>
      <rect x={x} y={y - 9} width="10" height="10" fill={`var(--w-${colour})`} stroke="var(--wire-line)" />
      <text className="tm" x={x + 13} y={y}>
        {colour}
      </text>
      {text && (
        <text className="tq" x={x + 32} y={y}>
          {text}
        </text>
      )}
    </g>
  );
}
