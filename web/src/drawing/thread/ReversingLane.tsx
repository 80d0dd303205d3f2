import { outTerminals, ownOf, volts } from "@alderman/core";
import { useAppSelector } from "../../store/store.ts";
import { Terminal } from "../Terminal.tsx";
import { WirePath } from "../Wire.tsx";
import { ControlFace } from "./ControlFace.tsx";
import { madeNow } from "./controlWords.ts";
import { Heading } from "./Heading.tsx";
import { Lane, LoomHeadings } from "./Lane.tsx";
import type { LaneProps } from "./laneProps.ts";
import { linkVerdict } from "./linkVerdict.ts";
import { Motors } from "./OutputPart.tsx";
import { leadHeight, MOTOR_X, motorTop } from "./outputWires.ts";
import { drawnEnd } from "./wiring.ts";

const ROWS = [77, 107, 137, 167];

/** A toggle of two poles that exchanges a supply's plus and minus at the motors' leads. */
export function ReversingLane({ thread, reading, wiring, findings }: LaneProps) {
  const { control } = thread;
  const by = useAppSelector((state) => ownOf(state.view.by, thread.turnout.id));
  const [motor] = thread.motors;
  const driver = motor?.driver;
  if (!control || !motor || !driver) return null;
  const [plus, minus] = outTerminals(driver);
  const { inverse } = control.assignment;
  // leads of a motor at the commons of the first and the second pole
  const leadsOf = ({ assignment }: typeof motor) => (assignment.crossed !== inverse ? ["−", "+"] : ["+", "−"]);
  const [first = "+", second = "−"] = leadsOf(motor);
  const rows = [
    wiring.row(drawnEnd(control, "1C"), drawnEnd(motor, first)),
    wiring.row(drawnEnd(control, "2C"), drawnEnd(motor, second)),
    wiring.row(drawnEnd(control, "1N"), drawnEnd(driver, plus)),
    wiring.row(drawnEnd(control, "1R"), drawnEnd(driver, minus)),
  ];
  const made = madeNow(control, reading, by);
  const turns = [430, 442];
  return (
    <g>
      <LoomHeadings rows={rows} />
      <Lane rows={rows} ys={ROWS} boardX={[...turns, 330, 330]} />
      {rows.slice(0, 2).map((row, index) => {
        const y = ROWS[index] ?? 0;
        const turn = turns[index] ?? 430;
        const end = motorTop(0) + leadHeight(motor, index === 0 ? first : second);
        const next = thread.motors[1];
        const lead = next && leadsOf(next)[index];
        const below = next && lead ? motorTop(1) + leadHeight(next, lead) : null;
        return (
          <g key={row.panel.key}>
            <WirePath d={`M${turn - 2} ${y}H${turn}V${end}H${MOTOR_X}`} colour={row.colour} />
            {below !== null && (
              <>
                <WirePath d={`M${turn + 18} ${end}V${below}H${MOTOR_X}`} colour={row.colour} />
                <circle cx={turn + 18} cy={end} r="3" fill="var(--wire-line)" />
              </>
            )}
          </g>
        );
      })}
      <ControlFace
        control={control}
        made={made}
        verdict={linkVerdict(findings, thread, [control.device.label])}
        notes={["1N–2R, 1R–2N", "joined on it"]}
      />
      {rows.map((row, index) => (
        <Terminal
          key={row.panel.key}
          end={row.panel.key}
          name={row.panel.name}
          x={90}
          y={ROWS[index] ?? 0}
          label={row.panel.terminal}
        />
      ))}
      <Heading
        x={318}
        number={5}
        words={`Supply ${driver.device.label}`}
        verdict={linkVerdict(findings, thread, [driver.device.label])}
      />
      <path d="M330 124H402V182H330Z" fill="var(--sheet)" stroke="var(--ink)" strokeWidth="1.4" />
      <path d="M354 149H378M354 157H360M363 157H369M372 157H378" stroke="var(--ink)" strokeWidth="1.6" fill="none" />
      {[plus, minus].map((terminal, index) => (
        <Terminal
          key={terminal}
          end={`${driver.device.id}:${terminal}`}
          name={drawnEnd(driver, terminal).name}
          x={330}
          y={ROWS[index + 2] ?? 0}
          label={terminal}
          labelAt="right"
        />
      ))}
      {reading && (
        <text className="tv" x="318" y="202">
          {volts(reading.driverVolts ?? 0)}
        </text>
      )}
      <Motors thread={thread} reading={reading} wiring={wiring} findings={findings} number={6} />
    </g>
  );
}
