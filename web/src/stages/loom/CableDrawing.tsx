import {
  type Cable,
  coreEnds,
  coresOf,
  farEnd,
  type Loom,
  laidCable,
  type RailwayRecord,
  type Strip,
  type Wire,
} from "@alderman/core";
import { useMemo, useState } from "react";
import { Terminal } from "../../drawing/Terminal.tsx";
import { ColourBox, WirePath } from "../../drawing/Wire.tsx";
import { type BlockPlan, type CorePlan, cableLayout, ROW, stripLayout, type WayPlan } from "./cableLayout.ts";
import { Code, Flag, Of, Opens } from "./marks.tsx";
import type { OpenThing } from "./things/thing.ts";

/** Left edges of the strips, and their width. */
const PANEL_X = 262;
const LAYOUT_X = 638;
const STRIP = 36;
const DEVICE = 48;
/** The jacket of the cable. */
const JACKET = { left: 444, right: 492 };
const WIDTH = 936;

/**
 * One cable drawn between what it ends on, strips as long as they are: what hangs on each screw, colours, and flags as they
 * will print; or a strip by itself. What the pointer or the focus is on, its net stands out.
 */
export function CableDrawing({
  record,
  loom,
  drawn,
  open,
}: {
  record: RailwayRecord;
  loom: Loom;
  drawn: Cable | Strip;
  open: OpenThing;
}) {
  const cable = "cores" in drawn ? drawn : null;
  const plan = useMemo(
    () => ("cores" in drawn ? cableLayout(record, loom, drawn) : stripLayout(loom, drawn)),
    [record, loom, drawn],
  );
  const [lit, setLit] = useState<string | null>(null);
  const look = (target: EventTarget) => {
    const net = target instanceof Element ? target.closest("[data-net]")?.getAttribute("data-net") : null;
    setLit(net ?? null);
  };
  const [left, right] = cable?.tail ? ["Strip or board", "Motor"] : ["Panel, at the bench", "Under the layout"];
  return (
    <svg
      data-cable
      className="draw block w-full"
      viewBox={`0 0 ${WIDTH} ${plan.height}`}
      role="group"
      aria-label={`${cable ? "Cable" : "Strip"} ${drawn.label}`}
      onPointerOver={({ target }) => look(target)}
      onPointerLeave={() => setLit(null)}
      onFocus={({ target }) => look(target)}
      onBlur={() => setLit(null)}
    >
      {cable && <path d={`M306 0V${plan.height}M630 0V${plan.height}`} stroke="var(--rule)" />}
      {plan.near.length > 0 && (
        <text className="zone" x="12" y="18">
          {left}
        </text>
      )}
      {cable && (
        <text className="zone" x="316" y="18">
          {aboutCable(record, loom, cable)}
        </text>
      )}
      {plan.far.length > 0 && (
        <text className="zone" x="688" y="18">
          {right}
        </text>
      )}
      {plan.near.map((block) => (
        <Block key={block.id} plan={block} x={PANEL_X} side="near" lit={lit} open={open} />
      ))}
      {plan.far.map((block) => (
        <Block key={block.id} plan={block} x={LAYOUT_X} side="far" lit={lit} open={open} />
      ))}
      {plan.cores.map((core) => (
        <CoreLine key={core.number} core={core} cable={cable} lit={lit} open={open} />
      ))}
      {cable && plan.jacket && (
        <Jacket cable={cable} isThere={plan.isThere} from={plan.jacket.from} to={plan.jacket.to} open={open} />
      )}
    </svg>
  );
}

function aboutCable(record: RailwayRecord, loom: Loom, cable: Cable): string {
  const { metres, gauge } = laidCable(record.railway, loom, cable);
  const { label, tail, cores } = cable;
  return `${tail ? "Tail" : "Cable"} ${label}: ${coresOf(loom, cable.id).size} of ${cores} cores, ${metres} m, ${gauge}`;
}

function Block({
  plan: { id, title, strip, y, ways, isThere },
  x,
  side,
  lit,
  open,
}: {
  plan: BlockPlan;
  x: number;
  side: "near" | "far";
  lit: string | null;
  open: OpenThing;
}) {
  const height = ways.length * ROW;
  // names of terminals take more room than numbers of ways
  const width = strip ? STRIP : DEVICE;
  const left = side === "near" ? x + STRIP - width : x;
  const head = (
    <text
      className="tv"
      x={left + width / 2}
      y={y - 6}
      textAnchor="middle"
      style={strip ? { textDecoration: "underline" } : {}}
    >
      {title}
      {strip?.pinAmps != null && " plug"}
    </text>
  );
  return (
    <g>
      {strip ? (
        <Opens thing={{ kind: "strip", id }} name={`Strip ${title}`} open={open}>
          {head}
        </Opens>
      ) : (
        head
      )}
      <path
        d={`M${left} ${y}h${width}v${height}h${-width}Z`}
        fill="var(--sheet-2)"
        stroke="var(--ink)"
        strokeWidth="1.2"
        {...(strip?.kept || isThere ? {} : { strokeDasharray: "5 3" })}
      />
      <path
        d={ways
          .slice(1)
          .map((way) => `M${left} ${way.y - ROW / 2}h${width}`)
          .join("")}
        stroke="var(--rule)"
      />
      {ways.map((way) => (
        <WayRow key={way.key} way={way} left={left} width={width} side={side} lit={lit} open={open} />
      ))}
    </g>
  );
}

/** A way: its number and screw, and what hangs on it, on the side away from the cable. */
function WayRow({
  way,
  left,
  width,
  side,
  lit,
  open,
}: {
  way: WayPlan;
  left: number;
  width: number;
  side: "near" | "far";
  lit: string | null;
  open: OpenThing;
}) {
  const { y, text, key, name, tails, other, isEnd, isSpare } = way;
  const [tail, ...more] = tails;
  const net = tail?.net ?? other?.net ?? "";
  const isNear = side === "near";
  // where the cable leaves, there is no room beside it
  const isOutside = isEnd && !tail;
  const beside = (outside: boolean) =>
    outside === isNear
      ? { x: left - 14, y: y + 4, textAnchor: "end" as const }
      : { x: left + width + 14, y: y + 4, textAnchor: "start" as const };
  const body = (
    <>
      {tail && <Tail wire={tail} more={more.length} screw={key} y={y} left={isNear} open={open} />}
      {other && (!isEnd || isOutside) && (
        <text className="tq" {...beside(isOutside)}>
          {other.label} to {farEnd(other, key).name} by {other.core?.cable}.{other.core?.number}
        </text>
      )}
      {isSpare && (
        <text className="tq" {...beside(true)}>
          spare
        </text>
      )}
      <text className="tm" x={isNear ? left + 3 : left + 19} y={y + 4}>
        {text}
      </text>
      <Terminal end={key} name={name} x={isNear ? left + width - 10 : left + 10} y={y} radius={6} />
    </>
  );
  return net === "" ? (
    body
  ) : (
    <Of net={net} lit={lit}>
      {body}
    </Of>
  );
}

/** A wire from a screw to the named terminal, with its colour and flag. */
function Tail({
  wire,
  more,
  screw,
  y,
  left,
  open,
}: {
  wire: Wire;
  more: number;
  screw: string;
  y: number;
  left: boolean;
  open: OpenThing;
}) {
  const far = farEnd(wire, screw);
  const flag = wire.from.key === screw ? wire.flags[0] : wire.flags[1];
  const name = `${far.name}${more > 0 ? ` +${more}` : ""}`;
  return left ? (
    <g>
      <WirePath d={`M80 ${y}H${PANEL_X}`} colour={wire.colour} />
      <Terminal end={far.key} name={far.name} x={74} y={y} />
      <text className="tm" x={64} y={y + 4} textAnchor="end">
        {name}
      </text>
      <Code x={86} y={y} colour={wire.colour} />
      <Flag wire={wire} x={134} y={y} text={flag} open={open} />
    </g>
  ) : (
    <g>
      <WirePath d={`M${LAYOUT_X + STRIP} ${y}H866`} colour={wire.colour} />
      <Code x={LAYOUT_X + STRIP + 8} y={y} colour={wire.colour} />
      <Flag wire={wire} x={730} y={y} text={flag} open={open} />
      <Terminal end={far.key} name={far.name} x={870} y={y} />
      <text className="tm" x={880} y={y + 4}>
        {name}
      </text>
    </g>
  );
}

/** A core from strip to strip through the jacket; a spare one is named below it. */
function CoreLine({
  core,
  cable,
  lit,
  open,
}: {
  core: CorePlan;
  cable: Cable | null;
  lit: string | null;
  open: OpenThing;
}) {
  const { number, colour, wire, y, nearY, farY } = core;
  if (!wire || !cable || nearY === null || farY === null) {
    return (
      <g>
        <ColourBox x={JACKET.left + 2} y={y - 5} colour={colour} />
        <text className="tq" x={JACKET.left + 16} y={y + 4} style={{ fontSize: "10px" }}>
          {number} {wire ? "loose" : "spare"}
        </text>
      </g>
    );
  }
  const [a, b] = [PANEL_X + STRIP, LAYOUT_X];
  const d = `M${a} ${nearY}H416C434 ${nearY} 430 ${y} ${JACKET.left} ${y}H${JACKET.right}C506 ${y} 502 ${farY} 520 ${farY}H${b}`;
  const isTurned = coreEnds(cable, wire).near !== wire.from;
  const [here, there] = isTurned ? [wire.flags[1], wire.flags[0]] : wire.flags;
  return (
    <Of net={wire.net} lit={lit}>
      <WirePath d={d} colour={colour} />
      <Code x={a + 6} y={nearY} colour={colour} />
      <Flag wire={wire} x={a + 48} y={nearY} text={here} open={open} narrow />
      <Flag wire={wire} x={524} y={farY} text={there} open={open} narrow />
    </Of>
  );
}

function Jacket({
  cable,
  isThere,
  from,
  to,
  open,
}: {
  cable: Cable;
  isThere: boolean;
  from: number;
  to: number;
  open: OpenThing;
}) {
  const { left, right } = JACKET;
  return (
    <Opens thing={{ kind: "cable", id: cable.id }} name={`Cable ${cable.label}, its card`} open={open}>
      <path
        d={`M${left} ${from}H${right}V${to}H${left}Z`}
        fill="var(--sheet)"
        fillOpacity="0.86"
        stroke="var(--ink)"
        strokeWidth="1.2"
        {...(cable.kept || isThere ? {} : { strokeDasharray: "5 3" })}
      />
      <text
        className="tv"
        x={(left + right) / 2}
        y={(from + to) / 2 + 5}
        textAnchor="middle"
        style={{ fontSize: "15px", textDecoration: "underline" }}
      >
        {cable.label}
      </text>
    </Opens>
  );
}
