import { CartesianGrid, Line, LineChart, ReferenceLine, ResponsiveContainer, XAxis, YAxis } from "recharts";

/** A curve of a chart. Volts have their axis at the left, amps at the right. */
export interface Curve {
  key: string;
  of: "volts" | "amps";
  dashed?: boolean;
}

interface Props {
  /** What it shows, in words, for those who do not see it. */
  label: string;
  className: string;
  /** Points in the order of time: the time by the name of `time`, and a value for each curve. */
  points: readonly object[];
  /** Name of the time in each point, and what is written below its axis. */
  time: { key: string; title: string; write: (value: number) => string; ticks?: number[] };
  curves: readonly Curve[];
  /** A moment that is marked. */
  mark: { at: number; text: string } | null;
}

const AXIS = { stroke: "var(--ink-2)", tick: { fill: "var(--ink-2)", fontSize: 11 } };
const TEXT = { fill: "var(--ink-2)", fontSize: 11 };
const COLOURS = { volts: "var(--ink)", amps: "var(--copper)" };
const AXES = [
  { of: "volts", unit: " V", side: "left" },
  { of: "amps", unit: " A", side: "right" },
] as const;

/** How far the words at a mark are moved aside, pixels, so that they do not stand over the figures of an axis. */
function asideOf(at: number, points: readonly object[], key: string): number {
  const last = (points.at(-1) as Record<string, number> | undefined)?.[key] ?? 0;
  return at < last / 4 ? ASIDE : at > (last * 3) / 4 ? -ASIDE : 0;
}

const ASIDE = 38;

/** Volts and amps through time. */
export function TimeChart({ label, className, points, time, curves, mark }: Props) {
  return (
    <div role="img" aria-label={label} className={className}>
      <ResponsiveContainer>
        <LineChart data={[...points]} margin={{ top: 14, right: 8, bottom: 14, left: -8 }}>
          <CartesianGrid stroke="var(--rule)" vertical={false} />
          <XAxis
            {...AXIS}
            dataKey={time.key}
            type="number"
            domain={[0, "dataMax"]}
            tickFormatter={time.write}
            {...(time.ticks ? { ticks: time.ticks } : {})}
            label={{ ...TEXT, value: time.title, position: "insideBottomRight", offset: -8 }}
          />
          {AXES.filter(({ of }) => curves.some((curve) => curve.of === of)).map(({ of, unit, side }) => (
            <YAxis
              key={of}
              {...AXIS}
              yAxisId={of}
              orientation={side}
              width={52}
              unit={unit}
              tickFormatter={(value: number) => String(Number(value.toPrecision(2)))}
            />
          ))}
          {mark && (
            <ReferenceLine
              yAxisId="volts"
              x={mark.at}
              stroke="var(--ink)"
              strokeDasharray="2 3"
              label={{ ...TEXT, value: mark.text, position: "top", dx: asideOf(mark.at, points, time.key) }}
            />
          )}
          {curves.map(({ key, of, dashed }) => (
            <Line
              key={key}
              yAxisId={of}
              dataKey={key}
              stroke={COLOURS[of]}
              strokeWidth={dashed ? 1.6 : 2.4}
              {...(dashed ? { strokeDasharray: "6 4" } : {})}
              dot={false}
              isAnimationActive={false}
            />
          ))}
        </LineChart>
      </ResponsiveContainer>
    </div>
  );
}

/** The pulse of a discharge unit: its volts dashed, amps in a coil full. */
export const PULSE_CURVES: readonly Curve[] = [
  { key: "volts", of: "volts", dashed: true },
  { key: "amps", of: "amps" },
];
