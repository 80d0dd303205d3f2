import { WIRE_COLOURS, type WireColour } from "@alderman/core";
import { ColourBox } from "./Wire.tsx";

/** A wire colour by swatch, code and, with `named`, its word. */
export function Swatch({ colour, named = false }: { colour: WireColour; named?: boolean }) {
  return (
    <span className="inline-flex items-center gap-1.5">
      <svg width="11" height="11" aria-hidden="true">
        <ColourBox x={0.5} y={0.5} colour={colour} />
      </svg>
      <span className="mono">{colour}</span>
      {named && <span className="quiet text-small">{WIRE_COLOURS[colour]}</span>}
    </span>
  );
}
