import { tickStep, ticks } from "d3-array";

/** About so many marks stand on the rule, or fewer where their figures would run into each other. */
const TICKS = [4, 3, 2];
/** Width of a figure's character, pixels. */
const CHARACTER = 6.6;

/** The rule below a reading: copper band for what passes, ink pointer for what was read. */
export function Band({
  low,
  high,
  read = null,
  width,
}: {
  low: number;
  high: number;
  read?: number | null;
  width: number;
}) {
  const middle = (low + high) / 2;
  const half = Math.max((high - low) / 2, 1e-9);
  // the band takes a third of the rule, and the rule grows until the reading stands on it
  const reach = Math.max(half * 3, read === null ? 0 : Math.abs(read - middle) * 1.12);
  const inner = width - 12;
  const x = (value: number) => 6 + ((value - (middle - reach)) / (2 * reach)) * inner;
  const scales = TICKS.map((count) => scaleOf(middle - reach, middle + reach, count));
  const roomy = scales.find(({ step, longest }) => x(step) - x(0) > (longest + 1) * CHARACTER);
  const { marks, step, write } = roomy ?? scaleOf(middle - reach, middle + reach, 1);
  return (
    <svg className="draw mt-1.5 block" width={width} height="46" aria-hidden="true">
      <rect
        x={x(low)}
        y="10"
        width={Math.max(2, x(high) - x(low))}
        height="12"
        fill="var(--copper-wash)"
        stroke="var(--copper)"
      />
      <path d={`M0 22H${width}`} stroke="var(--ink)" strokeWidth="1.2" />
      {marks.map((tick) => (
        <g key={tick}>
          <path d={`M${x(tick)} 22V30`} stroke="var(--ink)" />
          <path d={`M${x(tick + step / 2)} 22V26`} stroke="var(--ink)" strokeWidth=".8" />
          {x(tick) > 12 && x(tick) < width - 12 && (
            <text className="tm" x={x(tick)} y="42" textAnchor="middle">
              {write(tick)}
            </text>
          )}
        </g>
      ))}
      {read !== null && (
        <path
          d={`M${x(read)} 22L${x(read) - 4.5} 12H${x(read) + 4.5}Z`}
          fill={read >= low && read <= high ? "var(--ink)" : "var(--red)"}
        />
      )}
    </svg>
  );
}

/** The marks of a rule, about so many, and how their values are written. */
function scaleOf(from: number, to: number, count: number) {
  const marks = ticks(from, to, count);
  const step = tickStep(from, to, count);
  const digits = Math.max(0, Math.min(3, -Math.floor(Math.log10(step) + 1e-9)));
  const write = (value: number) => {
    const text = value.toFixed(digits);
    return Number(text) === 0 ? text.replace("-", "") : text.replace("-", "−");
  };
  return { marks, step, write, longest: Math.max(0, ...marks.map((mark) => write(mark).length)) };
}
