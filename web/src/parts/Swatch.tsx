import { WIRE_COLOURS, type WireColour } from "@alderman/core";

/** A wire colour by swatch, code and, with `named`, its word. */
export function Swatch({ colour, named = false }: { colour: WireColour; named?: boolean }) {
  return (
    <span className="inline-flex items-center gap-1.5">
      <svg width="11" height="11" aria-hidden="true">
        <rect x=".5" y=".5" width="10" height="10" fill={`var(--w-${colour})`} stroke="var(--wire-line)" />
      </svg>
      <span className="mono">{colour}</span>
      {named && <span className="quiet text-[12px]">{WIRE_COLOURS[colour]}</span>}
    </span>
  );
}
