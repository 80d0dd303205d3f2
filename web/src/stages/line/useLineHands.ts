import {
  ASKS_THREE_WAY,
  type Becoming,
  becomesAlong,
  layOutline,
  layTrack,
  lineLayout,
  moveTracks,
  nameOfPoint,
  nameOfStep,
  type RailwayRecord,
  RecordError,
  removeMark,
  removeOutline,
  setGap,
  simplified,
  takeUp,
  takeUpStep,
  wayOn,
} from "@alderman/core";
import { type KeyboardEvent, type PointerEvent, type RefObject, useMemo, useRef, useState } from "react";
import type { Making } from "../../session/useEdit.ts";
import { pointMeant, stepsAt, trackNear, tracksIn } from "./hit.ts";
import type { Chosen } from "./LineDrawing.tsx";
import { isOutline, type MarkKind, markAt, standAt } from "./marking.ts";
import { drawnAt, latticeAt, type Spot } from "./shapes.ts";
import { type Camera, STEP } from "./useCamera.ts";

export type LineTool = "track" | "choose" | "gap" | "mark";

type Point = [number, number];
/** What a pointer is doing, in steps. */
type Drag = { doing: "lay" | "box" | "move" | "outline"; from: Spot; to: Spot };

/** Keys that move the cursor: arrows, and the corners of the block of numbers for the slants. */
const MOVES: Record<string, Point> = {
  ...{ ArrowRight: [1, 0], ArrowLeft: [-1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] },
  ...{ PageUp: [1, -1], Home: [-1, -1], End: [-1, 1], PageDown: [1, 1] },
};

/** What hands work on: the line, what of it is chosen, and how it is seen. */
export interface AtHand {
  record: RailwayRecord;
  chosen: Chosen;
  choose: (chosen: Chosen) => void;
  /** Turnouts of the tray that are put where blades come into being. */
  tray: readonly string[];
  edit: (making: Making) => boolean;
  tool: LineTool;
  setTool: (tool: LineTool) => void;
  /** What the tool for marks sets, and which board where it is one. */
  marking: { kind: MarkKind; boardId: string | null };
  svg: RefObject<SVGSVGElement | null>;
  camera: Camera;
  zoomBy: (factor: number) => void;
  panBy: (dx: number, dy: number) => void;
  fit: () => void;
}

/** Works the line by pointer and by keys: lays track, chooses, moves, parts rails. */
export function useLineHands({
  record,
  chosen,
  choose,
  tray,
  edit,
  tool,
  setTool,
  marking,
  svg,
  camera,
  zoomBy,
  panBy,
  fit,
}: AtHand) {
  const layout = lineLayout(record);
  const [drag, setDrag] = useState<Drag | null>(null);
  const [cursor, setCursor] = useState<Point>([0, 0]);
  /** Where the cursor was before: keys part or take up the step between. */
  const [before, setBefore] = useState<Point>([-1, 0]);
  /** Points laid by keys so far. */
  const [trail, setTrail] = useState<Point[] | null>(null);
  /** A way that was refused because it makes a three-way turnout. */
  const [threeWay, setThreeWay] = useState<Point[] | null>(null);
  const [said, setSaid] = useState("");
  /** The place whose label the pointer went down on. */
  const labelled = useRef<string | null>(null);
  /** The mark that it went down on. */
  const marked = useRef<string | null>(null);
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
      setThreeWay(error.problems[0]?.path[0] === ASKS_THREE_WAY ? points : null);
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
  const told = (make: () => void) => {
    try {
      make();
    } catch (error) {
      if (!(error instanceof RecordError)) throw error;
      setSaid(error.message);
    }
  };
  /** Sets what the tool for marks sets, on the step that is meant or at a point. */
  const mark = (step: [Point, Point] | null, place: Spot) =>
    told(() => {
      const { kind, boardId } = marking;
      if (isOutline(kind)) return;
      if (kind === "stand") {
        edit(standAt(record, boardId, rounded(place)));
        return setSaid("");
      }
      if (!step) return setSaid("Click on track, or near it.");
      const { id, group } = markAt(record, kind, step, place);
      if (edit(group)) choose({ ...NOTHING, mark: id });
      setSaid("");
    });
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
    marked.current =
      event.target instanceof Element ? (event.target.closest("[data-mark]")?.getAttribute("data-mark") ?? null) : null;
    if (tool === "mark" && marked.current === null && !isOutline(marking.kind))
      return mark(trackNear(record, at, FAR)?.step ?? null, at);
    svg.current?.setPointerCapture(event.pointerId);
    const near = tool === "choose" ? trackNear(record, at) : null;
    const doing =
      tool === "track" ? "lay" : tool === "mark" ? "outline" : near && chosen.tracks.has(near.trackId) ? "move" : "box";
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
    const named = isClick && labelled.current !== null ? layout.at.get(labelled.current) : undefined;
    if (isClick && marked.current !== null) return choose({ ...NOTHING, mark: marked.current });
    if (named) {
      setCursor([...named.point]);
      return choose({ tracks: new Set(), place: nameOfPoint(named.point) });
    }
    if (isClick) return chooseAt(place, event.shiftKey);
    const { kind } = marking;
    if (doing === "outline") {
      if (isOutline(kind)) edit(() => layOutline(record, kind, [rounded(from), rounded(to)]));
      return;
    }
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
      setBefore(cursor);
      setCursor(to);
      return true;
    }
    switch (key) {
      case "Enter":
        if (trail) {
          lay(trail);
          setTrail(null);
        } else if (tool === "gap") edit(() => nextGap(record, before, cursor));
        else if (tool === "mark") {
          const step: [Point, Point] = [before, cursor];
          // to the right of one who came along
          const right: Spot = [-(cursor[1] - before[1]), cursor[0] - before[0]];
          mark(step, marking.kind === "stand" ? cursor : [before[0] + right[0], before[1] + right[1]]);
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
        if (chosen.mark) {
          const id = chosen.mark;
          edit(() => removeMark(record, id) ?? removeOutline(record, id));
          choose(NOTHING);
        } else if (chosen.tracks.size > 0) {
          edit(() => takeUp(record, [...chosen.tracks]));
          choose(NOTHING);
        } else edit(() => takeUpStep(record, before, cursor));
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
      case "k":
        setTool("mark");
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

  const shift: Point | null =
    drag?.doing === "move" ? [Math.round(drag.to[0] - drag.from[0]), Math.round(drag.to[1] - drag.from[1])] : null;
  return {
    cursor,
    /** What would be laid, with what would come into being. */
    way,
    preview,
    /** How far the chosen track is being moved. */
    shift,
    box: drag?.doing === "box" ? drag : null,
    outline: drag?.doing === "outline" ? [rounded(drag.from), rounded(drag.to)] : null,
    said: preview?.problem ?? said,
    isRefused: (preview?.problem ?? null) !== null || threeWay !== null,
    handlers: { onPointerDown, onPointerMove, onPointerUp, onPointerCancel: () => setDrag(null), onKeyDown },
  };
}

const NOTHING: Chosen = { tracks: new Set(), place: null };

/** How far beside track one may click to set a mark on it, steps: a signal stands beside. */
const FAR = 0.9;

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
