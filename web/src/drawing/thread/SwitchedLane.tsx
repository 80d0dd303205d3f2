import { amps, controlSides, joules, milliseconds, outTerminals, terminalName, traitsOf, volts } from "@alderman/core";
import { useAppSelector } from "../../store/store.ts";
import { Terminal } from "../Terminal.tsx";
import { WirePath } from "../Wire.tsx";
import { madeNow, otherWords } from "./BoardLane.tsx";
import { ControlGlyph, controlName, controlWords } from "./controlGlyphs.tsx";
import { CoilMotor, StallMotor } from "./glyphs.tsx";
import { Heading, Missing } from "./Heading.tsx";
import { Lane, LoomHeadings, viaWords } from "./Lane.tsx";
import { type LaneProps, OUT_ROWS } from "./laneProps.ts";
import { drawnEnd, linkVerdict } from "./wiring.ts";

/** A toggle, or the place for one, with discharge unit or bare supply and the motors on it. */
export function SwitchedLane({ thread, reading, wiring, findings }: LaneProps) {
  const { control } = thread;
  const by = useAppSelector((state) => state.view.by[thread.turnout.id]);
  const [motor] = thread.motors;
  const driver = motor?.driver;
  const verdict = (...labels: string[]) => linkVerdict(findings, thread, labels);
  const plus = driver && outTerminals(driver);
  const coil = motor !== undefined && traitsOf(motor.type).movedBy === "pulse";
  const [n, r] = coil ? (motor.assignment.crossed ? ["R", "N"] : ["N", "R"]) : ["+", "−"];
  const sides = control && controlSides(control);
  const rows = control
    ? [
        ...((sides?.N ?? sides?.press)
          ? [wiring.row(drawnEnd(control, sides.N ?? sides.press ?? ""), motor ? drawnEnd(motor, n) : null)]
          : []),
        wiring.row(drawnEnd(control, sides?.common ?? "C"), driver ? drawnEnd(driver, plus?.[0] ?? "+") : null),
        ...(sides?.R ? [wiring.row(drawnEnd(control, sides.R), motor ? drawnEnd(motor, r) : null)] : []),
      ]
    : [];
  const made = control && madeNow(control, reading, by);
  const common = motor && drawnEnd(motor, coil ? "C" : motor.assignment.crossed ? "+" : "−");
  const minus = driver && drawnEnd(driver, plus?.[1] ?? "−");
  const returnVia = common && minus && wiring.joined(common.key, minus.key) ? wiring.via(common.key, minus.key) : null;
  const reads = reading?.motors[0];
  const busy =
    reads && Math.max(Math.abs(reads.amps.N), Math.abs(reads.amps.R)) > 0.02
      ? Math.abs(reads.amps.N) > Math.abs(reads.amps.R)
        ? "N"
        : "R"
      : null;
  const feedVia = rows.find(({ layout }) => driver && layout?.key.startsWith(`${driver.device.id}:`))?.layoutVia;
  const [how, manner] = control ? controlWords(control, made) : ["", ""];
  const units = [...new Set(thread.motors.flatMap((each) => each.driver?.device.label ?? []))];
  const spare = thread.motors.slice(1);
  return (
    <g>
      {control ? (
        <>
          <Heading x={12} number={1} words={controlName(control)} verdict={verdict(control.device.label)} />
          <LoomHeadings rows={rows} />
          <Lane rows={rows} ys={OUT_ROWS} boardX={[456, 330, 456]} />
          <ControlGlyph control={control} made={made} />
          {rows.map(({ panel }, index) => (
            <Terminal
              key={panel.key}
              end={panel.key}
              name={panel.name}
              x={90}
              y={OUT_ROWS[index] ?? 0}
              label={panel.key.slice(panel.key.lastIndexOf(":") + 1)}
            />
          ))}
          <text className="tm" x="12" y="202">
            {how}
          </text>
          <text className="tq" x="12" y="218">
            {manner}
          </text>
          {[...thread.moreControls.map(otherWords), ...viaWords(rows, "panel")].slice(0, 2).map((words, index) => (
            <text key={words} className="tm" x="12" y={235 + index * 15}>
              {words}
            </text>
          ))}
        </>
      ) : (
        <Missing x={12} y={112} words="Choose a control" />
      )}
      {driver ? (
        <>
          <Heading
            x={318}
            number={5}
            words={`${traitsOf(driver.type).gives === "pulse" ? "Unit" : "Supply"} ${units.join(" ")}`}
            verdict={verdict(driver.device.label)}
          />
          {common && minus && wiring.joined(common.key, minus.key) && (
            <WirePath d="M402 124H456" colour={wiring.colourOf(minus.key)} dashed={returnVia !== null} />
          )}
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
          {minus && (
            <Terminal end={minus.key} name={minus.name} x={402} y={124} label={plus?.[1] ?? "−"} labelAt="aboveRight" />
          )}
          {reading && (
            <>
              <text className="tv" x="318" y="202">
                {volts(reading.driverVolts ?? 0)}
                {reading.alternating ? " AC" : ""}
              </text>
              <text className="tq" x="318" y="218">
                {reading.moment === "rest"
                  ? "ready to give"
                  : reading.moment === "throwing"
                    ? "in the pulse"
                    : "held long after"}
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
      ) : (
        <Missing x={318} y={112} words="Choose a driver" />
      )}
      {motor && (
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
          <text className="tq" x="420" y="235">
            {reads?.pulse
              ? `${joules(reads.pulse.joules)} in ${milliseconds(reads.pulse.secondsAboveHalf)}`
              : reads?.goesTo
                ? `throws to ${reads.goesTo}`
                : "does not move"}
          </text>
          {spare.length > 0 && (
            <text className="tm" x="420" y="250">
              and {spare.map(({ device }) => device.label).join(", ")}
            </text>
          )}
        </>
      )}
    </g>
  );
}
