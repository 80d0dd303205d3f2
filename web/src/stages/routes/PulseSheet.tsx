import type { RoutePress } from "@alderman/core";
import { Mark } from "../../drawing/Mark.tsx";
import { Sheet, SheetBody } from "../../kit/Sheet.tsx";
import { PULSE_CURVES, TimeChart } from "../../kit/TimeChart.tsx";

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
  return (
    <Sheet title={`Pulse of ${name}`} about={`${press.volts.toFixed(1)} V, ${press.stored.toFixed(2)} J`}>
      <SheetBody label="The pulse" still className="grid content-start gap-1.5 p-2">
        <TimeChart
          label={`From ${press.volts.toFixed(1)} V down; the coil that gets least peaks at ${Math.max(...press.curve.map(({ amps }) => amps), 0).toFixed(1)} A.`}
          className="h-40"
          points={press.curve}
          time={{ key: "ms", title: "ms after the press", write: (ms) => String(Math.round(ms)) }}
          curves={PULSE_CURVES}
          mark={{ at: wanted, text: `${wanted.toFixed(0)} ms wanted` }}
        />
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
