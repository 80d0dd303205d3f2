import { type OutputAddress, type RailwayRecord, wordsOf } from "@alderman/core";
import { Mark } from "../../../drawing/Mark.tsx";
import { Button } from "../../../kit/Button.tsx";
import { Sheets } from "../../../kit/Sheets.tsx";
import { CompareSheet } from "./CompareSheet.tsx";
import { LogSheet } from "./LogSheet.tsx";
import { StandInsSheet } from "./StandInsSheet.tsx";
import { useLive } from "./useLive.ts";

/** The railway live: what goes over its lines, the stand-ins, and what is wanted beside what they answer. */
export function LiveView({
  railwayId,
  record,
  outputs,
}: {
  railwayId: string;
  record: RailwayRecord;
  outputs: readonly OutputAddress[];
}) {
  const { line, problem, clearProblem, attempt, named } = useLive(railwayId, record, outputs);
  const shared = { railwayId, record, line, attempt };
  return (
    <div className="flex min-h-0 flex-col gap-2.5">
      {problem !== null && (
        <p role="alert" className="flex flex-none items-start gap-2 bg-red-wash px-3 py-2">
          <Mark verdict="wrong" /> <span className="flex-1">{problem}</span>
          <Button size="small" onClick={clearProblem}>
            Close
          </Button>
        </p>
      )}
      <div className="grid min-h-0 flex-1">
        <Sheets columns="minmax(0,1fr) 320px">
          <LogSheet record={record} line={line} named={named} />
          <Sheets rows="minmax(0,1fr) minmax(0,1fr)">
            <StandInsSheet {...shared} say={(message) => wordsOf(message, named)} />
            <CompareSheet {...shared} outputs={outputs} />
          </Sheets>
        </Sheets>
      </div>
    </div>
  );
}
