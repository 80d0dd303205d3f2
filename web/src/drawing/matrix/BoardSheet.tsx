import {
  type BoardTest,
  type BuildSheet,
  boardTests,
  type Construction,
  type Firing,
  type Placed,
} from "@alderman/core";
import { useRef } from "react";
import { Button } from "../../kit/Button.tsx";
import { DataTable } from "../../kit/DataTable.tsx";
import { Progress } from "../../kit/Progress.tsx";
import { saveCsv, saveText } from "../../tools/saveFile.ts";
import { useBoard } from "./useBoard.ts";

/** Millimetres: from one terminal to the next, between the two rows, and around the board. */
const PITCH = 5.08;
const ACROSS = 70;
const EDGE = { side: 30, top: 14, foot: 16 };
/** The ruler by which a print is checked. */
const RULER = 100;

/** A mark at each centimetre of the ruler. */
const MARKS = Array.from(
  { length: RULER / 10 + 1 },
  (_, index) => `M${index * 10} 0v${index % 5 === 0 ? 3 : 1.8}`,
).join("");

/** The board to be built: drawn at true scale, with the order of soldering and what to measure afterwards. */
export function BoardSheet({ construction, diode }: { construction: Construction; diode: Firing["diode"] }) {
  const work = useBoard(construction);
  if ("failed" in work) return <p className="text-red">{work.failed}</p>;
  if (!("sheet" in work))
    return (
      <div className="grid max-w-80 gap-1">
        <span className="text-ink-2">Ordering the terminals; {work.crossings} crossings so far</span>
        <Progress label="Ordering the terminals" share={work.share} />
      </div>
    );
  return <Sheet sheet={work.sheet} tests={boardTests(work.sheet, diode)} />;
}

function Sheet({ sheet, tests }: { sheet: BuildSheet; tests: BoardTest[] }) {
  const drawn = useRef<SVGSVGElement>(null);
  const { left, right, placed, crossings } = sheet;
  const rows = Math.max(left.length, right.length);
  const [width, height] = [Math.max(ACROSS, RULER) + 2 * EDGE.side, rows * PITCH + EDGE.top + EDGE.foot];
  const saveSvg = () => {
    const copy = drawn.current?.cloneNode(true) as SVGSVGElement | undefined;
    if (!copy) return;
    copy.setAttribute("xmlns", "http://www.w3.org/2000/svg");
    copy.removeAttribute("class");
    saveText("diode board.svg", "image/svg+xml", `<?xml version="1.0" encoding="UTF-8"?>\n${copy.outerHTML}\n`);
  };
  return (
    <div className="grid gap-3">
      <div className="flex flex-wrap items-center gap-3">
        <span className="flex-1 text-ink-2">
          Terminals {PITCH} mm apart; {crossings} {crossings === 1 ? "crossing" : "crossings"}. Solder by number: what
          lies lowest comes first. The ruler has to measure {RULER} mm on the print.
        </span>
        <Button size="small" onClick={saveSvg}>
          SVG, 1:1
        </Button>
        <Button size="small" onClick={() => saveCsv("diode board.csv", rowsOf(sheet, tests))}>
          CSV
        </Button>
      </div>
      <svg
        ref={drawn}
        role="img"
        aria-label="The board"
        className="max-w-full self-start border border-rule bg-white"
        width={`${width}mm`}
        height={`${height}mm`}
        viewBox={`${-EDGE.side - (Math.max(ACROSS, RULER) - ACROSS) / 2} ${-EDGE.top} ${width} ${height}`}
        fontFamily="sans-serif"
        fontSize="3"
      >
        <title>Diode board at true scale</title>
        {left.map((name, index) => (
          <Terminal key={name} name={name} x={0} y={index * PITCH} side="end" />
        ))}
        {right.map((name, index) => (
          <Terminal key={name} name={name} x={ACROSS} y={index * PITCH} side="start" />
        ))}
        {placed.map((part) => (
          <Part key={part.number} part={part} />
        ))}
        <g transform={`translate(${(ACROSS - RULER) / 2} ${rows * PITCH + 5})`} stroke="#222" strokeWidth="0.25">
          <path d={`M0 0H${RULER}`} />
          <path d={MARKS} />
          <text x={RULER} y="7" textAnchor="end" stroke="none" fill="#222">
            100 mm
          </text>
        </g>
      </svg>
      <DataTable<BoardTest>
        flowing
        label="What to measure"
        items={tests}
        idOf={({ red, black, what }) => `${red} ${black} ${what}`}
        columns={[
          { id: "red", title: "Red on", width: 110, value: ({ red }) => red },
          { id: "black", title: "Black on", width: 110, value: ({ black }) => black },
          { id: "what", title: "Through", value: ({ what }) => what },
          {
            id: "volts",
            title: "Diode range shows",
            width: 140,
            cell: ({ volts }) => (volts === null ? "open" : `${volts.toFixed(2)} V`),
          },
        ]}
      />
    </div>
  );
}

function Terminal({ name, x, y, side }: { name: string; x: number; y: number; side: "start" | "end" }) {
  return (
    <g>
      <circle cx={x} cy={y} r="1.3" fill="#fff" stroke="#222" strokeWidth="0.3" />
      <path d={`M${x - 0.8} ${y}h1.6`} stroke="#222" strokeWidth="0.3" />
      <text x={x + (side === "end" ? -2.4 : 2.4)} y={y + 1} textAnchor={side} fill="#222">
        {name}
      </text>
    </g>
  );
}

/** A wire, or a diode with its body and the band at its cathode, which is the end towards the coil. */
function Part({ part: { left, right, number, with: by } }: { part: Placed }) {
  const [a, b] = [
    { x: 1.3, y: left * PITCH },
    { x: ACROSS - 1.3, y: right * PITCH },
  ];
  const angle = (Math.atan2(b.y - a.y, b.x - a.x) * 180) / Math.PI;
  // bodies beside each other by their number, so that they do not all lie in the middle
  const at = 0.3 + 0.4 * ((number * 0.382) % 1);
  const [x, y] = [a.x + (b.x - a.x) * at, a.y + (b.y - a.y) * at];
  return (
    <g stroke="#222">
      <line x1={a.x} y1={a.y} x2={b.x} y2={b.y} strokeWidth={by === "wire" ? 0.7 : 0.35} />
      <g transform={`translate(${x} ${y}) rotate(${angle})`}>
        {by === "diode" && (
          <>
            <rect x="-2.6" y="-1.3" width="5.2" height="2.6" fill="#fff" strokeWidth="0.3" />
            <rect x="1.3" y="-1.3" width="0.7" height="2.6" fill="#222" stroke="none" />
          </>
        )}
        {by === "wire" && <rect x="-1.7" y="-1.2" width="3.4" height="2.4" fill="#fff" stroke="none" />}
        <text x={by === "diode" ? -0.6 : 0} y="0.8" textAnchor="middle" fontSize="2.3" fill="#222" stroke="none">
          {number}
        </text>
      </g>
    </g>
  );
}

function rowsOf({ placed }: BuildSheet, tests: readonly BoardTest[]): (string | number)[][] {
  return [
    ["number", "part", "from", "to, cathode", "layer"],
    ...placed.map(({ number, with: by, from, to, layer }) => [number, by, from, to, layer + 1]),
    [],
    ["red on", "black on", "through", "diode range shows"],
    ...tests.map(({ red, black, what, volts }) => [
      red,
      black,
      what,
      volts === null ? "open" : `${volts.toFixed(2)} V`,
    ]),
  ];
}
