import type { RailwayRecord, SignalShown } from "@alderman/core";
import { DataTable } from "../../kit/DataTable.tsx";
import type { useLineState } from "./useLineState.ts";
import { signalWords } from "./words.ts";

/** What each signal shows as the line stands, and why. */
export function SignalsSheet({
  record,
  state,
  choose,
}: {
  record: RailwayRecord;
  state: ReturnType<typeof useLineState>;
  choose: (markId: string) => void;
}) {
  return (
    <div className="grid min-h-0 flex-1">
      <DataTable<SignalShown>
        label="Signals"
        items={state.signals}
        idOf={({ mark }) => mark.id}
        onChoose={({ mark }) => choose(mark.id)}
        empty="No signal stands at the line yet. With Mark (k) click beside track."
        columns={[
          { id: "name", title: "Signal", width: 64, value: ({ mark }) => mark.name },
          { id: "shows", title: "Shows", wraps: true, cell: (signal) => signalWords(record, signal) },
          {
            ...{ id: "guards", title: "Guards", width: 150, wraps: true },
            cell: ({ blocks }) => blocks.map(({ name }) => name ?? "unnamed").join(", ") || "nothing",
          },
        ]}
      />
    </div>
  );
}
