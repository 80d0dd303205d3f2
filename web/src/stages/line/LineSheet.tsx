import { type Finding, lineLayout, nameOfPoint, type RailwayRecord } from "@alderman/core";
import { type ReactNode, useEffect, useMemo, useRef, useState } from "react";
import { Button } from "../../kit/Button.tsx";
import { Choice } from "../../kit/Choice.tsx";
import { Segmented } from "../../kit/Segmented.tsx";
import { Sheet } from "../../kit/Sheet.tsx";
import { useAppSelector } from "../../store/store.ts";
import { LineDrawing, Preview } from "./LineDrawing.tsx";
import { LineGround, LineMarks, LineTimes, LineWrong } from "./LineMarks.tsx";
import { Box, Empty, Lattice, Ruler } from "./LinePaper.tsx";
import { MiniMap } from "./MiniMap.tsx";
import { boardsOf, MARK_KINDS, type MarkKind } from "./marking.ts";
import { drawnAt, textOf } from "./shapes.ts";
import { type Extent, STEP, useCamera } from "./useCamera.ts";
import { type AtHand, type LineTool, useLineHands } from "./useLineHands.ts";
import type { useLineState } from "./useLineState.ts";

const TOOLS: { value: LineTool; text: ReactNode }[] = [
  {
    value: "track",
    text: (
      <>
        Track <kbd className="font-mono font-normal">l</kbd>
      </>
    ),
  },
  {
    value: "choose",
    text: (
      <>
        Choose <kbd className="font-mono font-normal">s</kbd>
      </>
    ),
  },
  {
    value: "gap",
    text: (
      <>
        Gap <kbd className="font-mono font-normal">i</kbd>
      </>
    ),
  },
  {
    value: "mark",
    text: (
      <>
        Mark <kbd className="font-mono font-normal">k</kbd>
      </>
    ),
  },
];

/** Turnouts above which a small picture of all of it is shown. */
const MANY = 100;

interface LineSheetProps extends Pick<AtHand, "record" | "chosen" | "choose" | "tray" | "edit" | "tool" | "setTool"> {
  wrong: ReadonlyMap<string, "stop" | "look">;
  /** How the line stands, and what its signals show. */
  state: ReturnType<typeof useLineState>;
  /** Findings that are put right on the line. */
  findings: readonly Finding[];
  actions?: ReactNode;
}

/** The sheet on which the line is laid. */
export function LineSheet({
  record,
  wrong,
  findings,
  state,
  chosen,
  choose,
  tray,
  edit,
  tool,
  setTool,
  actions,
}: LineSheetProps) {
  const [kind, setKind] = useState<MarkKind>("block");
  const [boardId, setBoardId] = useState<string | null>(null);
  const layout = lineLayout(record);
  const boards = tool === "mark" && kind === "stand" ? boardsOf(record) : [];
  const asked = useAppSelector((state) => state.view.asked);
  const svg = useRef<SVGSVGElement>(null);
  const extent = useMemo(
    () => extentOf(record.tracks, record.outlines, record.marks),
    [record.tracks, record.outlines, record.marks],
  );
  const { camera, zoomBy, panBy, fit } = useCamera(svg, extent);
  const { cursor, way, preview, shift, box, outline, said, isRefused, handlers } = useLineHands({
    ...{ record, chosen, choose, tray, edit, tool, setTool },
    marking: { kind, boardId },
    ...{ svg, camera, zoomBy, panBy, fit },
  });
  const [isFocused, setFocused] = useState(false);
  // the whole line is in sight when the stage opens
  // biome-ignore lint/correctness/useExhaustiveDependencies: once only; what is laid later does not move the paper
  useEffect(() => fit(), []);
  return (
    <Sheet
      title={<Segmented size="small" label="Tool" value={tool} segments={TOOLS} onChange={setTool} />}
      about={`1 step = ${Math.round(record.railway.stepMetres * 1000)} mm`}
      actions={
        <>
          {tool === "mark" && (
            <Choice label="What to mark" size="small" value={kind} options={MARK_KINDS} onChange={setKind} />
          )}
          {tool === "mark" && kind === "stand" && boards.length > 0 && (
            <Choice
              label="Which board"
              size="small"
              value={boards.find(({ id }) => id === boardId)?.id ?? boards[0]?.id ?? ""}
              options={boards.map(({ id, label, stands }) => ({
                value: id,
                text: label,
                hint: stands ? "stands" : "",
              }))}
              onChange={setBoardId}
            />
          )}
          <Button size="small" aria-label="Smaller" onClick={() => zoomBy(0.8)}>
            −
          </Button>
          <Button size="small" aria-label="Larger" onClick={() => zoomBy(1.25)}>
            +
          </Button>
          <Button size="small" onClick={fit}>
            Fit
          </Button>
          {actions}
        </>
      }
    >
      <div className="relative min-h-0 flex-1 max-[699px]:min-h-80">
        <svg
          ref={svg}
          role="application"
          aria-label="Line diagram"
          aria-describedby="line-keys"
          // biome-ignore lint/a11y/noNoninteractiveTabindex: a drawing that is worked by keys has no element of its own
          tabIndex={0}
          className="absolute inset-0 h-full w-full cursor-crosshair touch-none select-none focus-visible:-outline-offset-3 [&:not(:focus-visible)]:outline-none"
          {...handlers}
          onFocus={() => setFocused(true)}
          onBlur={() => setFocused(false)}
          data-line
        >
          <title>Line diagram</title>
          <Lattice camera={camera} />
          <g transform={`translate(${camera.x} ${camera.y}) scale(${camera.scale})`}>
            <LineGround record={record} occupied={state.occupied} chosen={chosen.mark ?? null} />
            <LineDrawing record={record} layout={layout} asked={asked} wrong={wrong} chosen={chosen} />
            <LineMarks
              {...{ record, layout }}
              signals={state.signals}
              occupied={state.occupied}
              chosen={chosen.mark ?? null}
            />
            <LineWrong findings={findings} />
            <LineTimes record={record} chosen={chosen.mark ?? null} />
            {shift && (
              <g transform={`translate(${shift[0] * STEP} ${shift[1] * STEP})`} opacity="0.6">
                {record.tracks.map(
                  ({ id, points }) =>
                    chosen.tracks.has(id) && (
                      <polyline
                        key={id}
                        points={textOf(points.map(drawnAt))}
                        fill="none"
                        stroke="var(--copper)"
                        strokeWidth="2.4"
                        strokeDasharray="5 4"
                      />
                    ),
                )}
              </g>
            )}
            {way && (
              <Preview
                points={way}
                becomes={preview?.becomes ?? []}
                problem={preview?.problem ?? null}
                right={rightEdge(svg.current, camera)}
              />
            )}
            {outline && (
              <polyline
                points={textOf(outline.map(drawnAt))}
                stroke="var(--copper)"
                strokeWidth="2"
                strokeDasharray="5 4"
              />
            )}
            {box && <Box a={box.from} b={box.to} />}
            {isFocused && (
              <circle
                cx={cursor[0] * STEP}
                cy={cursor[1] * STEP}
                r="8"
                fill="none"
                stroke="var(--focus)"
                strokeWidth="2"
                data-cursor={nameOfPoint(cursor)}
              />
            )}
          </g>
          <Ruler camera={camera} stepMetres={record.railway.stepMetres} svg={svg} />
        </svg>
        {record.tracks.length === 0 && !way && <Empty />}
        {record.spots.length > MANY && <MiniMap record={record} extent={extent} camera={camera} svg={svg} />}
        <p
          role="status"
          className={`absolute top-2 left-3 max-w-[80%] bg-sheet px-1 ${isRefused ? "text-red" : "text-ink-2"}`}
        >
          {said === "" && tool === "mark" ? MARK_KINDS.find(({ value }) => value === kind)?.how : said}
        </p>
        <p id="line-keys" className="sr-only">
          Arrows move the cursor; Home, End, Page up and Page down go slantwise. With Shift track is laid; Enter ends
          it.
        </p>
      </div>
    </Sheet>
  );
}

/** The right edge of what is in sight, as drawn at scale 1. */
function rightEdge(svg: SVGSVGElement | null, { scale, x }: { scale: number; x: number }): number {
  return ((svg?.clientWidth ?? 936) - x) / scale;
}

function extentOf(
  tracks: RailwayRecord["tracks"],
  outlines: RailwayRecord["outlines"],
  marks: RailwayRecord["marks"],
): Extent {
  const all = [...tracks, ...outlines].flatMap(({ points }) => points);
  for (const { what, x, y } of marks) if (what === "stand") all.push([x, y]);
  if (all.length === 0) return { left: 0, top: 0, right: 24, bottom: 12 };
  const [xs, ys] = [all.map(([x]) => x), all.map(([, y]) => y)];
  const least = (of: number[]) => of.reduce((a, b) => Math.min(a, b));
  const most = (of: number[]) => of.reduce((a, b) => Math.max(a, b));
  return { left: least(xs), top: least(ys), right: most(xs), bottom: most(ys) };
}
