import {
  type Becoming,
  type LatticeDirection as Direction,
  type LineEnd,
  type LineLayout,
  type LinePlace,
  nameOfPoint,
  ownOf,
  type Position,
  type RailwayRecord,
  type Stretch,
} from "@alderman/core";
import { memo } from "react";
import { along, anchorOf, drawnAt, labelSide, type Spot, textOf, unit, wedgeOf } from "./shapes.ts";
import { STEP } from "./useCamera.ts";

/** What of the line is chosen. */
export interface Chosen {
  tracks: ReadonlySet<string>;
  /** Name of the point of a place. */
  place: string | null;
  /** A mark or an outline. */
  mark?: string | null;
  /** Stretches of a route, by their points. */
  way?: readonly Stretch[];
}

/** The line itself, at scale 1: track, blades as they lie, ends, gaps, and what is wrong at its place. */
export const LineDrawing = memo(function LineDrawing({
  record,
  layout,
  asked,
  wrong,
  chosen,
}: {
  record: RailwayRecord;
  layout: LineLayout;
  /** How turnouts lie, by their leader. */
  asked: Readonly<Record<string, Position>>;
  /** Turnouts that have a finding which counts, and how grave it is. */
  wrong: ReadonlyMap<string, "stop" | "look">;
  chosen: Chosen;
}) {
  return (
    <g strokeLinecap="round" strokeLinejoin="round">
      <Tracks record={record} layout={layout} chosen={chosen.tracks} />
      {chosen.way?.map(({ points, from }) => (
        <polyline
          key={`${from} ${points.length} ${points[0]}`}
          points={textOf(points.map(drawnAt))}
          fill="none"
          stroke="var(--copper)"
          strokeWidth="4.2"
          strokeLinecap="butt"
          data-way
        />
      ))}
      {record.marks.map((mark) => mark.what === "gap" && <Gap key={mark.id} mark={mark} />)}
      {layout.ends.map((end) => (
        <End key={end.id} end={end} isChosen={chosen.place === nameOfPoint(end.point)} />
      ))}
      {layout.places.map((place) => (
        <Place
          key={nameOfPoint(place.point)}
          place={place}
          around={layout.around}
          asked={asked}
          wrong={wrong}
          isChosen={chosen.place === nameOfPoint(place.point)}
        />
      ))}
    </g>
  );
});

function Tracks({
  record,
  layout,
  chosen,
}: {
  record: RailwayRecord;
  layout: LineLayout;
  chosen: ReadonlySet<string>;
}) {
  const astray = new Set(layout.astray.map(({ id }) => id));
  return (
    <>
      {record.tracks.map(({ id, points, hidden }) => (
        <g key={id}>
          {chosen.has(id) && (
            <polyline points={textOf(points.map(drawnAt))} fill="none" stroke="var(--copper-wash)" strokeWidth="12" />
          )}
          <polyline
            points={textOf(points.map(drawnAt))}
            fill="none"
            stroke={astray.has(id) ? "var(--red)" : chosen.has(id) ? "var(--copper)" : "var(--ink)"}
            strokeWidth="2.4"
            strokeDasharray={hidden || astray.has(id) ? "7 5" : undefined}
            strokeLinecap={hidden ? "butt" : "round"}
          />
        </g>
      ))}
    </>
  );
}

const RINGS = { stop: "var(--red)", look: "var(--amber)" } as const;

function Place({
  place,
  around,
  asked,
  wrong,
  isChosen,
}: {
  place: LinePlace;
  around: LineLayout["around"];
  asked: Readonly<Record<string, Position>>;
  wrong: ReadonlyMap<string, "stop" | "look">;
  isChosen: boolean;
}) {
  const { kind, point, junctions } = place;
  const at = drawnAt(point);
  const grave = junctions.map(({ id }) => wrong.get(id)).sort((a, b) => (a === "stop" ? -1 : b === "stop" ? 1 : 0))[0];
  const side = labelSide(place, around);
  // outside what is drawn around the place
  const [lx, ly] = along(at, side, grave ? 25 : side % 2 === 0 ? 15 : 13);
  const label = junctions.map(({ turnout }) => turnout?.label ?? "?").join("/");
  if (kind === "end") return null;
  return (
    <g>
      {isChosen && <circle cx={at[0]} cy={at[1]} r="13" fill="var(--copper-wash)" stroke="var(--copper)" />}
      {grave && (
        <circle
          cx={at[0]}
          cy={at[1]}
          r="17"
          fill="none"
          stroke={RINGS[grave]}
          strokeWidth="1.6"
          strokeDasharray="4 4"
        />
      )}
      {junctions.map((junction) => (
        <g key={junction.id}>
          <polygon points={textOf(wedgeOf(junction))} fill="var(--sheet)" stroke="var(--ink)" strokeWidth="1.3" />
          <Blade junction={junction} position={positionOf(junction, asked)} />
        </g>
      ))}
      {junctions.length > 0 && <circle cx={at[0]} cy={at[1]} r="2.8" fill="var(--ink)" />}
      {(kind === "unclear" || kind === "bend") && (
        <circle cx={at[0]} cy={at[1]} r="6" fill="none" stroke="var(--red)" strokeWidth="1.8" strokeDasharray="3 3" />
      )}
      {label !== "" && (
        <text
          data-place={nameOfPoint(point)}
          x={lx}
          y={ly + 4}
          textAnchor={anchorOf(side)}
          className="fill-ink font-head text-[12px] font-semibold [paint-order:stroke]"
          stroke="var(--sheet)"
          strokeWidth="3"
        >
          {label}
        </text>
      )}
    </g>
  );
}

/** How a turnout lies: as it was asked, or as the one that it moves with. */
function positionOf({ turnout }: LinePlace["junctions"][number], asked: Readonly<Record<string, Position>>): Position {
  return (turnout && ownOf(asked, turnout.movesWith ?? turnout.id)) ?? "N";
}

function Blade({ junction, position }: { junction: LinePlace["junctions"][number]; position: Position }) {
  const at = drawnAt(junction.point);
  const isTurned = junction.spot?.turned ?? false;
  const leg = (position === "N") === isTurned ? junction.reverse : junction.normal;
  const [x, y] = along(at, leg, STEP * 0.62);
  return <path d={`M${at[0]} ${at[1]}L${x} ${y}`} stroke="var(--copper)" strokeWidth="4.2" strokeLinecap="butt" />;
}

function End({ end: { point, direction, mark }, isChosen }: { end: LineEnd; isChosen: boolean }) {
  const at = drawnAt(point);
  const out = ((direction + 4) % 8) as Direction;
  const [nx, ny] = unit(((direction + 2) % 8) as Direction);
  const isFlat = out % 4 === 0;
  const [lx, ly] = along(at, out, isFlat ? 14 : 16);
  return (
    <g>
      {isChosen && <circle cx={at[0]} cy={at[1]} r="11" fill="var(--copper-wash)" stroke="var(--copper)" />}
      {mark?.buffer ? (
        <path
          d={`M${at[0] - nx * 6} ${at[1] - ny * 6}L${at[0] + nx * 6} ${at[1] + ny * 6}`}
          stroke="var(--ink)"
          strokeWidth="3.6"
          strokeLinecap="butt"
        />
      ) : mark ? (
        <polygon points={textOf(arrow(at, out))} fill="var(--sheet)" stroke="var(--ink)" strokeWidth="1.5" />
      ) : (
        <circle cx={at[0]} cy={at[1]} r="3.6" fill="var(--sheet)" stroke="var(--ink)" strokeWidth="1.5" />
      )}
      {mark && (
        <text
          data-place={nameOfPoint(point)}
          x={lx}
          y={ly + (out === 2 ? -1 : out === 6 ? 9 : 4)}
          textAnchor={anchorOf(out)}
          className="fill-ink-2 text-[12px] [paint-order:stroke]"
          stroke="var(--sheet)"
          strokeWidth="3"
        >
          {mark.name}
        </text>
      )}
    </g>
  );
}

function arrow(at: Spot, out: Direction): Spot[] {
  const left = along(at, ((out + 2) % 8) as Direction, 5);
  const right = along(at, ((out + 6) % 8) as Direction, 5);
  return [left, along(at, out, 8), right];
}

/** Two short strokes across the rails that are parted; of one rail, on its side only. */
function Gap({ mark }: { mark: Extract<RailwayRecord["marks"][number], { what: "gap" }> }) {
  const [a, b] = [drawnAt([mark.x, mark.y]), drawnAt([mark.toX, mark.toY])];
  const middle: Spot = [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2];
  const length = Math.hypot(b[0] - a[0], b[1] - a[1]);
  const [ux, uy] = [(b[0] - a[0]) / length, (b[1] - a[1]) / length];
  const [left, right] = [mark.rails === "right" ? 0 : 7, mark.rails === "left" ? 0 : 7];
  return (
    <g>
      {[-2.5, 2.5].map((shift) => {
        const [x, y] = [middle[0] + ux * shift, middle[1] + uy * shift];
        return (
          <path
            key={shift}
            d={`M${x + uy * left} ${y - ux * left}L${x - uy * right} ${y + ux * right}`}
            stroke="var(--ink)"
            strokeWidth="1.7"
          />
        );
      })}
    </g>
  );
}

/** What would be laid, and what would come into being. */
export function Preview({
  points,
  becomes,
  problem,
  right,
}: {
  points: readonly (readonly [number, number])[];
  becomes: readonly Becoming[];
  problem: string | null;
  /** Where the sheet ends, so that words beside a point stay on it. */
  right: number;
}) {
  const colour = problem ? "var(--red)" : "var(--copper)";
  return (
    <g pointerEvents="none">
      <polyline
        points={textOf(points.map(drawnAt))}
        fill="none"
        stroke={colour}
        strokeWidth="2.6"
        strokeDasharray="6 4"
      />
      {becomes.map(({ point, words }) => {
        const [x, y] = drawnAt(point);
        const isAtEdge = x + 160 > right;
        return (
          <g key={`${nameOfPoint(point)} ${words}`}>
            <circle cx={x} cy={y} r="5.5" fill="none" stroke={colour} strokeWidth="1.6" />
            <text
              x={isAtEdge ? x - 10 : x + 10}
              y={y + 20}
              textAnchor={isAtEdge ? "end" : "start"}
              className="font-head text-[12px] font-semibold [paint-order:stroke]"
              fill={colour}
              stroke="var(--sheet)"
              strokeWidth="4"
            >
              {words}
            </text>
          </g>
        );
      })}
    </g>
  );
}
