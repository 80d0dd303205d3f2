import type { RefObject } from "react";
import type { Spot } from "./shapes.ts";
import { type Camera, STEP } from "./useCamera.ts";

/** The lattice as dots, which thin out where it is drawn small. */
export function Lattice({ camera: { scale, x, y } }: { camera: Camera }) {
  const size = STEP * scale * (scale < 0.4 ? 4 : scale < 0.7 ? 2 : 1);
  return (
    <>
      <defs>
        <pattern
          id="lattice"
          width={size}
          height={size}
          patternUnits="userSpaceOnUse"
          x={x - size / 2}
          y={y - size / 2}
        >
          <circle cx={size / 2} cy={size / 2} r="0.9" fill="var(--rule-2)" />
        </pattern>
      </defs>
      <rect width="100%" height="100%" fill="url(#lattice)" />
    </>
  );
}

/** Places that divide a metre, or of which a metre is a part, so that figures stand well apart. */
const DIVISIONS = [0.1, 0.2, 0.5, 1, 2, 5, 10, 20, 50];
/** From one figure of the ruler to the next at least, pixels. */
const APART = 90;

/** Along the foot of the sheet: how far things are along the baseboard, as it is drawn. */
export function Ruler({
  camera: { scale, x },
  stepMetres,
  svg,
}: {
  camera: Camera;
  stepMetres: number;
  svg: RefObject<SVGSVGElement | null>;
}) {
  const { clientWidth: width = 936, clientHeight: height = 460 } = svg.current ?? {};
  const perMetre = (STEP * scale) / stepMetres;
  const division = DIVISIONS.find((each) => each * perMetre >= APART) ?? 100;
  const first = Math.ceil(-x / perMetre / division);
  const last = Math.floor((width - x) / perMetre / division);
  const at = (number: number) => x + number * division * perMetre;
  const foot = height - 24;
  return (
    <g>
      <rect x="0" y={foot - 6} width={width} height="32" fill="var(--sheet)" />
      <path d={`M0 ${foot}H${width}`} stroke="var(--rule-2)" />
      {Array.from({ length: Math.max(0, last - first + 1) }, (_, index) => first + index).map((number) => (
        <g key={number}>
          <path d={`M${at(number)} ${foot - 4}V${foot + 4}`} stroke="var(--rule-2)" />
          <text x={at(number)} y={foot + 16} textAnchor="middle" className="fill-ink-2 font-mono text-[11px]">
            {(number * division).toFixed(division < 1 ? 1 : 0)} m
          </text>
        </g>
      ))}
    </g>
  );
}

/** What is being chosen by a box. */
export function Box({ a, b }: { a: Spot; b: Spot }) {
  const [x, y] = [Math.min(a[0], b[0]) * STEP, Math.min(a[1], b[1]) * STEP];
  return (
    <rect
      x={x}
      y={y}
      width={Math.abs(a[0] - b[0]) * STEP}
      height={Math.abs(a[1] - b[1]) * STEP}
      fill="var(--copper-wash)"
      fillOpacity="0.5"
      stroke="var(--copper)"
      strokeDasharray="4 3"
    />
  );
}

/** What a sheet without track says. */
export function Empty() {
  return (
    <div className="pointer-events-none absolute inset-0 grid place-content-center text-center text-ink-2">
      <svg width="220" height="70" aria-hidden="true" className="mx-auto mb-2">
        <path
          d="M10 52H210M90 52L140 18H210"
          fill="none"
          stroke="var(--rule-2)"
          strokeWidth="2.4"
          strokeDasharray="7 5"
        />
      </svg>
      <p className="font-head text-h3 font-semibold text-ink">Lay the first track</p>
      <p>
        Drag from point to point. Where a second track leaves the first by an eighth of a turn, a turnout comes into
        being.
      </p>
    </div>
  );
}
