import { Terminal } from "../Terminal.tsx";
import { WireCode, WirePath } from "../Wire.tsx";
import { Heading } from "./Heading.tsx";
import type { Row } from "./wiring.ts";

/** Where a lane's places stand across the drawing. */
const PANEL_X = 90;
const PANEL_STRIP = 122;
const LAYOUT_STRIP = 254;
const STRIP_WIDTH = 31;
const CABLE = { from: 178, to: 228 };

/** Headings of the strips and cables that a lane passes through, as links 2 to 4 of a thread. */
export function LoomHeadings({ rows }: { rows: readonly Row[] }) {
  const ways = rows.flatMap(({ way }) => (way ? [way] : []));
  if (ways.length === 0) return null;
  const strips = (side: "panel" | "layout") => [...new Set(ways.map((way) => way[side].strip))].join(" ");
  return (
    <>
      <Heading x={118} number={2} words={strips("panel")} />
      <Heading x={176} number={3} words={[...new Set(ways.map(({ cable }) => cable))].join(" ")} />
      <Heading x={246} number={4} words={strips("layout")} />
    </>
  );
}

/** Conductors from the panel through strip, cable and strip to the board, one below the other. */
export function Lane({ rows, ys, boardX }: { rows: readonly Row[]; ys: readonly number[]; boardX: readonly number[] }) {
  const through = rows.map((row, index) => ({ row, y: ys[index] ?? 0 })).filter(({ row }) => row.way);
  const middle = through.reduce((sum, { y }) => sum + y, 0) / Math.max(1, through.length);
  const lastY = through.at(-1)?.y ?? 0;
  const firstY = through[0]?.y ?? 0;
  const labels = [...new Set(through.map(({ row }) => row.way?.cable))];
  // one under the other, so that they stay within the box
  const cables = labels.length > 2 ? [labels[0], `+${labels.length - 1}`] : labels;
  return (
    <g>
      {rows.map((row, index) => {
        const y = ys[index] ?? 0;
        const end = boardX[index] ?? 318;
        if (!row.way)
          return row.layout ? <WirePath key={row.panel.key} d={`M${PANEL_X} ${y}H${end}`} colour={row.colour} /> : null;
        const inCable = middle + (y - middle) * 0.18;
        return (
          <g key={row.panel.key}>
            <WirePath d={`M${PANEL_X} ${y}H${PANEL_STRIP}`} colour={row.colour} dashed={row.panelVia !== null} />
            <WirePath
              d={`M${PANEL_STRIP + STRIP_WIDTH} ${y}C${CABLE.from - 10} ${y} ${CABLE.from - 14} ${inCable} ${CABLE.from} ${inCable}H${CABLE.to}C${CABLE.to + 14} ${inCable} ${CABLE.to + 10} ${y} ${LAYOUT_STRIP} ${y}`}
              colour={row.coreColour}
            />
            {row.layout && (
              <WirePath
                d={`M${LAYOUT_STRIP + STRIP_WIDTH} ${y}H${end}`}
                colour={row.colour}
                dashed={row.layoutVia !== null}
              />
            )}
          </g>
        );
      })}
      {through.length > 0 && (
        <>
          <path
            d={`M${CABLE.from + 6} ${middle - 18}H${CABLE.to - 6}V${middle + 18}H${CABLE.from + 6}Z`}
            fill="var(--sheet)"
            stroke="var(--ink)"
            strokeWidth="1.2"
          />
          {cables.map((words, index) => (
            <text
              key={words}
              className={cables.length > 1 ? "tm" : "tv"}
              x={(CABLE.from + CABLE.to) / 2}
              y={middle + 4.5 + (index - (cables.length - 1) / 2) * 14}
              textAnchor="middle"
            >
              {words}
            </text>
          ))}
          {through.map(({ row }, index) => (
            <WireCode
              key={row.panel.key}
              x={162}
              y={lastY + 24 + index * 15}
              colour={row.coreColour}
              text={`core ${row.way?.core}`}
            />
          ))}
          <Strip x={PANEL_STRIP} from={firstY} to={lastY} />
          <Strip x={LAYOUT_STRIP} from={firstY} to={lastY} />
        </>
      )}
      {through.map(({ row: { way }, y }) =>
        way ? (
          <g key={way.panel.key}>
            <Screw x={PANEL_STRIP} y={y} end={way.panel.key} name={way.panel.name} number={way.panel.way} />
            <Screw x={LAYOUT_STRIP} y={y} end={way.layout.key} name={way.layout.name} number={way.layout.way} />
          </g>
        ) : null,
      )}
    </g>
  );
}

function Strip({ x, from, to }: { x: number; from: number; to: number }) {
  return (
    <path
      d={`M${x} ${from - 19}H${x + STRIP_WIDTH}V${to + 19}H${x}Z`}
      fill="var(--sheet-2)"
      stroke="var(--ink)"
      strokeWidth="1.2"
    />
  );
}

function Screw({ x, y, end, name, number }: { x: number; y: number; end: string; name: string; number: number }) {
  return (
    <>
      <text className="tm" x={x + 3} y={y + 4}>
        {number}
      </text>
      <Terminal end={end} name={name} x={x + 23} y={y} radius={5.5} />
    </>
  );
}
