import type { RoutePress } from "@alderman/core";
import { CartesianGrid, Line, LineChart, ReferenceLine, ResponsiveContainer, XAxis, YAxis } from "recharts";
import { Mark } from "../../drawing/Mark.tsx";
import { Sheet, SheetBody } from "../../kit/Sheet.tsx";

/** The pulse of a pressed button: volts of the unit and amps in the coil that gets least, and what each coil gets. */
export function PulseSheet({ press, name }: { press: RoutePress | null; name: string }) {
  if (!press)
    return (
      <Sheet title="The pulse">
        <p className="p-3 text-ink-2">Press the button of a route.</p>
      </Sheet>
    );
  const asked = press.coils.filter(({ isWanted }) => isWanted);
  const wanted = Math.max(...asked.map(({ leastSeconds }) => leastSeconds), 0) * 1000;
  const most = Math.max(...press.coils.map(({ joules, least }) => Math.max(joules, least * 1.5)), 0.01);
  const axis = { stroke: "var(--ink-2)", tick: { fill: "var(--ink-2)", fontSize: 11 } };
  return (
    <Sheet title={`Pulse of ${name}`} about={`${press.volts.toFixed(1)} V, ${press.stored.toFixed(2)} J`}>
      <SheetBody label="The pulse" still className="grid content-start gap-1.5 p-2">
        <div
          role="img"
          aria-label={`From ${press.volts.toFixed(1)} V down; the coil that gets least peaks at ${Math.max(...press.curve.map(({ amps }) => amps), 0).toFixed(1)} A.`}
          className="h-40"
        >
          <ResponsiveContainer>
            <LineChart data={press.curve} margin={{ top: 14, right: 0, bottom: 14, left: -14 }}>
              <CartesianGrid stroke="var(--rule)" vertical={false} />
              <XAxis
                {...axis}
                dataKey="ms"
                type="number"
                domain={[0, "dataMax"]}
                tickFormatter={(ms: number) => String(Math.round(ms))}
                label={{
                  value: "ms after the press",
                  position: "insideBottomRight",
                  offset: -8,
                  fill: "var(--ink-2)",
                  fontSize: 11,
                }}
              />
              <YAxis {...axis} yAxisId="volts" width={52} unit=" V" tickFormatter={plain} />
              <YAxis {...axis} yAxisId="amps" orientation="right" width={52} unit=" A" tickFormatter={plain} />
              <ReferenceLine
                yAxisId="volts"
                x={wanted}
                stroke="var(--ink)"
                strokeDasharray="2 3"
                label={{ value: `${wanted.toFixed(0)} ms wanted`, position: "top", fill: "var(--ink-2)", fontSize: 11 }}
              />
              <Line
                yAxisId="volts"
                dataKey="volts"
                stroke="var(--ink)"
                strokeDasharray="6 4"
                strokeWidth={1.6}
                dot={false}
                isAnimationActive={false}
              />
              <Line
                yAxisId="amps"
                dataKey="amps"
                stroke="var(--copper)"
                strokeWidth={2.4}
                dot={false}
                isAnimationActive={false}
              />
            </LineChart>
          </ResponsiveContainer>
        </div>
        <ul className="grid" aria-label="What each coil gets">
          {press.coils.map(({ key, label, isWanted, joules, least, seconds }) => {
            const isGood = isWanted ? joules >= least : joules <= least / 10;
            return (
              <li
                key={key}
                className="grid grid-cols-[52px_minmax(0,1fr)_54px_64px_18px] items-center gap-1.5 border-t border-rule py-0.5"
              >
                <b className="mono">{label}</b>
                <span className="relative block h-2.5" aria-hidden="true">
                  <span
                    className={`block h-full ${isWanted ? "bg-copper" : "bg-red"}`}
                    style={{ width: `${(100 * joules) / most}%` }}
                  />
                  <span className="absolute -top-0.5 h-3.5 w-0.5 bg-ink" style={{ left: `${(100 * least) / most}%` }} />
                </span>
                <span className="mono text-right">{joules.toFixed(2)} J</span>
                <span className="mono text-right text-small text-ink-2">
                  {(seconds * 1000).toFixed(seconds < 0.01 ? 1 : 0)} ms
                </span>
                <Mark verdict={isGood ? "good" : "wrong"} size={14} />
              </li>
            );
          })}
        </ul>
        <p className="text-small text-ink-2">
          Upright mark: the least for a firm throw. Dashed: volts of the unit; full: amps in the coil that gets least.{" "}
          {press.contactAmps.toFixed(1)} A through the button, {press.diodeAmps.toFixed(1)} A at most through a diode,
          which bears {press.surgeAmps} A.
        </p>
        {press.faults.map((fault) => (
          <p key={fault} className="flex gap-1.5 text-small">
            <Mark verdict="wrong" size={14} /> {fault}
          </p>
        ))}
      </SheetBody>
    </Sheet>
  );
}

const plain = (value: number) => String(Number(value.toPrecision(2)));
