import {
  controlSides,
  controlsOf,
  type EventPlan,
  heardAt,
  ownOf,
  type Position,
  supplyOf,
  type ThreadControl,
} from "@alderman/core";
import type { Overview } from "../../derivation/overview.ts";
import { useEvents } from "../../derivation/useEvents.ts";
import { useRecord } from "../../session/hooks.ts";
import { useAppSelector } from "../../store/store.ts";
import { Terminal } from "../Terminal.tsx";
import { WirePath } from "../Wire.tsx";
import { CommandPart } from "./CommandPart.tsx";
import { ControlFace } from "./ControlFace.tsx";
import { controlInWords, madeNow } from "./controlWords.ts";
import { Heading } from "./Heading.tsx";
import { Lane, LoomHeadings } from "./Lane.tsx";
import { type LaneProps, OUT_ROWS } from "./laneProps.ts";
import { linkVerdict } from "./linkVerdict.ts";
import { OutputPart } from "./OutputPart.tsx";
import { type DrawnEnd, drawnEnd, type Row, viaWords, type Wiring } from "./wiring.ts";

/** Where the board that reads a control and the driver behind it stand. */
const READER = { x: 316, width: 42 };
const BEHIND = { x: 384, width: 44 };
const ALONE = { x: 318, width: 70 };

/** A thread on a numbered output: commanded over a bus, or by controls at the inputs of a board. */
export function BoardLane(props: LaneProps & { overview: Overview }) {
  const { thread, reading, wiring, findings, overview } = props;
  const record = useRecord();
  const { plan } = useEvents(record);
  const by = useAppSelector((state) => ownOf(state.view.by, thread.turnout.id));
  const driver = thread.motors[0]?.driver;
  const all = controlsOf(thread).filter((control) => heardAt(thread, control));
  // of two that ask for one position each, the one that asks for the position that is looked at
  const heard = all.find(({ assignment: { to } }) => to === null || to === reading?.position) ?? all[0];
  if (!driver) return null;
  const supply = record && supplyOf(record, driver.device.id)?.device;
  const fed = supply ? `fed from ${supply.label}` : "no supply";
  if (!heard) {
    const unread = controlsOf(thread).map(({ device }) => `${device.label} not wired`);
    return (
      <g>
        <OutputPart {...props} {...ALONE} first={3} notes={[fed, ...unread]} />
        <CommandPart {...props} />
      </g>
    );
  }
  const output = overview.addresses.find(({ deviceId, way }) => deviceId === driver.device.id && way === driver.way);
  const asWell = output && driver.type.hears === "track" ? [`also address ${output.address}`] : [];
  return (
    <g>
      <OutputPart
        {...props}
        {...(heard.reader ? BEHIND : ALONE)}
        first={linksOfInputs(thread, heard, wiring) + (heard.reader ? 2 : 1)}
        notes={heard.reader ? [] : [fed, ...asWell]}
      />
      <HeardPart {...props} control={heard} made={madeNow(heard, reading, by)} wiring={wiring} />
      {heard.reader && (
        <g>
          <Heading
            x={READER.x}
            number={linksOfInputs(thread, heard, wiring) + 1}
            words={heard.reader.device.label}
            verdict={linkVerdict(findings, thread, [heard.reader.device.label])}
          />
          <path
            d={`M${READER.x + READER.width + 5} 124H${BEHIND.x - 5}M${BEHIND.x - 11} 118L${BEHIND.x - 5} 124L${BEHIND.x - 11} 130`}
            fill="none"
            stroke="var(--copper)"
            strokeWidth="1.6"
          />
          <text className="tq" x={READER.x} y="250">
            {heard.reader.type.hears === "bus"
              ? toldWords(plan, driver.device.id, driver.way ?? 1, `${driver.device.label}-${driver.way}`)
              : `a computer maps it to ${driver.device.label}-${driver.way}`}
          </text>
        </g>
      )}
    </g>
  );
}

/** How far an output was taught the events upon which it is to act. @example "2 of 4 events taught to ON2-1" */
function toldWords({ links }: EventPlan, deviceId: string, way: number, label: string): string {
  const own = links.filter((link) => link.deviceId === deviceId && link.way === way && link.action !== null);
  if (own.length === 0) return `${label} acts upon no event`;
  const taught = own.filter(({ action, taught: held }) => held === action).length;
  if (taught === own.length) return `its events are taught to ${label}`;
  return taught === 0 ? `events to be taught to ${label}` : `${taught} of ${own.length} events taught to ${label}`;
}

/** A control with its conductors to the inputs that hear it. */
function HeardPart({
  thread,
  findings,
  wiring,
  reading,
  control,
  made,
}: LaneProps & { control: ThreadControl; made: Position | null; wiring: Wiring }) {
  const heard = heardAt(thread, control);
  if (!heard) return null;
  const rows = inputRows(thread, control, wiring);
  const lanes = rows.map(({ row }) => row);
  const others = controlsOf(thread).filter((each) => each !== control);
  const boardX = control.reader ? READER.x : ALONE.x;
  return (
    <g>
      <LoomHeadings rows={lanes} />
      <Lane rows={lanes} ys={OUT_ROWS} boardX={rows.map(() => boardX)} />
      {control.reader && (
        <path
          d={`M${READER.x} 68H${READER.x + READER.width}V180H${READER.x}Z`}
          fill="var(--sheet)"
          stroke="var(--ink)"
          strokeWidth="1.4"
        />
      )}
      <ControlFace
        control={control}
        made={made}
        verdict={linkVerdict(findings, thread, [control.device.label])}
        notes={[...others.map(controlInWords), ...viaWords(lanes, "panel")]}
      />
      {rows.map(({ row, input, letter }, index) => (
        <g key={row.panel.key}>
          <Terminal end={row.panel.key} name={row.panel.name} x={90} y={OUT_ROWS[index] ?? 0} label={letter} />
          {row.layout && (
            <Terminal
              end={row.layout.key}
              name={row.layout.name}
              x={boardX}
              y={OUT_ROWS[index] ?? 0}
              label={input}
              labelAt="right"
            />
          )}
        </g>
      ))}
      {reading && lanes.every(({ layout }) => layout === null) && <WirePath d="M90 124H100" colour="GY" dashed />}
    </g>
  );
}

/** Links of a control and the loom behind it: strips and cable count where its conductors go through them. */
export function linksOfInputs(thread: LaneProps["thread"], control: ThreadControl, wiring: Wiring): number {
  return inputRows(thread, control, wiring).some(({ row }) => row.way !== null) ? 4 : 1;
}

interface InputRow {
  row: Row;
  letter: string;
  /** What is written beside the board's terminal. */
  input: string;
}

/** Up to three conductors: normal, common, reverse; a second button's takes the place that the first one leaves. */
function inputRows(thread: LaneProps["thread"], control: ThreadControl, wiring: Wiring): InputRow[] {
  const heard = heardAt(thread, control);
  if (!heard) return [];
  const sides = controlSides(control);
  const mate = controlsOf(thread).find(
    (each) =>
      each !== control &&
      each.assignment.to !== null &&
      each.assignment.to !== control.assignment.to &&
      heardAt(thread, each)?.board.device === heard.board.device,
  );
  const make = (from: ThreadControl, terminal: string | null, input: string): InputRow[] => {
    if (terminal === null) return [];
    const panel: DrawnEnd = drawnEnd(from, terminal);
    return [
      {
        row: wiring.row(panel, drawnEnd(heard.board, input), from.device.place === "panel"),
        letter: terminal,
        input: input.replace(/^I\d+(?=[NRT])/, ""),
      },
    ];
  };
  const mateSides = mate && controlSides(mate);
  const mateHeard = mate && heardAt(thread, mate);
  const normal = make(control, sides.N ?? sides.press, sides.N ? heard.N : heard.press);
  const reverse = make(control, sides.R, heard.R);
  return [
    ...(normal.length > 0 || !mate ? normal : make(mate, mateSides?.N ?? null, (mateHeard ?? heard).N)),
    ...make(control, sides.common, heard.common),
    ...(reverse.length > 0 || !mate ? reverse : make(mate, mateSides?.R ?? null, (mateHeard ?? heard).R)),
  ];
}
