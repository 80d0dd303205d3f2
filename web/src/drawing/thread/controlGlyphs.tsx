import type { Position, ThreadControl } from "@alderman/core";
import { traitsOf } from "@alderman/core";
import { Toggle } from "./glyphs.tsx";

const RING = { fill: "var(--sheet)", stroke: "var(--ink)", strokeWidth: 1.4 } as const;

/** A control as it looks from the front, pressed or turned as it is held. */
export function ControlGlyph({ control, made }: { control: ThreadControl; made: Position | null }) {
  const { maintained, zones, drives, id } = control.type;
  const { asks, inTrack } = traitsOf(control.type);
  if (zones) return <SensorGlyph spot={inTrack === "spot-sensor"} on={made !== null} />;
  if (drives) return <OutputGlyph way={control.assignment.way ?? 1} />;
  if (asks === "press") return <Button pressed={made !== null} />;
  if (asks === "position") return <Rotary made={made} />;
  if (asks === "signal") return <Touch made={made} />;
  // two buttons are a pair of sprung contacts, and look like it
  if (id === "push-pair") return <ButtonPair made={made} />;
  return <Toggle made={made} rest={maintained ? "latching" : "at the centre"} />;
}

function Button({ pressed }: { pressed: boolean }) {
  return (
    <g transform="translate(48 124)">
      <title>{pressed ? "Button pressed" : "Button let go"}</title>
      <circle r="27" {...RING} />
      <circle r={pressed ? 14 : 18} fill="var(--copper-wash)" stroke="var(--copper)" strokeWidth="2" />
    </g>
  );
}

function ButtonPair({ made }: { made: Position | null }) {
  return (
    <g transform="translate(48 124)">
      <title>{made ? `Button ${made} pressed` : "Buttons let go"}</title>
      <path d="M-24 -36H24V36H-24Z" {...RING} />
      {(["N", "R"] as const).map((side) => (
        <g key={side} transform={`translate(0 ${side === "N" ? -17 : 17})`}>
          <circle r={made === side ? 11 : 14} fill="var(--copper-wash)" stroke="var(--copper)" strokeWidth="2" />
          <text className="tv" y="5" textAnchor="middle">
            {side}
          </text>
        </g>
      ))}
    </g>
  );
}

function Rotary({ made }: { made: Position | null }) {
  return (
    <g transform="translate(48 124)">
      <title>{made ? `Knob at ${made}` : "Knob between positions"}</title>
      <circle r="31" {...RING} />
      {Array.from({ length: 12 }, (_, index) => index * 30).map((turn) => (
        <path key={turn} d="M0 -31V-25" stroke="var(--ink)" transform={`rotate(${turn})`} />
      ))}
      <g transform={`rotate(${made === "R" ? 30 : 0})`}>
        <circle r="18" fill="var(--sheet-2)" stroke="var(--ink)" strokeWidth="1.4" />
        <path d="M0 0V-17" stroke="var(--copper)" strokeWidth="4" strokeLinecap="round" />
      </g>
    </g>
  );
}

function Touch({ made }: { made: Position | null }) {
  return (
    <g transform="translate(48 124)">
      <title>{made ? `Touch button at ${made}` : "Touch button"}</title>
      <rect x="-26" y="-26" width="52" height="52" rx="14" {...RING} />
      <path d="M-12 8C-12 -14 12 -14 12 8M-5 10C-5 -4 5 -4 5 10" fill="none" stroke="var(--copper)" strokeWidth="2.2" />
      <text className="tm" y="23" textAnchor="middle">
        {made ?? ""}
      </text>
    </g>
  );
}

/** A stretch of track that is watched, or a spot of it. */
function SensorGlyph({ spot, on }: { spot: boolean; on: boolean }) {
  return (
    <g transform="translate(48 124)">
      <title>{on ? "Occupied" : "Clear"}</title>
      <path d="M-32 -30H28V30H-32Z" {...RING} />
      <path d="M-26 -8H22M-26 8H22" stroke="var(--ink)" strokeWidth="2" />
      {spot ? (
        <circle r="5" fill={on ? "var(--copper)" : "var(--sheet)"} stroke="var(--copper)" strokeWidth="2" />
      ) : (
        <path
          d="M-20 -13H16V13H-20Z"
          fill={on ? "var(--copper-wash)" : "none"}
          stroke="var(--copper)"
          strokeWidth="2"
        />
      )}
    </g>
  );
}

function OutputGlyph({ way }: { way: number }) {
  return (
    <g transform="translate(48 124)">
      <path d="M-30 -34H30V34H-30Z" {...RING} />
      <text className="th" y="4" textAnchor="middle">
        out {way}
      </text>
    </g>
  );
}
