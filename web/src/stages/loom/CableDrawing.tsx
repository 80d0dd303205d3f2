import type { Cable, Passage, Wire } from "@alderman/core";
import type { Overview } from "../../derivation/overview.ts";
import { Terminal } from "../../drawing/Terminal.tsx";
import { ColourBox, WirePath } from "../../drawing/Wire.tsx";

const ROW = 26;
const TOP = 58;

/** One cable drawn between its two strips: what hangs on each screw, colours, and the flags as they will print. */
export function CableDrawing({ overview, cable }: { overview: Overview; cable: Cable }) {
  const ways = overview.loom.passages.filter((way) => way.cableId === cable.id).sort((a, b) => a.core - b.core);
  const height = TOP + ways.length * ROW + 14;
  const middle = TOP + (ways.length * ROW) / 2 - ROW / 2;
  const core = (way: Passage) =>
    overview.loom.wires.find(({ core: each }) => each?.cableId === cable.id && each.number === way.core);
  const [first] = ways;
  const coreWire = first && core(first);
  return (
    <svg
      data-cable
      className="draw block w-full"
      viewBox={`0 0 934 ${height}`}
      role="group"
      aria-label={`Cable ${cable.label}`}
    >
      <path d={`M300 0V${height}M676 0V${height}`} stroke="var(--rule)" />
      <text className="zone" x="12" y="18">
        Panel, at the bench
      </text>
      <text className="zone" x="312" y="18">
        Cable {cable.label}: {ways.length} of {cable.cores} cores, {coreWire?.metres} m, {coreWire?.gauge}
      </text>
      <text className="zone" x="688" y="18">
        Under the layout
      </text>
      {stripRuns(ways).map(({ strip, x, from, to }) => (
        <g key={`${strip} ${from}`}>
          <text className="tv" x={x + 17} y={TOP + from * ROW - 19} textAnchor="middle">
            {strip}
          </text>
          <path
            d={`M${x} ${TOP + from * ROW - 13}H${x + 34}V${TOP + to * ROW + 13}H${x}Z`}
            fill="var(--sheet-2)"
            stroke="var(--ink)"
            strokeWidth="1.2"
          />
        </g>
      ))}
      {ways.map((way, index) => {
        const y = TOP + index * ROW;
        const inCable = middle + (y - middle) * 0.3;
        const wire = core(way);
        const panel = hangsOn(overview.loom.wires, way.panel.key);
        const layout = hangsOn(overview.loom.wires, way.layout.key);
        return (
          <g key={way.panel.key}>
            {panel && <Tail wire={panel} screw={way.panel.key} x={266} y={y} left />}
            {layout && <Tail wire={layout} screw={way.layout.key} x={710} y={y} />}
            {wire && (
              <>
                <WirePath
                  d={`M300 ${y}H430C448 ${y} 446 ${inCable} 458 ${inCable}H518C530 ${inCable} 528 ${y} 546 ${y}H676`}
                  colour={wire.colour}
                />
                <Flag x={338} y={y} text={wire.flags[0]} made={Boolean(wire.fact?.labelledAt)} />
                <Flag x={556} y={y} text={wire.flags[1]} made={Boolean(wire.fact?.labelledAt)} />
                <Code x={303} y={y} colour={wire.colour} />
              </>
            )}
            <text className="tm" x={270} y={y + 4}>
              {way.panel.way}
            </text>
            <text className="tm" x={680} y={y + 4}>
              {way.layout.way}
            </text>
            <Terminal end={way.panel.key} name={way.panel.name} x={290} y={y} radius={6} />
            <Terminal end={way.layout.key} name={way.layout.name} x={700} y={y} radius={6} />
          </g>
        );
      })}
      <path
        d={`M458 ${middle - 26}H518V${middle + 26}H458Z`}
        fill="var(--sheet)"
        stroke="var(--ink)"
        strokeWidth="1.2"
      />
      <text className="tv" x="488" y={middle + 1} textAnchor="middle" style={{ fontSize: "16px" }}>
        {cable.label}
      </text>
      <text className="tm" x="488" y={middle + 17} textAnchor="middle">
        {coreWire?.gauge}
      </text>
    </svg>
  );
}

/** The wire other than the core that ends on a screw. */
function hangsOn(wires: readonly Wire[], screw: string): Wire | undefined {
  return wires.find(({ run, from, to }) => run !== "cable" && (from.key === screw || to.key === screw));
}

/** A wire from a screw to the named terminal, with its colour and flag. */
function Tail({
  wire,
  screw,
  x,
  y,
  left = false,
}: {
  wire: Wire;
  screw: string;
  x: number;
  y: number;
  left?: boolean;
}) {
  const far = wire.from.key === screw ? wire.to : wire.from;
  const flag = wire.from.key === screw ? wire.flags[0] : wire.flags[1];
  return left ? (
    <g>
      <WirePath d={`M78 ${y}H${x}`} colour={wire.colour} />
      <Terminal end={far.key} name={far.name} x={72} y={y} />
      <text className="tm" x={62} y={y + 4} textAnchor="end">
        {far.name}
      </text>
      <Code x={94} y={y} colour={wire.colour} />
      <Flag x={130} y={y} text={flag} made={Boolean(wire.fact?.labelledAt)} />
    </g>
  ) : (
    <g>
      <WirePath d={`M${x} ${y}H866`} colour={wire.colour} />
      <Code x={716} y={y} colour={wire.colour} />
      <Flag x={749} y={y} text={flag} made={Boolean(wire.fact?.labelledAt)} />
      <Terminal end={far.key} name={far.name} x={870} y={y} />
      <text className="tm" x={880} y={y + 4}>
        {far.name}
      </text>
    </g>
  );
}

/** Notched tape with exactly the characters that will print. @param made it is on the wire */
function Flag({ x, y, text, made }: { x: number; y: number; text: string; made: boolean }) {
  // B612 Mono at 11 px runs to seven units a character
  const width = text.length * 6.95 + 13;
  return (
    <g>
      <path
        d={`M${x} ${y - 9}H${x + width}L${x + width - 5} ${y}L${x + width} ${y + 9}H${x}Z`}
        fill="var(--sheet)"
        stroke="var(--ink)"
        {...(made ? {} : { strokeDasharray: "3 2" })}
      />
      <text className="tm" x={x + 5} y={y + 4}>
        {text}
      </text>
    </g>
  );
}

function Code({ x, y, colour }: { x: number; y: number; colour: Wire["colour"] }) {
  return (
    <g>
      <rect x={x} y={y - 8} width="30" height="16" fill="var(--sheet)" />
      <ColourBox x={x + 2} y={y - 5} colour={colour} />
      <text className="tm" x={x + 14} y={y + 4}>
        {colour}
      </text>
    </g>
  );
}

/** Bodies of the strips that a cable's ways lie on, at both ends. */
function stripRuns(ways: readonly Passage[]) {
  return [
    { side: "panel" as const, x: 266 },
    { side: "layout" as const, x: 676 },
  ].flatMap(({ side, x }) => {
    const runs: { strip: string; x: number; from: number; to: number }[] = [];
    for (const [index, way] of ways.entries()) {
      const { strip } = way[side];
      const last = runs.at(-1);
      if (last?.strip === strip) last.to = index;
      else runs.push({ strip, x, from: index, to: index });
    }
    return runs;
  });
}
