import {
  amps,
  controlSides,
  joules,
  type MotorReading,
  milliseconds,
  outTerminals,
  ownOf,
  seconds,
  type Thread,
  type ThreadReading,
  terminalName,
  traitsOf,
  volts,
} from "@alderman/core";
import { useAppSelector } from "../../store/store.ts";
import { Terminal } from "../Terminal.tsx";
import type { Verdict } from "../verdict.ts";
import { WirePath } from "../Wire.tsx";
import { ControlFace } from "./ControlFace.tsx";
import { controlInWords, madeNow } from "./controlWords.ts";
import { CoilMotor, StallMotor } from "./glyphs.tsx";
import { Heading, Missing } from "./Heading.tsx";
import { Lane, LoomHeadings } from "./Lane.tsx";
import { type LaneProps, OUT_ROWS } from "./laneProps.ts";
import { linkVerdict } from "./linkVerdict.ts";
import { drawnEnd, type Row, viaWords } from "./wiring.ts";

type Fitted = Thread["motors"][number];
type Unit = NonNullable<Fitted["unit"]>;
export type Verdicts = (...labels: string[]) => Verdict;

/** A toggle, or the place for one, with discharge unit or bare supply and the motors on it. */
export function SwitchedLane({ thread, reading, wiring, findings }: LaneProps) {
  const { control } = thread;
  const [motor] = thread.motors;
  const driver = motor?.unit;
  const verdict: Verdicts = (...labels) => linkVerdict(findings, thread, labels);
  const rows = rowsOf(thread, wiring);
  return (
    <g>
      {control ? (
        <ControlPart
          {...{ thread, control, reading, rows, verdict }}
          boardX={[456, 330, 456]}
          words={thread.moreControls.map(controlInWords)}
        />
      ) : (
        <Missing x={12} y={112} words="Choose a control" />
      )}
      {motor && driver ? (
        <DriverPart
          {...{ thread, motor, driver, reading, wiring, verdict }}
          feedVia={rows.find(({ layout }) => layout?.key.startsWith(`${driver.device.id}:`))?.layoutVia ?? null}
        />
      ) : (
        <Missing x={318} y={112} words="Choose a driver" />
      )}
      {motor && <MotorPart {...{ thread, motor, reading, verdict }} />}
    </g>
  );
}

const isCoil = ({ type }: Fitted) => traitsOf(type).movedBy === "pulse";

/** The lines of the control to motor and driver, from above: its side for normal, its common, its side for reverse. */
function rowsOf({ control, motors: [motor] }: Thread, wiring: LaneProps["wiring"]) {
  if (!control) return [];
  const driver = motor?.unit;
  const plus = driver && outTerminals(driver);
  const [n, r] = !motor || !isCoil(motor) ? ["+", "−"] : motor.assignment.crossed ? ["R", "N"] : ["N", "R"];
  const sides = controlSides(control);
  const first = sides.N ?? sides.press;
  return [
    ...(first ? [wiring.row(drawnEnd(control, first), motor ? drawnEnd(motor, n) : null)] : []),
    wiring.row(drawnEnd(control, sides.common), driver ? drawnEnd(driver, plus?.[0] ?? "+") : null),
    ...(sides.R ? [wiring.row(drawnEnd(control, sides.R), motor ? drawnEnd(motor, r) : null)] : []),
  ];
}

/** A control on the panel, with how it stands and its cores through the loom. */
export function ControlPart({
  thread,
  control,
  reading,
  rows,
  boardX,
  words,
  verdict,
}: {
  thread: Thread;
  control: NonNullable<Thread["control"]>;
  reading: LaneProps["reading"];
  rows: readonly Row[];
  /** Where each row ends at the right. */
  boardX: readonly number[];
  /** What is written below it, before the strips that it goes through. */
  words: readonly string[];
  verdict: Verdicts;
}) {
  const by = useAppSelector((state) => ownOf(state.view.by, thread.turnout.id));
  return (
    <>
      <LoomHeadings rows={rows} />
      <Lane rows={rows} ys={OUT_ROWS} boardX={boardX} />
      <ControlFace
        control={control}
        made={madeNow(control, reading, by)}
        verdict={verdict(control.device.label)}
        notes={[...words, ...viaWords(rows, "panel")]}
      />
      {rows.map(({ panel }, index) => (
        <Terminal
          key={panel.key}
          end={panel.key}
          name={panel.name}
          x={90}
          y={OUT_ROWS[index] ?? 0}
          label={panel.terminal}
        />
      ))}
    </>
  );
}

/** The discharge unit or supply, with what it gives and the way back from the motor. */
export function DriverPart({
  thread,
  motor,
  driver,
  reading,
  wiring,
  verdict,
  feedVia,
  before = "",
}: Omit<LaneProps, "findings"> & {
  motor: Fitted;
  driver: Unit;
  verdict: Verdicts;
  feedVia: string | null;
  /** What stands over it, for the heading of both. */
  before?: string;
}) {
  const plus = outTerminals(driver);
  const common = drawnEnd(motor, isCoil(motor) ? "C" : motor.assignment.crossed ? "+" : "−");
  const minus = drawnEnd(driver, plus?.[1] ?? "−");
  const back = wiring.joined(common.key, minus.key);
  const returnVia = back ? wiring.via(common.key, minus.key) : null;
  const units = [...new Set(thread.motors.flatMap((each) => each.unit?.device.label ?? []))];
  return (
    <>
      <Heading
        x={318}
        number={5}
        words={`${before || (traitsOf(driver.type).gives === "pulse" ? "Unit" : "Supply")} ${units.join(" ")}`}
        verdict={verdict(driver.device.label)}
      />
      {back && <WirePath d="M402 124H456" colour={wiring.colourOf(minus.key)} dashed={returnVia !== null} />}
      <path d="M330 100H402V148H330Z" fill="var(--sheet)" stroke="var(--ink)" strokeWidth="1.4" />
      <path
        d={
          traitsOf(driver.type).gives === "pulse"
            ? "M356 124H363M363 112V136M370 112V136M370 124H377"
            : traitsOf(driver.type).gives === "ac"
              ? "M352 124C356 112 362 112 366 124C370 136 376 136 380 124"
              : "M354 120H378M354 128H360M363 128H369M372 128H378"
        }
        stroke="var(--ink)"
        strokeWidth="1.6"
        fill="none"
      />
      <Terminal
        end={`${driver.device.id}:${plus?.[0]}`}
        name={terminalName(driver.device.label, plus?.[0] ?? "+")}
        x={330}
        y={124}
        label={plus?.[0] ?? "+"}
        labelAt="aboveLeft"
      />
      <Terminal end={minus.key} name={minus.name} x={402} y={124} label={plus?.[1] ?? "−"} labelAt="aboveRight" />
      {reading && (
        <>
          <text className="tv" x="318" y="202">
            {volts(reading.driverVolts ?? 0)}
            {reading.alternating ? " AC" : ""}
          </text>
          <text className="tq" x="318" y="218">
            {driverWords(driver, reading)}
          </text>
        </>
      )}
      {returnVia && (
        <text className="tm" x="318" y="235">
          C via {returnVia}
        </text>
      )}
      {feedVia && (
        <text className="tm" x="318" y="250">
          {driver.device.label} via {feedVia}
        </text>
      )}
    </>
  );
}

/** What unit or supply is doing in the moment that is looked at. */
function driverWords({ type }: Unit, { moment, driverVolts }: ThreadReading): string {
  if (moment === "throwing") return "in the pulse";
  if (moment === "held") return "held long after";
  return Math.abs(driverVolts ?? 0) < (type.figures.leastVolts?.value ?? 0) ? "not charged" : "ready to give";
}

/** The motor, with what each coil or its winding takes and where it goes. */
export function MotorPart({
  thread,
  motor,
  reading,
  verdict,
}: Pick<LaneProps, "thread" | "reading"> & { motor: Fitted; verdict: Verdicts }) {
  const coil = isCoil(motor);
  const spare = thread.motors.slice(1);
  const reads = reading?.motors[0];
  const [toN, toR] = [Math.abs(reads?.amps.N ?? 0), Math.abs(reads?.amps.R ?? 0)];
  const pulse = reads?.pulse;
  const busy = Math.max(toN, toR) > 0.02 ? (toN > toR ? "N" : "R") : null;
  return (
    <>
      <Heading x={430} number={6} words={`Motor ${motor.device.label}`} verdict={verdict(motor.device.label)} />
      {coil ? (
        <CoilMotor x={456} y={68} to={reads?.goesTo ?? null} busy={busy} />
      ) : (
        <StallMotor x={456} y={70} to={reads?.goesTo ?? null} height={68} />
      )}
      {coil
        ? (["N", "C", "R"] as const).map((name, index) => {
            const order = motor.assignment.crossed ? ["R", "C", "N"] : ["N", "C", "R"];
            const shown = order[index] ?? name;
            return (
              <Terminal
                key={shown}
                end={`${motor.device.id}:${shown}`}
                name={terminalName(motor.device.label, shown)}
                x={456}
                y={OUT_ROWS[index] ?? 0}
                label={shown}
                labelAt="aboveLeft"
              />
            );
          })
        : (["+", "−"] as const).map((name, index) => (
            <Terminal
              key={name}
              end={`${motor.device.id}:${name}`}
              name={terminalName(motor.device.label, name)}
              x={456}
              y={index === 0 ? 84 : 124}
              label={name}
              labelAt="aboveLeft"
            />
          ))}
      {reading &&
        reads &&
        (coil ? (
          (["N", "R"] as const).map((side, index) => (
            <text key={side} className={busy === side ? "tv" : "tm"} x="420" y={202 + index * 16}>
              {side} {amps(Math.abs(reads.amps[side]))}
            </text>
          ))
        ) : (
          <text className="tv" x="420" y="202">
            {amps(Math.abs(reads.amps.N))}
          </text>
        ))}
      {reads && (
        <text className="tq" x="420" y="235">
          {pulse ? pulseText(pulse, reads.again) : reads.goesTo ? `throws to ${reads.goesTo}` : "does not move"}
        </text>
      )}
      {spare.length > 0 && (
        <text className="tm" x="420" y="250">
          and {spare.map(({ device }) => device.label).join(", ")}
        </text>
      )}
    </>
  );
}

/** What a coil gets of its pulse, and when it can be thrown again. */
function pulseText(pulse: NonNullable<MotorReading["pulse"]>, again: number | null): string {
  if (pulse.peakAmps < pulse.curve.moveAmps) return `moves from ${amps(pulse.curve.moveAmps)}`;
  const gets = `${joules(pulse.joules)} in ${milliseconds(pulse.secondsAboveHalf)}`;
  return again ? `${gets}, again after ${seconds(again)}` : gets;
}
