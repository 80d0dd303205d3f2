import {
  type BoardTest,
  type BuildSheet,
  boardDrawing,
  boardTests,
  type Construction,
  type Drawing,
  type Firing,
  PITCH,
} from "@alderman/core";
import { type ReactNode, type RefObject, useMemo, useRef } from "react";
import { Button } from "../../kit/Button.tsx";
import { DataTable } from "../../kit/DataTable.tsx";
import { Progress } from "../../kit/Progress.tsx";
import { saveCsv, saveText } from "../../tools/saveFile.ts";
import { useBoard } from "./useBoard.ts";

/** The board to be built: drawn at true scale, with the order of soldering and what to measure afterwards. */
export function BoardSheet({
  construction,
  diode,
  name = "diode board",
  actions,
  children,
}: {
  construction: Construction;
  diode: Firing["diode"];
  /** Of the files that are saved. */
  name?: string;
  actions?: ReactNode;
  /** Between the drawing and what is to be measured. */
  children?: ReactNode;
}) {
  const work = useBoard(construction);
  if ("failed" in work) return <p className="text-red">{work.failed}</p>;
  if (!("sheet" in work))
    return (
      <div className="grid max-w-80 gap-1">
        <span className="text-ink-2">Ordering the terminals; {work.crossings} crossings so far</span>
        <Progress label="Ordering the terminals" share={work.share} />
      </div>
    );
  return (
    <Sheet sheet={work.sheet} tests={boardTests(work.sheet, diode)} name={name} actions={actions} more={children} />
  );
}

function Sheet({
  sheet,
  tests,
  name,
  actions,
  more,
}: {
  sheet: BuildSheet;
  tests: BoardTest[];
  name: string;
  actions: ReactNode;
  more: ReactNode;
}) {
  const drawn = useRef<SVGSVGElement>(null);
  const drawing = useMemo(() => boardDrawing(sheet), [sheet]);
  const saveSvg = () => {
    const copy = drawn.current?.cloneNode(true) as SVGSVGElement | undefined;
    if (!copy) return;
    copy.setAttribute("xmlns", "http://www.w3.org/2000/svg");
    copy.removeAttribute("class");
    saveText(`${name}.svg`, "image/svg+xml", `<?xml version="1.0" encoding="UTF-8"?>\n${copy.outerHTML}\n`);
  };
  return (
    <div className="grid gap-3">
      <div className="flex flex-wrap items-center gap-2">
        <span className="min-w-60 flex-1 text-ink-2">
          Terminals {PITCH} mm apart; {sheet.crossings} {sheet.crossings === 1 ? "crossing" : "crossings"}. Solder by
          number: what lies lowest comes first. The ruler has to measure 100 mm on the print.
        </span>
        {actions}
        <Button size="small" onClick={saveSvg}>
          SVG, 1:1
        </Button>
        <Button size="small" onClick={() => saveCsv(`${name}.csv`, rowsOf(sheet, tests))}>
          CSV
        </Button>
      </div>
      <Drawn drawing={drawing} at={drawn} />
      {more}
      <h3>What to measure, with nothing connected</h3>
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

/** A drawing at true scale; its ink is black on white, as it will be printed. */
function Drawn({ drawing, at }: { drawing: Drawing; at: RefObject<SVGSVGElement | null> }) {
  const { width, height, lines, shapes, circles, texts } = drawing;
  const path = (points: readonly (readonly [number, number])[]) => points.map((point) => point.join(" ")).join("L");
  return (
    <svg
      ref={at}
      role="img"
      aria-label="The board"
      className="max-w-full self-start border border-rule bg-white"
      width={`${width}mm`}
      height={`${height}mm`}
      viewBox={`0 0 ${width} ${height}`}
      fontFamily="sans-serif"
    >
      <title>Diode board at true scale</title>
      {lines.map(({ points, width: stroke }) => (
        <path key={path(points)} d={`M${path(points)}`} stroke="#222" strokeWidth={stroke} fill="none" />
      ))}
      {shapes.map(({ points, fill, outline }) => (
        <path
          key={`${fill} ${path(points)}`}
          d={`M${path(points)}Z`}
          fill={fill === "ink" ? "#222" : "#fff"}
          stroke={outline > 0 ? "#222" : "none"}
          strokeWidth={outline}
        />
      ))}
      {circles.map(({ x, y, radius }) => (
        <circle key={`${x} ${y}`} cx={x} cy={y} r={radius} fill="none" stroke="#222" strokeWidth="0.3" />
      ))}
      {texts.map(({ text, x, y, size, anchor }) => (
        <text key={`${x} ${y}`} x={x} y={y} fontSize={size} textAnchor={anchor} fill="#222">
          {text}
        </text>
      ))}
    </svg>
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
