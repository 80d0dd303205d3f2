import type { ThreadFrog } from "@alderman/core";
import { terminalName } from "@alderman/core";
import { PositionShape } from "../Mark.tsx";
import { Terminal } from "../Terminal.tsx";
import { FrogPart } from "./FrogPart.tsx";
import { frogVerdict, frogWords } from "./frogWords.ts";
import { TurnoutGlyph } from "./glyphs.tsx";
import { Heading } from "./Heading.tsx";
import { linksBack } from "./lampSource.ts";
import type { LaneProps, Numbered } from "./laneProps.ts";
import { linkVerdict } from "./linkVerdict.ts";
import { useDrawnLamp } from "./useDrawnLamp.ts";

/** The turnouts as they come to lie; how is not said while nothing is solved. */
export function Track({ thread, reading, findings, first }: Omit<LaneProps, "wiring"> & Numbered) {
  const turnouts = [thread.turnout, ...thread.followers].slice(0, 2);
  const asked = reading?.position ?? "N";
  const stands = turnouts.map((turnout) => {
    const index = thread.motors.findIndex((motor) => motor.turnout.id === turnout.id);
    return reading ? (reading.motors[index]?.goesTo ?? null) : undefined;
  });
  const [frog] = thread.frogs;
  const lamp = useDrawnLamp(thread);
  const right = stands.every((each) => each === asked);
  return (
    <g>
      <Heading
        x={540}
        number={first}
        words="Blades"
        verdict={thread.motors.length === 0 || !reading ? "open" : right ? linkVerdict(findings, thread, []) : "wrong"}
      />
      {turnouts.map((turnout, index) => (
        <g key={turnout.id} transform={`translate(530 ${54 + index * 212})`}>
          <TurnoutGlyph turnout={turnout} asked={asked} stands={stands[index]} />
          {turnouts.length > 1 && (
            <FrogRing frog={thread.frogs.find((frog) => frog.turnout.id === turnout.id)} reading={reading} />
          )}
          {reading && (
            <text
              className="tm"
              x="10"
              y="192"
              style={stands[index] === asked ? {} : { fill: "var(--red)", fontWeight: 700 }}
            >
              {turnout.label} {stands[index] ? `stands at ${stands[index]}` : "stays"}
            </text>
          )}
        </g>
      ))}
      {[thread.turnout, ...thread.followers].slice(2).map((turnout, index) => (
        <text key={turnout.id} className="tm" x="540" y={470 + index * 12}>
          and {turnout.label}
        </text>
      ))}
      {turnouts.length < 2 && frog && (
        <FrogPart frog={frog} reads={reading?.frogs[0]} number={first + linksBack(lamp) + 1} />
      )}
      {turnouts.length < 2 && !frog && (
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

/** A frog where there is no room for more: a terminal on the turnout, and what it carries. */
function FrogRing({ frog, reading }: { frog: ThreadFrog | undefined; reading: LaneProps["reading"] }) {
  if (!frog) return null;
  const reads = reading?.frogs.find(({ turnoutId }) => turnoutId === frog.turnout.id);
  const side = frog.turnout.hand === "right" ? 1 : -1;
  const verdict = frogVerdict(frog, reads);
  return (
    <g>
      <Terminal
        end={`${frog.device.id}:F`}
        name={terminalName(frog.device.label, "F")}
        x={57 + side * 10}
        y={68}
        label="F"
        labelAt={side > 0 ? "closeRight" : "closeLeft"}
        radius={4.5}
      />
      {reading && (
        <text className="tm" x="10" y="205" style={verdict === "wrong" ? { fill: "var(--red)", fontWeight: 700 } : {}}>
          F {frogWords(frog, reads)}
        </text>
      )}
    </g>
  );
}
