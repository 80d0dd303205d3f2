import { movesWords, powerUpTable, startOfDay, threadsOf } from "@alderman/core";
import { useMemo } from "react";
import { useResults } from "../../derivation/hooks.ts";
import { Mark } from "../../parts/Mark.tsx";
import { Sheet } from "../../parts/Sheet.tsx";
import { useRecord } from "../../session/hooks.ts";

/** What each device does when power, track power or a computer comes back, and how a day begins. */
export function PowerUpSheet() {
  const record = useRecord();
  const { overview } = useResults();
  const { rows, starts } = useMemo(() => {
    if (!record) return { rows: [], starts: [] };
    const threads = threadsOf(record);
    return { rows: powerUpTable(record, threads), starts: startOfDay(record, threads, overview?.loads ?? []) };
  }, [record, overview?.loads]);
  const moving = rows.some(({ moves }) => moves.length > 0);
  return (
    <div className="grid min-h-0 grid-cols-[minmax(0,1fr)_260px] gap-2.5">
      <Sheet title="When power comes back" about="what each device does by itself">
        <div className="scroll">
          <p className="px-2.5 py-2">
            <Mark verdict={moving ? "doubtful" : "good"} size={15} /> {movesWords(rows)}
          </p>
          {rows.length > 0 && (
            <table className="list wraps" aria-label="When power comes back">
              <thead>
                <tr>
                  <th>Device</th>
                  <th>After power</th>
                  <th>After a short on the track</th>
                  <th>After a reset</th>
                  <th>Computer started again</th>
                </tr>
              </thead>
              <tbody>
                {rows.map((row) => (
                  <tr key={row.deviceId}>
                    <td>
                      <b className="mono">{row.label}</b> <span className="quiet">{row.what}</span>
                    </td>
                    <td>
                      {row.moves.length > 0 && <Mark verdict="doubtful" size={13} />} {row.power}
                      {row.moves.length > 0 && <div className="text-[12px]">may move {row.moves.join(", ")}</div>}
                      {row.lamps.length > 0 && (
                        <div className="text-[12px]">dark until then: {row.lamps.join(", ")}</div>
                      )}
                    </td>
                    <td>{row.short}</td>
                    <td>{row.reset}</td>
                    <td>{row.computer}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          )}
        </div>
      </Sheet>
      <Sheet title="Start of day" about="every turnout set anew">
        <div className="scroll">
          <p className="quiet px-2.5 py-2">
            Before trains have power, throw every turnout once, so that blades, frogs and lamps are where the record
            says. Staggered, no supply gives more than four fifths of its rating:
          </p>
          <table className="list" aria-label="Start of day">
            <thead>
              <tr>
                <th>By</th>
                <th className="num head">Motors</th>
                <th className="num head">At once</th>
                <th className="num head">Takes, s</th>
              </tr>
            </thead>
            <tbody>
              {starts.map(({ label, turnouts, atOnce, seconds }) => (
                <tr key={label}>
                  <td className="mono">{label}</td>
                  <td className="num">{turnouts}</td>
                  <td className="num">{atOnce}</td>
                  <td className="num">{seconds.toFixed(1)}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      </Sheet>
    </div>
  );
}
