import type { Wire, WireColour } from "@alderman/core";
import type { KeyboardEvent, ReactNode } from "react";
import { ColourBox } from "../../drawing/Wire.tsx";
import type { LoomThing, OpenThing } from "./things/thing.ts";

/** Fades what does not belong to the net that is looked at. */
export function Of({ net, lit, children }: { net: string; lit: string | null; children: ReactNode }) {
  return (
    <g data-net={net} opacity={lit === null || lit === net ? 1 : 0.22}>
      {children}
    </g>
  );
}

/** Something of the drawing that opens a card. */
export function Opens({
  thing,
  name,
  open,
  children,
}: {
  thing: LoomThing;
  name: string;
  open: OpenThing;
  children: ReactNode;
}) {
  const onKeyDown = (event: KeyboardEvent) => {
    if (event.key !== "Enter" && event.key !== " ") return;
    event.preventDefault();
    open(thing);
  };
  return (
    <g
      role="button"
      tabIndex={0}
      aria-label={name}
      className="cursor-pointer"
      onClick={() => open(thing)}
      onKeyDown={onKeyDown}
    >
      {children}
    </g>
  );
}

/** Notched tape with exactly the characters that will print; dashed when it is not on the wire yet. It opens the wire's card. */
export function Flag({
  wire,
  x,
  y,
  text,
  open,
  narrow = false,
}: {
  wire: Wire;
  x: number;
  y: number;
  text: string;
  open: OpenThing;
  narrow?: boolean;
}) {
  // B612 Mono is 0.65 of its height wide
  const size = narrow ? 9.5 : 10.5;
  const width = text.length * size * 0.65 + 12;
  const isMade = Boolean(wire.fact?.labelledAt);
  return (
    <Opens thing={{ kind: "wire", id: wire.id }} name={`${wire.label}, its card`} open={open}>
      <path
        d={`M${x} ${y - 9}H${x + width}L${x + width - 5} ${y}L${x + width} ${y + 9}H${x}Z`}
        fill="var(--sheet)"
        stroke="var(--ink)"
        {...(isMade ? {} : { strokeDasharray: "3 2" })}
      />
      <text className="tm" x={x + 4} y={y + 4} style={{ fontSize: `${size}px` }}>
        {text}
      </text>
    </Opens>
  );
}

/** The code of a colour beside a box of it. */
export function Code({ x, y, colour }: { x: number; y: number; colour: WireColour }) {
  return (
    <g>
      <rect x={x} y={y - 8} width={14 + colour.length * 7.2} height="16" fill="var(--sheet)" />
      <ColourBox x={x + 2} y={y - 5} colour={colour} />
      <text className="tm" x={x + 14} y={y + 4}>
        {colour}
      </text>
    </g>
  );
}
