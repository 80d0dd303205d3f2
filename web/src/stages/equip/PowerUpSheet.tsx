import { movesWords, type PowerUpRow, powerUpTable, type StartOfDay, startOfDay, threadsOf } from "@alderman/core";
import { useMemo } from "react";
import { useOverview } from "../../derivation/hooks.ts";
import { Mark } from "../../drawing/Mark.tsx";
import { Awaited } from "../../findings/Checked.tsx";
import type { DataColumn } from "../../kit/BodyRow.tsx";
import { DataTable } from "../../kit/DataTable.tsx";
import { Sheet, SheetBody } from "../../kit/Sheet.tsx";
import { Sheets } from "../../kit/Sheets.tsx";
import { useRecord } from "../../session/hooks.ts";

const COLUMNS: DataColumn<PowerUpRow>[] = [
  {
    ...{ id: "device", title: "Device", wraps: true, value: ({ label }) => label },
    cell: ({ label, what }) => (
      <>
        <b className="mono">{label}</b> <span className="text-ink-2">{what}</span>
      </>
    ),
  },
  {
    ...{ id: "power", title: "After power", wraps: true, value: ({ power }) => power },
    cell: ({ power, moves, lamps }) => (
      <>
        {moves.length > 0 && <Mark verdict="doubtful" size={13} />} {power}
        {moves.length > 0 && <div className="text-small">may move {moves.join(", ")}</div>}
        {lamps.length > 0 && <div className="text-small">dark until then: {lamps.join(", ")}</div>}
      </>
    ),
  },
  { id: "short", title: "After a short on the track", wraps: true, value: ({ short }) => short },
  { id: "reset", spare: true, title: "After a reset", wraps: true, value: ({ reset }) => reset },
  { id: "computer", spare: true, title: "Computer started again", wraps: true, value: ({ computer }) => computer },
];

const START_COLUMNS: DataColumn<StartOfDay>[] = [
  { id: "by", title: "By", mono: true, value: ({ label }) => label },
  { id: "motors", title: "Motors", figures: true, value: ({ turnouts }) => turnouts },
  { id: "once", title: "At once", figures: true, value: ({ atOnce }) => atOnce },
  {
    ...{ id: "seconds", title: "Takes, s", figures: true, value: ({ seconds }) => seconds },
    cell: ({ seconds }) => seconds.toFixed(1),
  },
];

/** What each device does when power, track power or a computer comes back, and how a day begins. */
export function PowerUpSheet() {
  const record = useRecord();
  const overview = useOverview();
  const loads = overview?.coming.includes("loads") ? null : overview?.loads;
  const { rows, starts } = useMemo(() => {
    if (!record) return { rows: [], starts: [] };
    const threads = threadsOf(record);
    // without what flows at rest more would move at once than a supply can bear
    return { rows: powerUpTable(record, threads), starts: loads ? startOfDay(record, threads, loads) : [] };
  }, [record, loads]);
  const moving = rows.some(({ moves }) => moves.length > 0);
  return (
    <Sheets columns="minmax(0,1fr) 260px">
      <Sheet title="When power comes back" about="what each device does by itself">
        <p className="px-2.5 py-2">
          <Mark verdict={moving ? "doubtful" : "good"} size={15} /> {movesWords(rows)}
        </p>
        <DataTable label="When power comes back" items={rows} columns={COLUMNS} idOf={({ deviceId }) => deviceId} />
      </Sheet>
      <Sheet title="Start of day" about="every turnout set anew">
        <SheetBody still>
          <p className="px-2.5 py-2 text-ink-2">
            Before trains have power, throw every turnout once, so that blades, frogs and lamps are where the record
            says. Staggered, no supply gives more than four fifths of its rating:
          </p>
          {loads ? (
            <DataTable
              flowing
              label="Start of day"
              items={starts}
              columns={START_COLUMNS}
              idOf={({ label }) => label}
            />
          ) : (
            <Awaited />
          )}
        </SheetBody>
      </Sheet>
    </Sheets>
  );
}
