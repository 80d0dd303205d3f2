import { PositionShape } from "../Mark.tsx";
import { TurnoutGlyph } from "./glyphs.tsx";
import { Heading } from "./Heading.tsx";
import type { LaneProps, Numbered } from "./laneProps.ts";
import { linkVerdict } from "./wiring.ts";

/** The turnouts as they come to lie. */
export function Track({ thread, reading, findings, first }: Omit<LaneProps, "wiring"> & Numbered) {
  const turnouts = [thread.turnout, ...thread.followers].slice(0, 2);
  const asked = reading?.position ?? "N";
  const stands = turnouts.map((turnout) => {
    const index = thread.motors.findIndex((motor) => motor.turnout.id === turnout.id);
    return reading?.motors[index]?.goesTo ?? null;
  });
  const right = stands.every((each) => each === asked);
  return (
    <g>
      <Heading
        x={540}
        number={first}
        words="Blades"
        verdict={thread.motors.length === 0 ? "open" : right ? linkVerdict(findings, thread, []) : "wrong"}
      />
      {turnouts.map((turnout, index) => (
        <g key={turnout.id} transform={`translate(530 ${54 + index * 212})`}>
          <TurnoutGlyph turnout={turnout} asked={asked} stands={stands[index] ?? null} />
          <text
            className="tm"
            x="10"
            y="192"
            style={stands[index] === asked ? {} : { fill: "var(--red)", fontWeight: 700 }}
          >
            {turnout.label} {stands[index] ? `stands at ${stands[index]}` : "stays"}
          </text>
        </g>
      ))}
      {[thread.turnout, ...thread.followers].slice(2).map((turnout, index) => (
        <text key={turnout.id} className="tm" x="540" y={470 + index * 12}>
          and {turnout.label}
        </text>
      ))}
      {turnouts.length < 2 && (
        <g transform="translate(552 300)">
          <text className="tq" x="-12" y="0">
            Asked for
          </text>
          <g transform="translate(6 20)">
            <PositionShape position={asked} filled={false} />
          </g>
        </g>
      )}
    </g>
  );
}
