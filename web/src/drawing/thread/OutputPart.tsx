import { amps, figureValue, type ThreadMotor, terminalName, traitsOf, volts } from "@alderman/core";
import { Terminal } from "../Terminal.tsx";
import { WirePath } from "../Wire.tsx";
import { ServoMotor, SmallCoilMotor, StallMotor } from "./glyphs.tsx";
import { Heading } from "./Heading.tsx";
import type { LaneProps } from "./laneProps.ts";
import { linkVerdict } from "./linkVerdict.ts";
import { leadHeight, MOTOR_X, motorTop, outputWires, windingTerminals } from "./outputWires.ts";

interface Props extends LaneProps {
  /** Left edge and width of the driver's box. */
  x: number;
  width: number;
  /** Numbers of the driver and of the motors among the links. */
  first: number;
  /** What else is to be said below the driver. */
  notes: readonly string[];
}

/** A numbered output with the motors that follow one another on it. */
export function OutputPart({ thread, reading, wiring, findings, x, width, first, notes }: Props) {
  const [motor] = thread.motors;
  const driver = motor?.driver;
  if (!motor || !driver) return null;
  const { device, way, type } = driver;
  const verdict = (...labels: string[]) => linkVerdict(findings, thread, labels);
  const over = findings.some(
    ({ ruleId, terminals }) => ruleId === "output-over-limit" && terminals.includes(`${device.label}-${way}`),
  );
  const right = x + width;
  const wires = outputWires(thread.motors, right);
  const limit = type.figures.outputAmps ? figureValue(type, "outputAmps") : null;
  const narrow = width < 60;
  return (
    <g>
      <Heading
        x={x}
        number={first}
        words={`${narrow ? "" : "Driver "}${device.label}`}
        verdict={verdict(device.label, `${device.label}-${way}`)}
      />
      <path d={`M${x} 68H${right}V180H${x}Z`} fill="var(--sheet)" stroke="var(--ink)" strokeWidth="1.4" />
      <text className="th" x={x + width / 2} y={narrow ? 84 : 116} textAnchor="middle">
        out {way}
      </text>
      {!narrow && (
        <text className="tq" x={x + width / 2} y="132" textAnchor="middle">
          of {type.outputs}
        </text>
      )}
      {wires.map((wire) => {
        const [start, ...rest] = wire.ends;
        const colour = wiring.colourOf(wire.terminal.key);
        return (
          <g key={wire.letter}>
            {typeof start === "number" && (
              <>
                <WirePath d={`M${right} ${wire.y}H${wire.turn}V${start}H${MOTOR_X}`} colour={colour} />
                {rest.map((end, index) =>
                  typeof end === "number" ? (
                    <WirePath
                      key={thread.motors[index + 1]?.device.id}
                      d={`M${wire.bus} ${start}V${end}H${MOTOR_X}`}
                      colour={colour}
                    />
                  ) : null,
                )}
                {rest.some((end) => end !== null) && <circle cx={wire.bus} cy={start} r="3" fill="var(--wire-line)" />}
              </>
            )}
            <Terminal
              end={wire.terminal.key}
              name={wire.terminal.name}
              x={right}
              y={wire.y}
              label={wire.letter}
              labelAt="left"
            />
          </g>
        );
      })}
      <Motors thread={thread} reading={reading} wiring={wiring} findings={findings} number={first + 1} />
      {reading && (
        <>
          <text className="tv" x={x} y="202">
            {volts(reading.driverVolts ?? 0)}
            {!narrow && (
              <tspan
                className="tq"
                dx="6"
                style={{ fontWeight: 400, letterSpacing: 0, fontFamily: "var(--font-body)" }}
              >
                {ACROSS[type.drives ?? "pair"]}
              </tspan>
            )}
          </text>
          <text className="tm" x={x} y="218" style={over ? { fill: "var(--red)", fontWeight: 700 } : {}}>
            {amps(reading.driverAmps ?? 0)}
            {limit !== null && !narrow ? ` of ${amps(limit)}` : ""}
          </text>
        </>
      )}
      {notes.map((words, index) => (
        <text key={words} className="tq" x={Math.min(x, 318)} y={234 + index * 14}>
          {words}
        </text>
      ))}
    </g>
  );
}

/** Between which terminals an output's volts are told. */
const ACROSS = { pair: "A to B", coil: "C to N", servo: "+ to −", matrix: "", contact: "", sink: "" };

/** The motors of a thread, one below the other. */
export function Motors({ thread, reading, findings, number }: LaneProps & { number: number }) {
  const fenced = new Set(
    findings
      .filter(
        ({ ruleId, turnoutIds }) =>
          (ruleId === "pair-thrown-against" || ruleId === "goes-astray") && turnoutIds.includes(thread.turnout.id),
      )
      .flatMap(({ terminals }) => terminals),
  );
  const labels = thread.motors.map((each) => each.device.label);
  return (
    <g>
      <Heading
        x={thread.motors.length > 1 ? 430 : 444}
        number={number}
        words={thread.motors.length > 1 ? labels.join(" ") : `Motor ${labels[0]}`}
        verdict={linkVerdict(findings, thread, labels)}
      />
      {thread.motors.map((motor, index) => {
        const reads = reading?.motors[index];
        const names = windingTerminals(motor);
        const fence = names.some((name) => fenced.has(terminalName(motor.device.label, name)));
        const flows = reads ? Math.max(Math.abs(reads.amps.N), Math.abs(reads.amps.R)) : 0;
        return (
          <g key={motor.device.id}>
            <MotorBox motor={motor} y={motorTop(index)} to={reads?.goesTo ?? null} />
            {names.map((name) => (
              <Terminal
                key={name}
                end={`${motor.device.id}:${name}`}
                name={terminalName(motor.device.label, name)}
                x={MOTOR_X}
                y={motorTop(index) + leadHeight(motor, name)}
                radius={4.5}
              />
            ))}
            {reads && (
              <text className="tm" x="518" y={motorTop(index) + 53} textAnchor="end">
                {amps(flows)}
              </text>
            )}
            {fence && (
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
    </g>
  );
}

function MotorBox({ motor, y, to }: { motor: ThreadMotor; y: number; to: "N" | "R" | null }) {
  if (traitsOf(motor.type).movedBy === "pulse") return <SmallCoilMotor x={MOTOR_X} y={y} />;
  if (traitsOf(motor.type).movedBy === "signal") return <ServoMotor x={MOTOR_X} y={y} to={to} />;
  return <StallMotor x={MOTOR_X} y={y} to={to} />;
}
