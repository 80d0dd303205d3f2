import { count, matrixOfBoard, outTerminals, type Position } from "@alderman/core";
import { useRecord } from "../../session/hooks.ts";
import { Terminal } from "../Terminal.tsx";
import { WirePath } from "../Wire.tsx";
import { type LaneProps, OUT_ROWS } from "./laneProps.ts";
import { linkVerdict } from "./linkVerdict.ts";
import { ControlPart, DriverPart, MotorPart, type Verdicts } from "./SwitchedLane.tsx";
import { drawnEnd } from "./wiring.ts";

/** The terminals of a button's contact, its made side first. */
function contactOf(poles: number | undefined, position: boolean, way: number | null): [made: string, common: string] {
  if (position) return [`${way ?? 1}`, "C"];
  return poles === undefined ? ["N", "C"] : [`${way ?? 1}N`, `${way ?? 1}C`];
}

/** The button of a route, through its diode or wire on the board to one coil; its feed from the discharge unit below. */
export function RouteLane({ thread, reading, wiring, findings }: LaneProps) {
  const record = useRecord();
  const { control, motors, moreControls } = thread;
  const [motor] = motors;
  const driver = motor?.driver;
  if (!record || !control || !motor || !driver) return null;
  const verdict: Verdicts = (...labels) => linkVerdict(findings, thread, labels);
  const { way } = control.assignment;
  const [made, common] = contactOf(control.type.poles, control.type.model === "rotary", way);
  const matrix = matrixOfBoard(record, driver.device.id);
  const row = matrix?.rows.find((each) => each.controlId === control.device.id && each.way === way);
  const rowTerminal = row?.terminals.get(driver.device.id) ?? null;
  const to: Position = control.assignment.to ?? "N";
  const coilTerminal = `${driver.way}${to}`;
  const join = matrix?.joins.find(
    ({ boardId, from, to: end }) => boardId === driver.device.id && from === rowTerminal && end === coilTerminal,
  );
  const unit = motor.unit;
  const rows = [
    wiring.row(drawnEnd(control, made), rowTerminal === null ? null : drawnEnd(driver, rowTerminal)),
    wiring.row(drawnEnd(control, common), unit ? drawnEnd(unit, outTerminals(unit)[0]) : null),
  ];
  const routes = moreControls.filter(({ route }) => route !== null).length;
  const words = [
    ...(control.route ? [control.route.label] : []),
    ...(routes > 0 ? [`+ ${count(routes, "route")}`] : []),
  ];
  const isCrossed = motor.assignment.crossed;
  const coilY = ((to === "N") === !isCrossed ? OUT_ROWS[0] : OUT_ROWS[2]) ?? 84;
  const y = OUT_ROWS[0] ?? 84;
  return (
    <g>
      <ControlPart {...{ thread, control, reading, rows, words, verdict }} boardX={[330, 330]} />
      {unit && (
        <DriverPart
          {...{ thread, motor, reading, wiring, verdict }}
          driver={unit}
          before={driver.device.label}
          feedVia={rows[1]?.layoutVia ?? null}
        />
      )}
      <WirePath
        d={coilY === y ? `M402 ${y}H456` : `M402 ${y}H432V${coilY}H456`}
        colour={wiring.colourOf(`${driver.device.id}:${coilTerminal}`)}
      />
      <path d={`M330 ${y - 15}H402V${y + 14}H330Z`} fill="var(--sheet)" stroke="var(--ink)" strokeWidth="1.4" />
      {join && <Part y={y} isDiode={join.with === "diode"} isTurned={join.turned} />}
      {rowTerminal !== null && (
        <Terminal
          end={`${driver.device.id}:${rowTerminal}`}
          name={drawnEnd(driver, rowTerminal).name}
          x={330}
          y={y}
          label={rowTerminal}
          labelAt="aboveLeft"
        />
      )}
      <Terminal
        end={`${driver.device.id}:${coilTerminal}`}
        name={drawnEnd(driver, coilTerminal).name}
        x={402}
        y={y}
        label={coilTerminal}
        labelAt="aboveRight"
      />
      <MotorPart {...{ thread, motor, reading, verdict }} />
    </g>
  );
}

/** What lies between the button's row and the coil's terminal; its band at the coil's side. */
function Part({ y, isDiode, isTurned }: { y: number; isDiode: boolean; isTurned: boolean }) {
  return (
    <g stroke="var(--ink)" strokeWidth="1.6">
      <path d={`M337 ${y}H395`} fill="none" />
      {isDiode && (
        <g transform={`translate(366 ${y}) scale(${isTurned ? -1 : 1} 1)`}>
          <path d="M-7 -7L6 0L-7 7Z" fill="var(--ink)" />
          <path d="M7 -8V8" strokeWidth="2" />
        </g>
      )}
    </g>
  );
}
