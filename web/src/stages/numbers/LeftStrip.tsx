import { leftToDo, type OutputAddress, type RailwayRecord } from "@alderman/core";
import { useMemo } from "react";
import { useEvents } from "../../derivation/useEvents.ts";
import { Mark } from "../../drawing/Mark.tsx";
import { Button } from "../../kit/Button.tsx";

/** What is left to be given, programmed, taught and set, with the next step; each leads to where it is done. */
export function LeftStrip({
  record,
  outputs,
  go,
}: {
  record: RailwayRecord;
  outputs: readonly OutputAddress[];
  go: (where: "addresses" | "bus" | "events" | "settings") => void;
}) {
  const { threads } = useEvents(record);
  const left = useMemo(() => leftToDo(record, threads, outputs), [record, threads, outputs]);
  return (
    <section aria-label="Left to do" className="flex flex-none flex-wrap items-center gap-x-2 gap-y-1 px-1">
      {left.length === 0 ? (
        <p>
          <Mark verdict="good" size={15} /> Every number is as it is wanted, as far as is known.
        </p>
      ) : (
        left.map(({ where, words, next }) => (
          <Button key={where} size="small" onClick={() => go(where)} aria-label={`${words}: ${next}`}>
            <Mark verdict="open" size={14} /> {words}
            <span className="font-normal text-ink-2 max-sm:hidden">{next}</span>
          </Button>
        ))
      )}
    </section>
  );
}
