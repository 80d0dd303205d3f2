import type { Construction, Join, Position, Wish } from "@alderman/core";
import { RadioGroup } from "radix-ui";
import { PositionShape } from "../Mark.tsx";

/** Height of a button's row and width of a coil's column, pixels: small matrices are drawn large. */
function sizeFor(rows: number, columns: number): { row: number; column: number } {
  if (rows <= 8 && columns <= 12) return { row: 52, column: 43 };
  if (rows <= 14 && columns <= 24) return { row: 38, column: 34 };
  return { row: 34, column: 30 };
}
/** Room for the names of the coils, below; more where positions and currents stand there. */
const FOOT = 74;
const FOOT_OF_RAILWAY = 88;
/** Room for the labels of turnouts, above. */
const HEAD = 22;

/** What a press does to a wire of the matrix. */
export type Live = "wanted" | "astray" | undefined;

/** What a matrix of a railway says more: of its buttons, coils and parts. */
export interface MatrixWords {
  /** A row's route and, below it, its button and terminal. */
  rows: ReadonlyMap<string, { name: string; about: string }>;
  /** A coil's turnout and position, and what it gets at its peak. */
  coils: ReadonlyMap<string, { turnout: string; position: Position; amps: string }>;
}

/** The first way that current goes astray: from a coil back up into a button's row, and on to another coil. */
export interface Sneak {
  coil: string;
  button: string;
  besides: string;
}

/**
 * A diode matrix: buttons down, coils across, and at each crossing a wire, a diode or nothing. What several buttons want together
 * has a row and a column of its own.
 */
export function MatrixDrawing({
  wishes,
  construction: { joins, shared },
  pressed,
  live,
  press,
  words,
  sneak,
  isMade = () => true,
}: {
  wishes: readonly Wish[];
  construction: Construction;
  pressed: string | null;
  /** By the name of a button, a coil or a shared wire. */
  live: ReadonlyMap<string, Live>;
  press: (button: string) => void;
  words?: MatrixWords;
  sneak?: Sneak | undefined;
  /** Whether a part lies on its board already; what does not is drawn with open ends. */
  isMade?: (join: Join) => boolean;
}) {
  const buttons = wishes.map(({ button }) => button);
  const wanted = new Set(wishes.flatMap((wish) => wish.coils));
  const coils = words ? [...words.coils.keys()] : [...wanted];
  const rows = [...buttons, ...shared];
  // a wire that others feed has a column that leads down to its row
  const fed = rows.filter((row) => joins.some(({ to }) => to === row));
  const columns = [...coils, ...fed];
  const size = words ? sizeFor(rows.length, columns.length) : { row: 34, column: 30 };
  const xOf = (name: string) => (columns.indexOf(name) + 0.5) * size.column;
  const yOf = (name: string) => (rows.indexOf(name) + 0.5) * size.row;
  const [width, height] = [columns.length * size.column + 8, rows.length * size.row];
  const [head, foot] = words ? [HEAD, FOOT_OF_RAILWAY] : [0, FOOT];
  return (
    <div className="flex overflow-x-auto">
      <RadioGroup.Root
        aria-label="Press a button"
        orientation="vertical"
        value={pressed ?? ""}
        onValueChange={press}
        className="sticky left-0 z-1 flex-none bg-sheet"
        style={{ paddingTop: head }}
      >
        {rows.map((row) => (
          <div key={row} className="flex items-center gap-2 pr-2" style={{ height: size.row }}>
            {buttons.includes(row) ? (
              <RadioGroup.Item
                value={row}
                className="flex min-h-6 items-center gap-2 font-head font-semibold focus-visible:outline-offset-2"
              >
                <span className="grid size-6 flex-none place-items-center rounded-full border border-ink bg-sheet">
                  <span className={`size-3.5 rounded-full border border-ink ${pressed === row ? "bg-copper" : ""}`} />
                </span>
                {words ? (
                  <span className="grid text-left leading-[1.15]">
                    {words.rows.get(row)?.name ?? row}
                    <small className="font-mono text-[11px] font-normal text-ink-2">{words.rows.get(row)?.about}</small>
                  </span>
                ) : (
                  row
                )}
              </RadioGroup.Item>
            ) : (
              <span className="pl-8 font-mono text-small text-ink-2">{row}</span>
            )}
          </div>
        ))}
      </RadioGroup.Root>
      <svg
        width={width}
        height={height + foot + head}
        viewBox={`0 ${-head} ${width} ${height + foot + head}`}
        role="img"
        aria-label="Matrix"
        className="flex-none"
      >
        <title>Diode matrix</title>
        {words && <Turnouts coils={coils} words={words} xOf={xOf} column={size.column} height={height + foot} />}
        {rows.map((row) => (
          <line key={row} x1="0" x2={width} y1={yOf(row)} y2={yOf(row)} {...strokeOf(live.get(row))} />
        ))}
        {columns.map((column) => (
          <line
            key={column}
            x1={xOf(column)}
            x2={xOf(column)}
            {...spanOf(column, joins, yOf, coils.includes(column) ? height : yOf(column))}
            {...strokeOf(live.get(column))}
          />
        ))}
        {fed.map((row) => (
          <circle key={row} cx={xOf(row)} cy={yOf(row)} r="3" fill="var(--ink)" />
        ))}
        {joins.map((join) => (
          <Crossing
            key={`${join.from} ${join.to}`}
            join={join}
            x={xOf(join.to)}
            y={yOf(join.from)}
            isLive={live.get(join.from) !== undefined && live.get(join.to) !== undefined}
            isMade={isMade(join)}
          />
        ))}
        {coils.map((coil) => (
          <Coil key={coil} name={coil} x={xOf(coil)} y={height} live={live.get(coil)} words={words?.coils.get(coil)} />
        ))}
        {sneak && pressed !== null && <Discs {...{ sneak, xOf, yOf, height }} from={yOf(pressed)} />}
      </svg>
    </div>
  );
}

const STROKES = {
  wanted: { stroke: "var(--copper)", strokeWidth: 2.6 },
  astray: { stroke: "var(--red)", strokeWidth: 2.2, strokeDasharray: "5 3" },
} as const;

function strokeOf(live: Live) {
  return live ? STROKES[live] : { stroke: "var(--rule-2)", strokeWidth: 1 };
}

/** From where to where a column goes: from the first row that is joined to it to what it leads to, or to the last one below that. */
function spanOf(column: string, joins: readonly Join[], yOf: (row: string) => number, end: number) {
  const ys = joins.flatMap(({ from, to }) => (to === column ? [yOf(from), yOf(from) + SLANT] : []));
  return { y1: Math.min(...ys, end), y2: Math.max(...ys, end) };
}

/** How far a wire or diode goes aside and down at a crossing. */
const SLANT = 11;

/** A wire or a diode from a row to a column, slantwise; the diode's bar is on the side of the coil. */
function Crossing({
  join,
  x,
  y,
  isLive,
  isMade,
}: {
  join: Join;
  x: number;
  y: number;
  isLive: boolean;
  isMade: boolean;
}) {
  const [left, down] = [x - SLANT, y + SLANT];
  const colour = isLive ? "var(--copper)" : "var(--ink)";
  const end = isMade ? colour : "var(--sheet)";
  return (
    <g stroke={colour} fill={colour} data-join={join.with}>
      <line x1={left} y1={y} x2={x} y2={down} strokeWidth={isLive ? 2.2 : 1.5} />
      <circle cx={left} cy={y} r="2.2" fill={end} />
      <circle cx={x} cy={down} r="2.2" fill={end} />
      {join.with === "diode" && (
        <g transform={`translate(${(left + x) / 2} ${(y + down) / 2}) rotate(${join.turned ? 225 : 45})`}>
          <polygon points="-4,-4.5 -4,4.5 4,0" stroke="none" />
          <line x1="4.4" x2="4.4" y1="-5" y2="5" strokeWidth="1.8" />
        </g>
      )}
    </g>
  );
}

/** Labels of turnouts over their two coils, and a line between one turnout and the next. */
function Turnouts({
  coils,
  words,
  xOf,
  column,
  height,
}: {
  coils: readonly string[];
  words: MatrixWords;
  xOf: (name: string) => number;
  column: number;
  height: number;
}) {
  const own = new Map<string, string[]>();
  for (const coil of coils) {
    const label = words.coils.get(coil)?.turnout ?? coil;
    own.set(label, [...(own.get(label) ?? []), coil]);
  }
  return [...own].map(([label, those]) => {
    const xs = those.map(xOf);
    const left = Math.min(...xs) - column / 2;
    return (
      <g key={label}>
        <line x1={left} x2={left} y1={4 - HEAD} y2={height} stroke="var(--rule)" strokeWidth="1" />
        <text
          x={(Math.min(...xs) + Math.max(...xs)) / 2}
          y={14 - HEAD}
          textAnchor="middle"
          className="font-head text-[13px] font-semibold"
          fill="var(--ink)"
        >
          {label}
        </text>
      </g>
    );
  });
}

/** Numbers along the first way that current goes astray. */
function Discs({
  sneak: { coil, button, besides },
  xOf,
  yOf,
  from,
  height,
}: {
  sneak: Sneak;
  xOf: (name: string) => number;
  yOf: (name: string) => number;
  from: number;
  height: number;
}) {
  const places: [x: number, y: number][] = [
    [12, from],
    [xOf(coil), (from + yOf(button)) / 2 + SLANT],
    [(xOf(coil) + xOf(besides)) / 2 - SLANT, yOf(button)],
    [xOf(besides), (yOf(button) + height) / 2 + SLANT],
  ];
  return places.map(([x, y], index) => (
    <g key={`${x} ${y}`}>
      <circle cx={x} cy={y} r="8.5" fill="var(--red)" />
      <text x={x} y={y + 4} textAnchor="middle" className="font-mono text-[11px] font-bold" fill="var(--sheet)">
        {index + 1}
      </text>
    </g>
  ));
}

function Coil({
  name,
  x,
  y,
  live,
  words,
}: {
  name: string;
  x: number;
  y: number;
  live: Live;
  words: { position: Position; amps: string } | undefined;
}) {
  const colour = live === "astray" ? "var(--red)" : live ? "var(--copper)" : "var(--ink)";
  return (
    <g data-coil={name} data-live={live ?? "none"}>
      <rect
        x={x - 8}
        y={y + 2}
        width="16"
        height="24"
        fill={live === "astray" ? "var(--red-wash)" : live ? "var(--copper-wash)" : "var(--sheet)"}
        stroke={colour}
      />
      <path
        d={`M${x} ${y + 4}c7 1 7 5 0 5c7 1 7 5 0 5c7 1 7 5 0 5c7 1 7 5 0 5`}
        fill="none"
        stroke={colour}
        strokeWidth="1.2"
      />
      {live === "astray" && (
        <path d={`M${x - 5} ${y + 8}l10 12m0 -12l-10 12`} stroke="var(--red)" strokeWidth="2" fill="none" />
      )}
      {words ? (
        <>
          <g transform={`translate(${x} ${y + 42}) scale(0.9)`}>
            <PositionShape position={words.position} filled={live !== undefined} />
          </g>
          <text x={x} y={y + 70} textAnchor="middle" className="font-mono text-[11px] font-semibold" fill={colour}>
            {words.amps}
          </text>
        </>
      ) : (
        <text
          transform={`translate(${x + 4} ${y + 32}) rotate(90)`}
          className="font-mono text-[11px] font-semibold"
          fill={colour}
        >
          {name.slice(0, 7)}
        </text>
      )}
    </g>
  );
}
