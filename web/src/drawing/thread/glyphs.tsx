import type { Position, Turnout } from "@alderman/core";
import { PositionShape } from "../Mark.tsx";
import type { LampColour } from "./lampColours.ts";

/** A toggle from the front, its lever where it is held. */
export function Toggle({ made, rest }: { made: Position | null; rest: string }) {
  const angle = made === "N" ? -40 : made === "R" ? 40 : 0;
  return (
    <g transform="translate(48 124)">
      <title>{made ? `Toggle made at ${made}` : `Toggle ${rest}`}</title>
      <circle r="31" fill="var(--sheet)" stroke="var(--ink)" strokeWidth="1.4" />
      <circle r="25" fill="none" stroke="var(--rule)" />
      {Array.from({ length: 12 }, (_, index) => index * 30).map((turn) => (
        <path key={turn} d="M0 -31V-28" stroke="var(--ink)" transform={`rotate(${turn})`} />
      ))}
      <g transform={`rotate(${angle})`}>
        <path d="M0 0H22" stroke="var(--ink)" strokeWidth="10" strokeLinecap="round" />
        <path d="M0 0H22" stroke="var(--copper-2)" strokeWidth="7" strokeLinecap="round" />
      </g>
      <circle r="6.5" fill="var(--sheet)" stroke="var(--ink)" strokeWidth="1.4" />
    </g>
  );
}

interface LampProps {
  y: number;
  normal: number;
  reverse: number;
  least: number;
  /** At normal, and at reverse. */
  colours: readonly [LampColour, LampColour];
}

/** A two-colour lamp from the front; each half is filled when it is lit. */
export function Lamp({ y, normal, reverse, least, colours }: LampProps) {
  const [atNormal, atReverse] = colours;
  const greenLit = normal >= least;
  const yellowLit = reverse >= least;
  return (
    <g transform={`translate(48 ${y})`}>
      <circle r="31" fill="var(--sheet)" stroke="var(--ink)" strokeWidth="1.4" />
      <path
        d="M0 -19A19 19 0 0 0 0 19Z"
        fill={greenLit ? atNormal.fill : "var(--sheet-2)"}
        stroke="var(--ink)"
        strokeWidth="1.2"
      />
      <path
        d="M0 -19A19 19 0 0 1 0 19Z"
        fill={yellowLit ? atReverse.fill : "var(--sheet-2)"}
        stroke="var(--ink)"
        strokeWidth="1.2"
      />
      {[
        [-9, "N", greenLit, atNormal.ink],
        [9, "R", yellowLit, atReverse.ink],
      ].map(([x, letter, lit, ink]) => (
        <text
          key={String(letter)}
          className="tv"
          x={Number(x)}
          y="5"
          textAnchor="middle"
          style={lit ? { fill: String(ink) } : { fill: "var(--ink-2)", fontWeight: 400 }}
        >
          {letter}
        </text>
      ))}
      {(greenLit || yellowLit) &&
        [-60, -30, 0, 30, 60].map((turn) => (
          <path
            key={turn}
            d={greenLit ? "M-22.500 0H-28" : "M22.500 0H28"}
            stroke="var(--ink)"
            strokeWidth="1.1"
            transform={`rotate(${turn})`}
          />
        ))}
    </g>
  );
}

/** A turnout from above, toe at the foot, with the road asked for and the blades as they lie. */
export function TurnoutGlyph({
  turnout,
  asked,
  stands,
}: {
  turnout: Turnout;
  asked: Position;
  /** Null where it does not move; undefined while nothing is solved. */
  stands: Position | null | undefined;
}) {
  const side = turnout.hand === "right" ? 1 : -1;
  const diverging = (x: number) => `M${x} 150C${x} 112 ${x + side * 20} 62 ${x + side * 26} 12`;
  const road = asked === "N" ? "M57 172V12" : `M57 172V150C57 112 ${57 + side * 20} 62 ${57 + side * 26} 12`;
  const agrees = stands === asked;
  const shift = stands === undefined ? 0 : (stands === "R" ? -1 : 1) * side * 2.2;
  const blades = stands === undefined ? "var(--ink)" : agrees ? "var(--copper)" : "var(--red)";
  return (
    <g>
      {Array.from({ length: 11 }, (_, index) => 16 + index * 15).map((y) => {
        const reach = y < 105 ? ((105 - y) / 105) * 22 + 4 : 0;
        return (
          <path
            key={y}
            d={`M${38 - (side < 0 ? reach : 0)} ${y}H${76 + (side > 0 ? reach : 0)}`}
            stroke="var(--rule)"
            strokeWidth="4"
          />
        );
      })}
      <g fill="none" stroke="var(--ink)" strokeWidth="1.6">
        <path d="M47 172V12M67 172V12" />
        <path d={diverging(47)} />
        <path d={diverging(67)} />
      </g>
      <path d={road} fill="none" stroke="var(--copper-2)" strokeWidth="3.4" strokeDasharray="6 4" />
      <g stroke={blades} strokeWidth="3.2" strokeLinecap="round">
        <path d={`M${50.5 + shift} 160L${49 + side * 1.5} 118`} />
        <path d={`M${63.5 + shift} 160L${65 + side * 1.5} 118`} />
      </g>
      <path d="M34 158H80" stroke="var(--ink)" strokeWidth="2" />
      {stands && (
        <g transform="translate(94 158) scale(.8)">
          <PositionShape position={stands} filled />
        </g>
      )}
    </g>
  );
}

/** A stall motor from above: gearbox and arm. */
export function StallMotor({ x, y, to, height = 38 }: { x: number; y: number; to: Position | null; height?: number }) {
  const middle = height / 2;
  return (
    <g transform={`translate(${x} ${y})`}>
      <path d={`M0 0H38V${height}H0Z`} fill="var(--sheet)" stroke="var(--ink)" strokeWidth="1.4" />
      <circle cx="21" cy={middle} r="13" fill="none" stroke="var(--ink)" strokeWidth="1.2" />
      <path
        d={`M21 ${middle}L${to === "R" ? 29 : 13} ${middle - 10}`}
        stroke="var(--copper)"
        strokeWidth="3"
        strokeLinecap="round"
      />
      <circle cx="21" cy={middle} r="3" fill="var(--ink)" />
    </g>
  );
}

/** A servo from above: case and horn. */
export function ServoMotor({ x, y, to }: { x: number; y: number; to: Position | null }) {
  const angle = to === "N" ? -35 : to === "R" ? 35 : 0;
  return (
    <g transform={`translate(${x} ${y})`}>
      <path d="M0 0H38V38H0Z" fill="var(--sheet)" stroke="var(--ink)" strokeWidth="1.4" />
      <path d="M9 8H33V30H9Z" fill="var(--sheet-2)" stroke="var(--ink)" strokeWidth="1.2" />
      <g transform={`translate(24 19) rotate(${angle})`}>
        <path d="M0 3V-14" stroke="var(--copper)" strokeWidth="4" strokeLinecap="round" />
        <circle r="3" fill="var(--ink)" />
      </g>
    </g>
  );
}

/** A twin-coil motor where there is room for a stall motor only. */
export function SmallCoilMotor({ x, y }: { x: number; y: number }) {
  return (
    <g transform={`translate(${x} ${y})`} fill="none" stroke="var(--ink)">
      <path d="M0 0H38V38H0Z" fill="var(--sheet)" strokeWidth="1.4" />
      <path
        d="M11 16C11 3 17 3 17 16C17 3 23 3 23 16C23 3 29 3 29 16M11 34C11 21 17 21 17 34C17 21 23 21 23 34C23 21 29 21 29 34"
        strokeWidth="1.3"
      />
    </g>
  );
}

/** The two coils of a twin-coil motor with the slug between them; the busier coil is filled. */
export function CoilMotor({ x, y, to, busy }: { x: number; y: number; to: Position | null; busy: Position | null }) {
  const coil = (offset: number, side: Position) => (
    <g transform={`translate(8 ${offset})`}>
      <path
        d="M0 -13H26V13H0Z"
        fill={busy === side ? "var(--copper-wash)" : "var(--sheet)"}
        stroke={busy === side ? "var(--copper)" : "var(--ink)"}
      />
      <path
        d="M3 9C3 -11 9 -11 9 9C9 -11 15 -11 15 9C15 -11 21 -11 21 9"
        fill="none"
        stroke={busy === side ? "var(--copper)" : "var(--ink)"}
        strokeWidth="1.4"
      />
    </g>
  );
  return (
    <g transform={`translate(${x} ${y})`}>
      <path d="M0 0H42V112H0Z" fill="var(--sheet)" stroke="var(--ink)" strokeWidth="1.4" />
      {coil(20, "N")}
      {coil(92, "R")}
      <path d={to === "R" ? "M21 60V76" : "M21 36V52"} stroke="var(--copper)" strokeWidth="8" />
      <path d="M21 34V78" stroke="var(--ink)" strokeWidth="1" strokeDasharray="2 2" />
    </g>
  );
}

/** A changeover contact: arm from the common to one side. */
export function Contact({ x, y, to }: { x: number; y: number; to: Position }) {
  return (
    <g transform={`translate(${x} ${y})`}>
      <path d="M0 0H62V64H0Z" fill="var(--sheet)" stroke="var(--ink)" strokeWidth="1.2" />
      <path d={`M52 32L20 ${to === "N" ? 14 : 50}`} stroke="var(--copper)" strokeWidth="2.4" />
      <circle cx="18" cy={to === "N" ? 52 : 12} r="2.4" fill="none" stroke="var(--ink)" />
      <circle cx="18" cy={to === "N" ? 12 : 52} r="2.6" fill="var(--ink)" />
    </g>
  );
}

/** A semaphore's arm or a flag, as it stands. */
export function Arm({ y, to, flag }: { y: number; to: Position | null; flag: boolean }) {
  return (
    <g transform={`translate(48 ${y})`}>
      <title>{to ? `Shows ${to}` : "Shows nothing"}</title>
      <path d="M-8 34V-28" stroke="var(--ink)" strokeWidth="3" />
      <path d="M-16 34H0" stroke="var(--ink)" strokeWidth="3" />
      <g transform={`translate(-8 -22) rotate(${to === "R" ? 0 : 45})`}>
        <path
          d={flag ? "M0 -9H26L18 0L26 9H0Z" : "M0 -6H32V6H0Z"}
          fill="var(--copper-wash)"
          stroke="var(--copper)"
          strokeWidth="2"
        />
        <circle r="3" fill="var(--ink)" />
      </g>
    </g>
  );
}
