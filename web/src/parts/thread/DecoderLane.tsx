import { amps, figureValue, terminalName, volts } from "@alderman/core";
import type { Overview } from "../../worker/derive.worker.ts";
import { Terminal } from "../Terminal.tsx";
import { WirePath } from "../Wire.tsx";
import { SmallCoilMotor, StallMotor } from "./glyphs.tsx";
import { Heading, Missing } from "./Heading.tsx";
import type { LaneProps } from "./laneProps.ts";
import { linkVerdict } from "./wiring.ts";

/** A numbered decoder output with its address and the motors that follow one another on it. */
export function DecoderLane({ thread, reading, wiring, findings, overview }: LaneProps & { overview: Overview }) {
  const [motor] = thread.motors;
  const driver = motor?.driver;
  if (!motor || !driver) return null;
  const { device, way, type } = driver;
  const verdict = (...labels: string[]) => linkVerdict(findings, thread, labels);
  const output = overview.addresses.find((each) => each.deviceId === device.id && each.way === way);
  const track = overview.nets
    .flatMap(({ purpose, ends }) =>
      purpose === "track-j" && ends.some((each) => each.deviceId === device.id) ? ends : [],
    )
    .find((each) => each.terminal === "J" && each.deviceId !== device.id);
  const feed = overview.loom.wires.find(({ from, to }) => to.key === `${device.id}:+` || from.key === `${device.id}:+`);
  const feedName = feed && (feed.from.key.startsWith(`${device.id}:`) ? feed.to.name : feed.from.name);
  const trackName = overview.loom.wires
    .find(({ from }) => from.key === `${track?.deviceId}:J`)
    ?.from.name.replace("-J", "");
  const sides = [
    { letter: "A", y: 100, bus: 458, out: 414 },
    { letter: "B", y: 136, bus: 444, out: 426 },
  ] as const;
  const motorTop = (index: number) => 68 + index * 66;
  const lead = (index: number, terminal: string) => motorTop(index) + (terminal === "+" || terminal === "N" ? 9 : 29);
  const over = overview.findings.some(
    ({ ruleId, terminals }) => ruleId === "output-over-limit" && terminals.includes(`${device.label}-${way}`),
  );
  const fenced = new Set(
    findings
      .filter(
        ({ ruleId, turnoutIds }) =>
          (ruleId === "pair-thrown-against" || ruleId === "goes-astray") && turnoutIds.includes(thread.turnout.id),
      )
      .flatMap(({ terminals }) => terminals),
  );
  return (
    <g>
      <Heading
        x={12}
        number={1}
        words="Address"
        verdict={output ? linkVerdict(findings, thread, [output.label, `Address ${output.address}`]) : "open"}
      />
      <path d="M18 74H86L94 84V138H18Z" fill="var(--copper-wash)" stroke="var(--copper)" strokeWidth="1.2" />
      <text className="tq" x="56" y="96" textAnchor="middle">
        command
      </text>
      <text className="tv" x="56" y="121" textAnchor="middle" style={{ fontSize: "20px", fill: "var(--copper)" }}>
        {output?.address ?? ""}
      </text>
      <text className="tq" x="12" y="160">
        from the throttle
      </text>
      {thread.control && (
        <text className="tm" x="12" y="178" style={{ fill: "var(--amber)" }}>
          {thread.control.device.label} not wired
        </text>
      )}
      {trackName && track ? (
        <>
          <Heading x={120} number={2} words={`Track bus ${trackName}`} verdict={verdict(trackName)} />
          <WirePath d="M206 104H318" colour="PK" />
          <WirePath d="M206 136H318" colour="TQ" />
          <path d="M138 84H206V156H138Z" fill="var(--sheet)" stroke="var(--ink)" strokeWidth="1.4" />
          <path d="M150 128V112H160V128H170V112H180V128H190" fill="none" stroke="var(--copper)" strokeWidth="1.6" />
          <Terminal
            end={`${track.deviceId}:J`}
            name={`${trackName}-J`}
            x={206}
            y={104}
            label="J"
            labelAt="aboveRight"
          />
          <Terminal
            end={`${track.deviceId}:K`}
            name={`${trackName}-K`}
            x={206}
            y={136}
            label="K"
            labelAt="aboveRight"
          />
          <text className="tq" x="138" y="174">
            brings the commands
          </text>
        </>
      ) : (
        <Missing x={120} y={104} words="No track bus" />
      )}
      <Heading
        x={318}
        number={3}
        words={`Driver ${device.label}`}
        verdict={verdict(device.label, `${device.label}-${way}`)}
      />
      <path d="M318 68H388V172H318Z" fill="var(--sheet)" stroke="var(--ink)" strokeWidth="1.4" />
      <text className="th" x="353" y="116" textAnchor="middle">
        out {way}
      </text>
      <text className="tq" x="353" y="132" textAnchor="middle">
        of {type.outputs}
      </text>
      <Terminal end={`${device.id}:J`} name={`${device.label}-J`} x={318} y={104} label="J" labelAt="right" />
      <Terminal end={`${device.id}:K`} name={`${device.label}-K`} x={318} y={136} label="K" labelAt="right" />
      {sides.map(({ letter, y, bus, out }) => {
        const key = `${device.id}:${way}${letter}`;
        const ends = thread.motors.map((each, index) => {
          const terminal = (each.type.model === "twin-coil" ? ["N", "R"] : ["+", "−"]).find((name) =>
            wiring.joined(key, `${each.device.id}:${name}`),
          );
          return terminal ? lead(index, terminal) : null;
        });
        const [first, ...rest] = ends;
        return (
          <g key={letter}>
            {typeof first === "number" && (
              <WirePath d={`M388 ${y}H${out}V${first}H476`} colour={wiring.colourOf(key)} />
            )}
            {typeof first === "number" &&
              rest.map((end, index) =>
                typeof end === "number" ? (
                  <WirePath
                    key={thread.motors[index + 1]?.device.id}
                    d={`M${bus} ${first}V${end}H476`}
                    colour={wiring.colourOf(key)}
                  />
                ) : null,
              )}
            {typeof first === "number" && rest.length > 0 && (
              <circle cx={bus} cy={first} r="3" fill="var(--wire-line)" />
            )}
            <Terminal end={key} name={`${device.label}-${way}${letter}`} x={388} y={y} label={letter} labelAt="left" />
          </g>
        );
      })}
      <Heading
        x={430}
        number={4}
        words={
          thread.motors.length > 1
            ? thread.motors.map((each) => each.device.label).join(" ")
            : `Motor ${motor.device.label}`
        }
        verdict={verdict(...thread.motors.map((each) => each.device.label))}
      />
      {thread.motors.map((each, index) => {
        const reads = reading?.motors[index];
        const names = each.type.model === "twin-coil" ? ["N", "R"] : ["+", "−"];
        return (
          <g key={each.device.id}>
            {each.type.model === "twin-coil" ? (
              <SmallCoilMotor x={476} y={motorTop(index)} />
            ) : (
              <StallMotor x={476} y={motorTop(index)} to={reads?.goesTo ?? null} />
            )}
            {names.map((name) => (
              <Terminal
                key={name}
                end={`${each.device.id}:${name}`}
                name={terminalName(each.device.label, name)}
                x={476}
                y={lead(index, name)}
                radius={4.5}
              />
            ))}
            {reads && (
              <text className="tm" x="518" y={motorTop(index) + 53} textAnchor="end">
                {amps(Math.abs(reads.amps.N))}
              </text>
            )}
            {names.some((name) => fenced.has(terminalName(each.device.label, name))) && (
              <path
                d={`M468 ${motorTop(index) - 1}H486V${motorTop(index) + 39}H468Z`}
                fill="none"
                stroke="var(--red)"
                strokeWidth="1.6"
                strokeDasharray="4 3"
              />
            )}
          </g>
        );
      })}
      {reading && (
        <>
          <text className="tv" x="318" y="196">
            {volts(reading.driverVolts ?? 0)}
            <tspan className="tq" dx="6" style={{ fontWeight: 400, letterSpacing: 0, fontFamily: "var(--font-body)" }}>
              A to B
            </tspan>
          </text>
          <text className="tm" x="318" y="213" style={over ? { fill: "var(--red)", fontWeight: 700 } : {}}>
            {amps(reading.driverAmps ?? 0)} of {amps(figureValue(type, "outputAmps"))}
          </text>
        </>
      )}
      <text className="tq" x="318" y="230">
        {feedName ? `fed from ${feedName}` : "no supply"}
      </text>
    </g>
  );
}
