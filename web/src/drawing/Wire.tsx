import type { WireColour } from "@alderman/core";
import { colourPair } from "./colourPair.ts";

/** A wire in its true colour over an ink line; a dashed one is laid elsewhere and only passes on. */
export function WirePath({ d, colour, dashed = false }: { d: string; colour: WireColour; dashed?: boolean }) {
  const dash = dashed ? { strokeDasharray: "5 4" } : {};
  const [body, stripe] = colourPair(colour);
  return (
    <g fill="none" strokeLinejoin="round">
      <path d={d} stroke="var(--wire-line)" strokeWidth="4.8" {...dash} />
      <path d={d} stroke={body} strokeWidth="3" {...dash} />
      {stripe !== body && <path d={d} stroke={stripe} strokeWidth="3" strokeDasharray="6 6" />}
    </g>
  );
}

/** Swatch and code of a wire within a drawing. */
export function WireCode({ x, y, colour, text }: { x: number; y: number; colour: WireColour; text?: string }) {
  return (
    <g>
      <ColourBox x={x} y={y - 9} colour={colour} />
      <text className="tm" x={x + 13} y={y}>
        {colour}
      </text>
      {text && (
        <text className="tq" x={x + 18 + 7 * colour.length} y={y}>
          {text}
        </text>
      )}
    </g>
  );
}

/** A wire's colour as a small square, with its stripe across when it has one. */
export function ColourBox({ x, y, colour }: { x: number; y: number; colour: WireColour }) {
  const [body, stripe] = colourPair(colour);
  return (
    <g>
      <rect x={x} y={y} width="10" height="10" fill={body} />
      {stripe !== body && <path d={`M${x} ${y + 10}L${x + 10} ${y}`} stroke={stripe} strokeWidth="4" />}
      <rect x={x} y={y} width="10" height="10" fill="none" stroke="var(--wire-line)" />
    </g>
  );
}
