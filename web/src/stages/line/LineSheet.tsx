import {
  type Becoming,
  becomesAlong,
  layTrack,
  lineLayout,
  moveTracks,
  nameOfPoint,
  nameOfStep,
  type RailwayRecord,
  RecordError,
  setGap,
  simplified,
  takeUp,
  takeUpStep,
  wayOn,
} from "@alderman/core";
import { type KeyboardEvent, type PointerEvent, type ReactNode, useEffect, useMemo, useRef, useState } from "react";
import { Button } from "../../kit/Button.tsx";
import { Segmented } from "../../kit/Segmented.tsx";
import { Sheet } from "../../kit/Sheet.tsx";
import type { Making } from "../../session/useEdit.ts";
import { useAppSelector } from "../../store/store.ts";
import { pointMeant, stepsAt, trackNear, tracksIn } from "./hit.ts";
import { type Chosen, LineDrawing, Preview } from "./LineDrawing.tsx";
import { Box, Empty, Lattice, Ruler } from "./LinePaper.tsx";
import { MiniMap } from "./MiniMap.tsx";
import { drawnAt, latticeAt, type Spot } from "./shapes.ts";
import { type Extent, STEP, useCamera } from "./useCamera.ts";

export type LineTool = "track" | "choose" | "gap";

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
];

type Point = [number, number];
/** What a pointer is doing, in steps. */
type Drag = { doing: "lay" | "box" | "move"; from: Spot; to: Spot };

/** Keys that move the cursor: arrows, and the corners of the block of numbers for the slants. */
const MOVES: Record<string, Point> = {
  ...{ ArrowRight: [1, 0], ArrowLeft: [-1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] },
  ...{ PageUp: [1, -1], Home: [-1, -1], End: [-1, 1], PageDown: [1, 1] },
};

/** Turnouts above which a small picture of all of it is shown. */
const MANY = 100;

export interface LineSheetProps {
  record: RailwayRecord;
  wrong: ReadonlyMap<string, "stop" | "look">;
  chosen: Chosen;
  choose: (chosen: Chosen) => void;
  /** Turnouts of the tray that are put where blades come into being. */
  tray: readonly string[];
  edit: (making: Making) => boolean;
  tool: LineTool;
  setTool: (tool: LineTool) => void;
  actions?: ReactNode;
}

/** The sheet on which the line is laid. */
export function LineSheet({ record, wrong, chosen, choose, tray, edit, tool, setTool, actions }: LineSheetProps) {
  const layout = lineLayout(record);
  const asked = useAppSelector((state) => state.view.asked);
  const svg = useRef<SVGSVGElement>(null);
  const extent = useMemo(() => extentOf(record), [record]);
  const { camera, zoomBy, panBy, fit } = useCamera(svg, extent);
  const [drag, setDrag] = useState<Drag | null>(null);
  const [cursor, setCursor] = useState<Point>([0, 0]);
  /** Points laid by keys so far. */
  const [trail, setTrail] = useState<Point[] | null>(null);
  /** A way that was refused because it makes a three-way turnout. */
  const [threeWay, setThreeWay] = useState<Point[] | null>(null);
  const [said, setSaid] = useState("");
  const [isFocused, setFocused] = useState(false);
  /** The place whose label the pointer went down on. */
  const labelled = useRef<string | null>(null);
  // the whole line is in sight when the stage opens
  // biome-ignore lint/correctness/useExhaustiveDependencies: once only; what is laid later does not move the paper
  useEffect(() => fit(), []);

  const way = useMemo((): Point[] | null => {
    if (trail) return trail;
    if (drag?.doing !== "lay") return null;
    return wayOn(record, rounded(drag.from), rounded(drag.to));
  }, [record, drag, trail]);
  const preview = useMemo(() => previewOf(record, way, tray), [record, way, tray]);

  const lay = (points: Point[], options: { threeWay?: boolean } = {}) => {
    if (simplified(points).length < 2) return;
    try {
      const { group, becomes } = layTrack(record, points, { tray, ...options });
      setThreeWay(null);
      edit(group);
      setSaid(becomes.length > 0 ? becomes.map(({ words }) => words).join(", ") : "Track laid.");
    } catch (error) {
      if (!(error instanceof RecordError)) throw error;
      setThreeWay(/press 3/.test(error.message) ? points : null);
      setSaid(error.message);
    }
  };
  /** Where a pointer is, as drawn at scale 1. */
  const placeOf = ({ clientX, clientY }: { clientX: number; clientY: number }): Spot => {
    const box = svg.current?.getBoundingClientRect();
    return [
      (clientX - (box?.left ?? 0) - camera.x) / camera.scale,
      (clientY - (box?.top ?? 0) - camera.y) / camera.scale,
    ];
  };
  const chooseAt = (place: Spot, more: boolean) => {
    const name = pointMeant(place);
    if (name !== null && layout.at.has(name)) return choose({ tracks: new Set(), place: name });
    const near = trackNear(record, stepsAt(place));
    if (!near) return more ? undefined : choose(NOTHING);
    const tracks = new Set(more ? chosen.tracks : []);
    if (more && tracks.has(near.trackId)) tracks.delete(near.trackId);
    else tracks.add(near.trackId);
    choose({ tracks, place: null });
  };
  const partAt = (place: Spot) => {
    const near = trackNear(record, stepsAt(place));
    if (near) edit(() => nextGap(record, ...near.step));
  };

  const onPointerDown = (event: PointerEvent) => {
    if (event.button !== 0 || !event.isPrimary) return;
    svg.current?.focus({ preventScroll: true });
    const place = placeOf(event);
    const at = stepsAt(place);
    labelled.current =
      event.target instanceof Element
        ? (event.target.closest("[data-place]")?.getAttribute("data-place") ?? null)
        : null;
    setCursor(rounded(at));
    if (tool === "gap") return partAt(place);
    svg.current?.setPointerCapture(event.pointerId);
    const near = tool === "choose" ? trackNear(record, at) : null;
    const doing = tool === "track" ? "lay" : near && chosen.tracks.has(near.trackId) ? "move" : "box";
    setDrag({ doing, from: at, to: at });
  };
  const onPointerMove = (event: PointerEvent) => {
    if (!drag) return;
    const to = stepsAt(placeOf(event));
    setDrag({ ...drag, to });
  };
  const onPointerUp = (event: PointerEvent) => {
    if (!drag) return;
    const { doing, from } = drag;
    const place = placeOf(event);
    const to = stepsAt(place);
    setDrag(null);
    const isClick = Math.hypot(to[0] - from[0], to[1] - from[1]) < 0.3;
    if (isClick && labelled.current !== null) return choose({ tracks: new Set(), place: labelled.current });
    if (isClick) return chooseAt(place, event.shiftKey);
    if (doing === "lay") lay(wayOn(record, rounded(from), rounded(to)));
    else if (doing === "box") choose({ tracks: new Set(tracksIn(record, from, to)), place: null });
    else moveBy([Math.round(to[0] - from[0]), Math.round(to[1] - from[1])]);
  };
  const moveBy = (by: Point) => {
    if (by[0] !== 0 || by[1] !== 0) edit(() => moveTracks(record, [...chosen.tracks], { by }));
  };

  const onKeyDown = (event: KeyboardEvent) => {
    if (event.ctrlKey || event.metaKey || event.altKey) {
      const move = MOVES[event.key];
      if (!move || !event.ctrlKey) return;
      event.preventDefault();
      panBy(-move[0] * 60, -move[1] * 60);
      return;
    }
    const done = keyDone(event);
    if (!done) return;
    event.preventDefault();
    event.stopPropagation();
  };
  /** @returns whether the key meant something here */
  const keyDone = ({ key, shiftKey }: KeyboardEvent): boolean => {
    const move = MOVES[key];
    if (move) {
      const to: Point = [cursor[0] + move[0], cursor[1] + move[1]];
      if (chosen.tracks.size > 0 && tool === "choose" && shiftKey) moveBy(move);
      else if (shiftKey && tool === "track") setTrail([...(trail ?? [cursor]), to]);
      setCursor(to);
      return true;
    }
    switch (key) {
      case "Enter":
        if (trail) {
          lay(trail);
          setTrail(null);
        } else if (tool === "gap") {
          const right: Point = [cursor[0] + 1, cursor[1]];
          edit(() => nextGap(record, cursor, right));
        } else chooseAt(drawnAt(cursor), false);
        return true;
      case "Escape":
        if (trail || drag) {
          setTrail(null);
          setDrag(null);
        } else choose(NOTHING);
        setThreeWay(null);
        setSaid("");
        return true;
      case "3":
        if (!threeWay) return false;
        lay(threeWay, { threeWay: true });
        return true;
      case "Delete":
      case "Backspace":
        if (chosen.tracks.size > 0) {
          edit(() => takeUp(record, [...chosen.tracks]));
          choose(NOTHING);
        } else {
          const near = trackNear(record, [cursor[0] + 0.3, cursor[1]]);
          if (near) edit(() => takeUpStep(record, ...near.step));
        }
        return true;
      case "m":
        return changed({ mirrored: true });
      case "q":
        return changed({ quarters: 1 });
      case "c":
        return changed({ by: [0, 2] }, true);
      case "+":
      case "=":
        zoomBy(1.25);
        return true;
      case "-":
        zoomBy(0.8);
        return true;
      case "0":
        fit();
        return true;
      case "l":
        setTool("track");
        return true;
      case "s":
        setTool("choose");
        return true;
      case "i":
        setTool("gap");
        return true;
      default:
        return false;
    }
  };
  const changed = (move: Parameters<typeof moveTracks>[2], copy = false): boolean => {
    if (chosen.tracks.size === 0) return false;
    edit(() => moveTracks(record, [...chosen.tracks], move, copy));
    return true;
  };

  const shift =
    drag?.doing === "move" ? [Math.round(drag.to[0] - drag.from[0]), Math.round(drag.to[1] - drag.from[1])] : null;
  const problem = preview?.problem ?? null;
  return (
    <Sheet
      title={<Segmented size="small" label="Tool" value={tool} segments={TOOLS} onChange={setTool} />}
      about={`1 step = ${Math.round(record.railway.stepMetres * 1000)} mm`}
      actions={
        <>
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
      <div className="relative min-h-0 flex-1">
        <svg
          ref={svg}
          role="application"
          aria-label="Line diagram"
          aria-describedby="line-keys"
          // biome-ignore lint/a11y/noNoninteractiveTabindex: a drawing that is worked by keys has no element of its own
          tabIndex={0}
          className="absolute inset-0 h-full w-full cursor-crosshair touch-none select-none focus-visible:-outline-offset-3 [&:not(:focus-visible)]:outline-none"
          onPointerDown={onPointerDown}
          onPointerMove={onPointerMove}
          onPointerUp={onPointerUp}
          onPointerCancel={() => setDrag(null)}
          onKeyDown={onKeyDown}
          onFocus={() => setFocused(true)}
          onBlur={() => setFocused(false)}
          data-line
        >
          <title>Line diagram</title>
          <Lattice camera={camera} />
          <g transform={`translate(${camera.x} ${camera.y}) scale(${camera.scale})`}>
            <LineDrawing record={record} layout={layout} asked={asked} wrong={wrong} chosen={chosen} />
            {shift && (
              <g transform={`translate(${(shift[0] ?? 0) * STEP} ${(shift[1] ?? 0) * STEP})`} opacity="0.6">
                {record.tracks.map(
                  ({ id, points }) =>
                    chosen.tracks.has(id) && (
                      <polyline
                        key={id}
                        points={points.map(drawnAt).join(" ")}
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
                problem={problem}
                right={rightEdge(svg.current, camera)}
              />
            )}
            {drag?.doing === "box" && <Box a={drag.from} b={drag.to} />}
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
          className={`absolute top-2 left-3 max-w-[80%] bg-sheet px-1 ${problem || threeWay ? "text-red" : "text-ink-2"}`}
        >
          {problem ?? said}
        </p>
        <p id="line-keys" className="sr-only">
          Arrows move the cursor; Home, End, Page up and Page down go slantwise. With Shift track is laid; Enter ends
          it.
        </p>
      </div>
    </Sheet>
  );
}

const NOTHING: Chosen = { tracks: new Set(), place: null };

/** The right edge of what is in sight, as drawn at scale 1. */
function rightEdge(svg: SVGSVGElement | null, { scale, x }: { scale: number; x: number }): number {
  return ((svg?.clientWidth ?? 936) - x) / scale;
}

function rounded([x, y]: Spot): Point {
  return latticeAt([x * STEP, y * STEP]);
}

/** What would come into being along a way, or why it cannot be laid. */
function previewOf(
  record: RailwayRecord,
  way: Point[] | null,
  tray: readonly string[],
): { becomes: Becoming[]; problem: string | null } | null {
  if (!way) return null;
  try {
    return { becomes: becomesAlong(record, way, { tray }), problem: null };
  } catch (error) {
    if (!(error instanceof RecordError)) throw error;
    return { becomes: [], problem: error.message };
  }
}

/** The next of what can be parted at a step: both rails, the left, the right, none. */
function nextGap(record: RailwayRecord, a: Point, b: Point) {
  const step = nameOfStep(a, b);
  const gap = record.marks.find(
    (mark) => mark.what === "gap" && nameOfStep([mark.x, mark.y], [mark.toX, mark.toY]) === step,
  );
  const order = ["both", "left", "right", null] as const;
  const now = gap?.what === "gap" ? order.indexOf(gap.rails) : 3;
  return setGap(record, a, b, order[(now + 1) % 4] ?? null);
}

function extentOf({ tracks }: RailwayRecord): Extent {
  const all = tracks.flatMap(({ points }) => points);
  if (all.length === 0) return { left: 0, top: 0, right: 24, bottom: 12 };
  const [xs, ys] = [all.map(([x]) => x), all.map(([, y]) => y)];
  const least = (of: number[]) => of.reduce((a, b) => Math.min(a, b));
  const most = (of: number[]) => of.reduce((a, b) => Math.max(a, b));
  return { left: least(xs), top: least(ys), right: most(xs), bottom: most(ys) };
}
