import {
  automaticThrows,
  blocksOnLine,
  type Finding,
  find,
  isOnStep,
  type LineLayout,
  type MarkOf,
  metresPerSecond,
  nameOfPoint,
  type RailwayRecord,
  type SignalShown,
  type StepMark,
} from "@alderman/core";
import { drawnAt, type Spot, textOf } from "./shapes.ts";
import { STEP } from "./useCamera.ts";

/** Rings around points of the line at which something is wrong that is no turnout's. */
export function LineWrong({ findings }: { findings: readonly Finding[] }) {
  return findings.flatMap(({ key, where, kept, severity }) => {
    const [, x, y] = /^(-?\d+), (-?\d+)$/.exec(where) ?? [];
    if (kept !== null || severity === "note" || x === undefined || y === undefined) return [];
    const [cx, cy] = drawnAt([Number(x), Number(y)]);
    return (
      <circle
        key={key}
        {...{ cx, cy }}
        r="17"
        fill="none"
        stroke={severity === "stop" ? "var(--red)" : "var(--amber)"}
        strokeWidth="1.6"
        strokeDasharray="4 4"
        data-wrong={where}
      />
    );
  });
}

interface Seen {
  record: RailwayRecord;
  layout: LineLayout;
  signals: readonly SignalShown[];
  occupied: ReadonlySet<string>;
  chosen: string | null;
}

/** What lies under the track: the baseboard's edges, and blocks in which a train stands or that are chosen. */
export function LineGround({ record, occupied, chosen }: Pick<Seen, "record" | "occupied" | "chosen">) {
  const hasBlocks = record.marks.some(({ what }) => what === "block");
  const { blocks } = hasBlocks ? blocksOnLine(record) : { blocks: [] };
  return (
    <g fill="none" strokeLinejoin="round">
      {record.outlines.map(({ id, what, points }) => (
        <polyline
          key={id}
          points={textOf(points.map(drawnAt))}
          stroke={chosen === id ? "var(--copper)" : "var(--rule-2)"}
          strokeWidth={what === "trunk" ? 4 : 1.4}
          strokeDasharray={OUTLINE_DASHES[what]}
          data-mark={id}
        />
      ))}
      {blocks.map((block) => {
        const isChosen = block.marks.some(({ id }) => id === chosen);
        if (!isChosen && !occupied.has(block.id)) return null;
        return block.parts.map(({ stretch, from, to }) => {
          const points = textOf(partOf(stretch.points.map(drawnAt), from, to));
          return (
            <g key={`${block.id} ${stretch.from} ${stretch.to} ${from}`}>
              {isChosen && <polyline points={points} stroke="var(--copper-wash)" strokeWidth="14" />}
              {occupied.has(block.id) && (
                // a standing train: like sleepers across the track
                <polyline
                  points={points}
                  stroke="var(--ink-2)"
                  strokeWidth="9"
                  strokeDasharray="3 4"
                  data-occupied={block.name ?? ""}
                />
              )}
            </g>
          );
        });
      })}
    </g>
  );
}

/** How a train in the chosen block comes to blades that it throws, and how far before them they lie. */
export function LineTimes({ record, chosen }: Pick<Seen, "record" | "chosen">) {
  const isBlock = chosen !== null && find(record, "mark", chosen)?.what === "block";
  if (!isBlock) return null;
  const speed = metresPerSecond(record.railway);
  return automaticThrows(record).flatMap((thrown) =>
    thrown.block.marks.some(({ id }) => id === chosen)
      ? thrown.arrivals.map((arrival) => {
          const points = arrival.way.map(({ stretch, step }): Spot => {
            const [a, b] = [stretch.points[step], stretch.points[step + 1]].map((point) => drawnAt(point ?? [0, 0]));
            return a && b ? [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2] : [0, 0];
          });
          // where the train is when the blades lie
          const share = (speed * (thrown.seconds ?? 0)) / arrival.metres;
          const there = points[Math.min(points.length - 1, Math.round(share * (points.length - 1)))];
          const [x, y] = points[0] ?? [0, 0];
          const label = find(record, "turnout", thrown.turnoutId)?.label ?? "it";
          return (
            <g key={`${thrown.control.id} ${arrival.leg} ${arrival.metres}`} data-times>
              <polyline
                points={textOf(points)}
                fill="none"
                stroke="var(--copper)"
                strokeWidth="2"
                strokeDasharray="1 4"
              />
              {there && share <= 1 && (
                <circle cx={there[0]} cy={there[1]} r="5" fill="var(--sheet)" stroke="var(--copper)" strokeWidth="2" />
              )}
              <Told
                at={[x, y + 18]}
                colour="var(--copper)"
              >{`${arrival.metres.toFixed(2)} m, ${arrival.seconds.toFixed(1)} s`}</Told>
              {there && share <= 1 && (
                <Told
                  at={[there[0] + 34, there[1] - 11]}
                  colour="var(--copper)"
                >{`${label} ${(thrown.seconds ?? 0).toFixed(1)} s`}</Told>
              )}
            </g>
          );
        })
      : [],
  );
}

/** A word beside something on the line, readable over what it lies on. */
function Told({
  at: [x, y],
  anchor = "middle",
  colour = "var(--ink)",
  children,
}: {
  at: Spot;
  anchor?: "start" | "middle" | "end";
  colour?: string;
  children: string;
}) {
  return (
    <text x={x} y={y} textAnchor={anchor} className={TEXT} fill={colour} stroke="var(--sheet)" strokeWidth="3.5">
      {children}
    </text>
  );
}

const OUTLINE_DASHES = { baseboard: undefined, "lift-out": "10 6", trunk: "1.5 5" } as const;

/** Part of a stretch, in steps from its first point. */
function partOf(points: readonly Spot[], from: number, to: number): Spot[] {
  const at = (steps: number): Spot => {
    const [a, b] = [points[Math.floor(steps)] as Spot, points[Math.ceil(steps)] as Spot];
    const share = steps - Math.floor(steps);
    return [a[0] + (b[0] - a[0]) * share, a[1] + (b[1] - a[1]) * share];
  };
  return [at(from), ...points.slice(Math.floor(from) + 1, Math.ceil(to)), at(to)];
}

/** Marks on the track: names of blocks, signals with what they show, sensors, feeders, and where boards stand. */
export function LineMarks({ record, layout, signals, occupied, chosen }: Seen) {
  const shown = new Map(signals.map((signal) => [signal.mark.id, signal]));
  const hasBlocks = record.marks.some(({ what }) => what === "block");
  const blockOf = new Map(
    (hasBlocks ? blocksOnLine(record).blocks : []).flatMap(({ id, marks }) => marks.map((mark) => [mark.id, id])),
  );
  return record.marks.map((mark) => {
    const isChosen = chosen === mark.id;
    if (mark.what === "stand") return <Stand key={mark.id} record={record} mark={mark} isChosen={isChosen} />;
    if (!isOnStep(mark)) return null;
    const at = placeOn(mark, layout);
    switch (mark.what) {
      case "block":
        return (
          <BlockPlate key={mark.id} {...{ mark, at, isChosen }} isOccupied={occupied.has(blockOf.get(mark.id) ?? "")} />
        );
      case "signal":
        return <Signal key={mark.id} {...{ mark, at, isChosen }} shown={shown.get(mark.id) ?? null} />;
      case "sensor":
        return <Sensor key={mark.id} {...{ mark, at, isChosen }} />;
      case "feeder":
        return <Feeder key={mark.id} {...{ mark, at, isChosen }} />;
      default:
        return null;
    }
  });
}

/** The middle of a mark's step, the way along it, and the side on which there is less track. */
interface At {
  middle: Spot;
  along: Spot;
  /** To the right of one who goes along. */
  right: Spot;
  /** Away from other track. */
  free: Spot;
}

function placeOn(mark: StepMark, { around }: LineLayout): At {
  const [a, b] = [drawnAt([mark.x, mark.y]), drawnAt([mark.toX, mark.toY])];
  const length = Math.hypot(b[0] - a[0], b[1] - a[1]) || 1;
  const along: Spot = [(b[0] - a[0]) / length, (b[1] - a[1]) / length];
  const right: Spot = [-along[1], along[0]];
  const [rx, ry] = [Math.round(right[0]), Math.round(right[1])];
  const isTaken = (side: number) =>
    around.has(nameOfPoint([mark.x + side * rx, mark.y + side * ry])) ||
    around.has(nameOfPoint([mark.toX + side * rx, mark.toY + side * ry]));
  // above before below, where both are as free
  const up = right[1] > 0 ? -1 : 1;
  const side = isTaken(up) && !isTaken(-up) ? -up : up;
  return {
    ...{ middle: [(a[0] + b[0]) / 2, (a[1] + b[1]) / 2], along, right },
    free: [right[0] * side, right[1] * side],
  };
}

function off([x, y]: Spot, [dx, dy]: Spot, far: number): Spot {
  return [x + dx * far, y + dy * far];
}

const TEXT = "font-mono text-[11px] font-semibold [paint-order:stroke]";

function BlockPlate({
  mark,
  at,
  isChosen,
  isOccupied,
}: {
  mark: MarkOf<"block">;
  at: At;
  isChosen: boolean;
  isOccupied: boolean;
}) {
  const width = mark.name.length * 6.7 + 10;
  // beside upright track there is the plate's width to clear
  const [x, y] = off(at.middle, at.free, Math.max(15, Math.abs(at.free[0]) * (width / 2 + 7)));
  return (
    <g data-mark={mark.id}>
      <rect
        x={x - width / 2}
        y={y - 8}
        width={width}
        height="16"
        rx="1.5"
        fill={isOccupied ? "var(--ink)" : isChosen ? "var(--copper-wash)" : "var(--sheet)"}
        stroke={isChosen ? "var(--copper)" : "var(--ink-2)"}
      />
      <text x={x} y={y + 4} textAnchor="middle" className={TEXT} fill={isOccupied ? "var(--sheet)" : "var(--ink)"}>
        {mark.name}
      </text>
    </g>
  );
}

const LAMPS = { red: "var(--red)", yellow: "var(--amber)", green: "var(--good)" } as const;

/** A post to the right of the track, with an arm that lies level at danger, slantwise at caution and upright at clear. */
function Signal({
  mark,
  at: { middle, along, right },
  isChosen,
  shown,
}: {
  mark: MarkOf<"signal">;
  at: At;
  isChosen: boolean;
  shown: SignalShown | null;
}) {
  const foot = off(middle, right, 5);
  const [x, y] = off(middle, right, 17);
  const [tx, ty] = off([x, y], right, 16);
  const aspect = shown?.aspect ?? "red";
  // an arm as one sees it who comes along: across the post, half up, up
  const arm: Spot =
    aspect === "red"
      ? right
      : aspect === "green"
        ? along
        : [(right[0] + along[0]) * 0.71, (right[1] + along[1]) * 0.71];
  return (
    <g data-mark={mark.id} data-aspect={aspect}>
      <path d={`M${foot[0]} ${foot[1]}L${x} ${y}`} stroke="var(--ink)" strokeWidth="1.6" />
      <path
        d={`M${textOf([off(foot, along, -3)])}L${textOf([off(foot, along, 6)])}`}
        stroke="var(--ink)"
        strokeWidth="1.6"
      />
      <circle
        cx={x}
        cy={y}
        r="7"
        fill={LAMPS[aspect]}
        stroke={isChosen ? "var(--copper)" : "var(--ink)"}
        strokeWidth={isChosen ? 3 : 1.4}
      />
      <path
        d={`M${textOf([off([x, y], arm, -4.5)])}L${textOf([off([x, y], arm, 4.5)])}`}
        stroke="var(--sheet)"
        strokeWidth="2.4"
        strokeLinecap="butt"
      />
      <Told at={[tx, ty + 4]} anchor={Math.abs(right[0]) < 0.3 ? "middle" : right[0] > 0 ? "start" : "end"}>
        {mark.name}
      </Told>
    </g>
  );
}

function Sensor({ mark, at: { middle, free }, isChosen }: { mark: MarkOf<"sensor">; at: At; isChosen: boolean }) {
  const [x, y] = middle;
  const [tx, ty] = off(middle, free, 14);
  return (
    <g data-mark={mark.id}>
      <polygon
        points={textOf([
          [x - 6, y],
          [x, y - 6],
          [x + 6, y],
          [x, y + 6],
        ])}
        fill={isChosen ? "var(--copper)" : "var(--sheet)"}
        stroke="var(--ink)"
        strokeWidth="1.5"
      />
      <circle cx={x} cy={y} r="1.6" fill="var(--ink)" />
      <Told at={[tx, ty + 4]}>{mark.name}</Told>
    </g>
  );
}

function Feeder({ mark, at: { middle, right }, isChosen }: { mark: MarkOf<"feeder">; at: At; isChosen: boolean }) {
  const left: Spot = [-right[0], -right[1]];
  const sides: [Spot, string][] = [
    ...(mark.rails === "right" ? [] : ([[left, mark.leftGets]] as [Spot, string][])),
    ...(mark.rails === "left" ? [] : ([[right, mark.leftGets === "J" ? "K" : "J"]] as [Spot, string][])),
  ];
  return (
    <g data-mark={mark.id}>
      {sides.map(([side, wire]) => {
        const [near, far] = [off(middle, side, 3), off(middle, side, 9)];
        const [tx, ty] = off(middle, side, 15);
        return (
          <g key={wire}>
            <path
              d={`M${near[0]} ${near[1]}L${far[0]} ${far[1]}`}
              stroke={isChosen ? "var(--copper)" : "var(--ink)"}
              strokeWidth="2.2"
            />
            <text x={tx} y={ty + 3.5} textAnchor="middle" className="font-mono text-[10px]" fill="var(--ink)">
              {wire}
            </text>
          </g>
        );
      })}
      <circle cx={middle[0]} cy={middle[1]} r="9" fill="transparent" />
    </g>
  );
}

function Stand({ record, mark, isChosen }: { record: RailwayRecord; mark: MarkOf<"stand">; isChosen: boolean }) {
  const [x, y] = drawnAt([mark.x, mark.y]);
  const half = STEP * 0.28;
  return (
    <g data-mark={mark.id}>
      <rect
        x={x - half * 1.3}
        y={y - half}
        width={half * 2.6}
        height={half * 2}
        fill={isChosen ? "var(--copper-wash)" : "var(--sheet-2)"}
        stroke={isChosen ? "var(--copper)" : "var(--ink)"}
        strokeWidth="1.4"
      />
      <path d={`M${x - half} ${y + half}v4M${x} ${y + half}v4M${x + half} ${y + half}v4`} stroke="var(--ink)" />
      <Told at={[x + half * 1.3 + 5, y + 4]} anchor="start">
        {find(record, "device", mark.deviceId)?.label ?? "?"}
      </Told>
    </g>
  );
}
