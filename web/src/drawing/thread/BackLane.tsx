import {
  amps,
  figureValue,
  lampIn,
  list,
  type Position,
  supplyOf,
  type ThreadLamp,
  terminalName,
  traitsOf,
  volts,
} from "@alderman/core";
import { useRecord } from "../../session/hooks.ts";
import { Terminal } from "../Terminal.tsx";
import { WirePath } from "../Wire.tsx";
import { Arm, Contact, Lamp } from "./glyphs.tsx";
import { Heading, Missing } from "./Heading.tsx";
import { Lane } from "./Lane.tsx";
import { lampColour } from "./lampColours.ts";
import { lampTerminals, linksBack, sourceOf } from "./lampSource.ts";
import { BACK_ROWS, type LaneProps, type Numbered } from "./laneProps.ts";
import { linkVerdict } from "./linkVerdict.ts";
import { useDrawnLamp } from "./useDrawnLamp.ts";
import { drawnEnd, type Row, viaWords, type Wiring } from "./wiring.ts";

/** The two resistors of a piece in the lamp's common lead, with the joint between them. */
function ResistorPiece({ piece: { device, type, way } }: { piece: NonNullable<ThreadLamp["resistor"]> }) {
  const at = (terminal: string, x: number) => (
    <Terminal
      end={`${device.id}:${terminal}`}
      name={terminalName(device.label, terminal)}
      x={x}
      y={BACK_ROWS[2] ?? 0}
      label=""
    />
  );
  return (
    <g>
      {(
        [
          [326, "firstOhms"],
          [368, "secondOhms"],
        ] as const
      ).map(([x, figure]) => (
        <g key={figure}>
          <path d={`M${x} 403h28v14h-28Z`} fill="var(--sheet)" stroke="var(--ink)" strokeWidth="1.2" />
          <text className="tq" x={x + 14} y="414" textAnchor="middle" style={{ fontSize: 9 }}>
            {figureValue(type, figure)}
          </text>
        </g>
      ))}
      {at(`${way}`, 318)}
      {at(`${way}j`, 361)}
      {at("C", 404)}
      <text className="tm" x="318" y="395">
        {`${device.label}-${way}, ohm`}
      </text>
    </g>
  );
}

function lampNoun({ type }: ThreadLamp): string {
  const { movedBy, shows } = traitsOf(type);
  if (movedBy === "signal") return "Arm";
  return shows === "flag" ? "Flag" : shows === "box" ? "Box" : "Lamp";
}

/** What lights the lamp, the cable between, and the lamp. */
export function BackLane(props: LaneProps & Numbered) {
  const { thread, reading, wiring, findings, first } = props;
  const lamp = useDrawnLamp(thread);
  const record = useRecord();
  if (!lamp) return <Missing x={12} y={362} words="No lamp" />;
  const fed = record && supplyOf(record, lamp.device.id);
  const supply = fed?.device ?? null;
  const source = sourceOf(lamp, fed, wiring);
  const names = lampTerminals(lamp);
  const atPanel = lamp.device.place === "panel";
  const rows = names.map((name, index) => wiring.row(drawnEnd(lamp, name), source.ends[index] ?? null, atPanel));
  const ways = rows.flatMap((row) => (row.way ? [row.way] : []));
  const strips = (side: "panel" | "layout") => [...new Set(ways.map((way) => way[side].strip))].join(" ");
  const byContact = source.kind === "contact" && names.length > 0;
  const boardX = byContact ? [444, 444, 440] : [444, 444, 444];
  return (
    <g>
      <Heading
        x={12}
        y={286}
        number={first + linksBack(lamp)}
        words={
          thread.followers.length > 0
            ? `${lamp.device.label} of ${lamp.turnout.label}`
            : `${lampNoun(lamp)} ${lamp.device.label}`
        }
        verdict={linkVerdict(findings, thread, [lamp.device.label])}
      />
      {ways.length > 0 && (
        <>
          <text className="th" x="125" y="290">
            {strips("panel")}
          </text>
          <text className="th" x="255" y="290">
            {strips("layout")}
          </text>
        </>
      )}
      <Lane rows={rows} ys={BACK_ROWS} boardX={boardX} />
      <Shown lamp={lamp} reading={reading} />
      {names.map((name, index) => (
        <Terminal
          key={name}
          end={`${lamp.device.id}:${name}`}
          name={terminalName(lamp.device.label, name)}
          x={90}
          y={BACK_ROWS[index] ?? 0}
          label={name}
        />
      ))}
      {[...viaWords(rows, "panel").slice(0, 1), ...(atPanel ? [] : ["beside the track"])].map((words, index) => (
        <text key={words} className="tq" x="12" y={455 + index * 14}>
          {words}
        </text>
      ))}
      {names.length === 0 && (
        <text className="tq" x="120" y="366">
          moved by the throw bar: no wire
        </text>
      )}
      {lamp.resistor && <ResistorPiece piece={lamp.resistor} />}
      {byContact ? (
        <ContactSource {...props} lamp={lamp} supply={supply} rows={rows} wiring={wiring} />
      ) : (
        names.length > 0 && (
          <g>
            <Heading
              x={404}
              y={286}
              number={first + 1}
              words={source.title}
              verdict={linkVerdict(findings, thread, [source.label])}
            />
            <path d="M444 314H506V426H444Z" fill="var(--sheet)" stroke="var(--ink)" strokeWidth="1.2" />
            <text className="tv" x="478" y="374" textAnchor="middle">
              {source.label}
            </text>
            {source.ends.map((end, index) =>
              end ? (
                <Terminal
                  key={end.key}
                  end={end.key}
                  name={end.name}
                  x={444}
                  y={BACK_ROWS[index] ?? 0}
                  label={end.terminal}
                  labelAt="aboveLeft"
                />
              ) : null,
            )}
            <text className="tq" x="318" y="452">
              {source.knows}
            </text>
          </g>
        )
      )}
    </g>
  );
}

/** The lamp or arm as it shows, with its current. */
function Shown({ lamp, reading }: { lamp: ThreadLamp; reading: LaneProps["reading"] }) {
  const reads = reading && lampIn(reading, lamp);
  const { leads } = lamp.type;
  const colours = [lampColour(lamp.type, "N"), lampColour(lamp.type, "R")] as const;
  if (traitsOf(lamp.type).shows === "box") {
    const arm = reads?.arm ?? null;
    return (
      <g>
        <Lamp y={362} normal={Number(arm === "N")} reverse={Number(arm === "R")} least={1} colours={colours} />
        {reading && (
          <>
            <text className="tq" x="12" y="424">
              {arm ? `shows ${arm}` : "dark"}
            </text>
            <text className="tq" x="12" y="439">
              {arm ? colours[arm === "N" ? 0 : 1].short : ""}
            </text>
          </>
        )}
      </g>
    );
  }
  if (!leads) {
    const word = reads?.arm ? `shows ${reads.arm}` : "shows nothing";
    return (
      <g>
        <Arm y={362} to={reads?.arm ?? null} flag={traitsOf(lamp.type).shows === "flag"} />
        <text className="tq" x="12" y="424">
          {reading ? word : ""}
        </text>
      </g>
    );
  }
  const least = figureValue(lamp.type, "leastAmps");
  const lit = reads
    ? [reads.normal, reads.reverse].flatMap((flows, index) => (flows >= least ? [colours[index as 0 | 1].short] : []))
    : [];
  return (
    <g>
      <Lamp y={362} normal={reads?.normal ?? 0} reverse={reads?.reverse ?? 0} least={least} colours={colours} />
      {reads && (
        <>
          <text className="tv" x="12" y="424">
            {amps(Math.max(reads.normal, reads.reverse))}
          </text>
          <text className="tq" x="12" y="439">
            {lit.length > 0 ? `${list(lit)} lit` : "dark"}
          </text>
        </>
      )}
    </g>
  );
}

/** A contact of a motor or relay, with the supply that goes through it. */
function ContactSource({
  thread,
  reading,
  wiring,
  findings,
  first,
  lamp,
  supply,
  rows,
}: LaneProps &
  Numbered & {
    lamp: ThreadLamp;
    supply: { id: string; label: string } | null;
    rows: readonly Row[];
    wiring: Wiring;
  }) {
  const { from, assignment } = lamp;
  const way = assignment.way ?? 1;
  const [into, out] = lamp.type.commonPlus ? (["−", "+"] as const) : (["+", "−"] as const);
  const label = from.device.label;
  const plus = supply && wiring.joined(`${supply.id}:${into}`, `${from.device.id}:S${way}c`);
  const plusVia = supply && plus ? wiring.via(`${from.device.id}:S${way}c`, `${supply.id}:${into}`) : null;
  const notes = [
    ...viaWords(rows, "layout").map((words) => `${supply?.label ?? ""} ${words}`),
    ...(plusVia ? [`S${way}c via ${plusVia}`] : []),
  ];
  const stands = reading?.motors.find((each) => each.motorId === from.device.id)?.goesTo ?? reading?.position ?? "N";
  const moving = reading?.moment === "throwing" && from.type.family === "motor";
  const to: Position = moving ? (stands === "N" ? "R" : "N") : stands;
  const colour = lamp.type.commonPlus ? "BK" : "RD";
  return (
    <g>
      {way <= from.type.contactSets ? (
        <>
          <Heading
            x={404}
            y={286}
            number={first + 1}
            words={`Contact ${label}-S${way}`}
            verdict={linkVerdict(findings, thread, [`${label}-S${way}`])}
          />
          {plus && <WirePath d="M500 410H516V350H502" colour={colour} dashed={plusVia !== null} />}
          <Contact x={444} y={318} to={to} />
          {(
            [
              ["n", 444, 330, "aboveLeft"],
              ["r", 444, 370, "aboveLeft"],
              ["c", 502, 350, "aboveRight"],
            ] as const
          ).map(([end, x, y, labelAt]) => (
            <Terminal
              key={end}
              end={`${from.device.id}:S${way}${end}`}
              name={`${label}-S${way}${end}`}
              x={x}
              y={y}
              label={end}
              labelAt={labelAt}
            />
          ))}
        </>
      ) : (
        <Missing x={400} y={350} words="No contact for it" />
      )}
      {supply ? (
        <ContactSupply
          label={supply.label}
          id={supply.id}
          into={into}
          out={out}
          at={reading ? lampIn(reading, lamp)?.contactVolts : undefined}
        />
      ) : (
        <Missing x={400} y={410} words="No supply" />
      )}
      {notes.map((words, index) => (
        <text key={words} className="tm" x="318" y={436 + index * 15}>
          {words}
        </text>
      ))}
    </g>
  );
}

/** The supply whose one side goes through the contact, with its volts there. */
function ContactSupply({
  id,
  label,
  into,
  out,
  at,
}: {
  id: string;
  label: string;
  /** Terminal that goes to the contact, and the other one. */
  into: string;
  out: string;
  /** Volts at the contact; undefined while nothing was solved. */
  at: number | null | undefined;
}) {
  return (
    <>
      <path d="M440 396H500V424H440Z" fill="var(--sheet)" stroke="var(--ink)" strokeWidth="1.2" />
      <text className="tv" x="470" y="415" textAnchor="middle">
        {label}
      </text>
      <Terminal end={`${id}:${out}`} name={terminalName(label, out)} x={440} y={410} label={out} labelAt="aboveLeft" />
      <Terminal
        end={`${id}:${into}`}
        name={terminalName(label, into)}
        x={500}
        y={410}
        label={into}
        labelAt="aboveRight"
      />
      {at !== undefined && (
        <text className="tm" x="318" y="306">
          {volts(at ?? 0)} at the contact
        </text>
      )}
    </>
  );
}
