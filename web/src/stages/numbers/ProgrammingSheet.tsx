import {
  count,
  isDue,
  type OutputAddress,
  type ProgrammingStep,
  programmingOrder,
  type RailwayRecord,
  resetBoard,
} from "@alderman/core";
import { useMemo, useState } from "react";
import { Mark } from "../../drawing/Mark.tsx";
import { Accordion } from "../../kit/Accordion.tsx";
import { Button } from "../../kit/Button.tsx";
import { Sheet, SheetBody } from "../../kit/Sheet.tsx";
import { useEdit } from "../../session/useEdit.ts";
import { shortDateAndTime } from "../../tools/when.ts";
import { ProgramDialog } from "./ProgramDialog.tsx";

/** Steps that are listed at once. */
const LISTED = 12;

/** What is to be programmed, in an order in which no number is met twice; and what each board is known to answer to. */
export function ProgrammingSheet({ record, outputs }: { record: RailwayRecord; outputs: readonly OutputAddress[] }) {
  const [programs, setPrograms] = useState(false);
  const steps = useMemo(() => programmingOrder(record, outputs), [record, outputs]);
  return (
    <Sheet
      title="Programming"
      about={steps.length === 0 ? "" : `${count(steps.length, "step")} left`}
      actions={
        steps.length > 0 && (
          <Button look="best" onClick={() => setPrograms(true)}>
            Program {steps[0]?.label}
          </Button>
        )
      }
    >
      <SheetBody label="Programming">
        {steps.length === 0 && (
          <p className="p-3 text-ink-2">
            <Mark verdict="good" /> Every output answers to the address that it is to have, as far as is known.
          </p>
        )}
        <ol>
          {steps.slice(0, LISTED).map((step, index) => (
            <StepRow key={`${step.label} ${step.address}`} step={step} isNext={index === 0} />
          ))}
        </ol>
        {steps.length > LISTED && <p className="px-3 py-1 text-small text-ink-2">and {steps.length - LISTED} more</p>}
        <Boards record={record} outputs={outputs} />
      </SheetBody>
      {programs && <ProgramDialog steps={steps} outputs={outputs} close={() => setPrograms(false)} />}
    </Sheet>
  );
}

function StepRow({
  step: { label, address, isTemporary, alsoAt },
  isNext,
}: {
  step: ProgrammingStep;
  isNext: boolean;
}) {
  return (
    <li
      className={`flex items-center gap-2 border-b border-rule px-3 py-1 ${isNext ? "bg-copper-wash shadow-[inset_3px_0_0_var(--copper)]" : ""}`}
    >
      <b className="mono flex-1">{label}</b>
      {alsoAt.length > 0 && <Mark verdict="wrong" size={14} />}
      <span>
        to <b className="mono">{address}</b>
        {isTemporary && <span className="text-ink-2"> for now</span>}
      </span>
    </li>
  );
}

/** Each board with addresses: how many of its outputs answer as they are to, since when, and that it was reset. */
function Boards({ record, outputs }: { record: RailwayRecord; outputs: readonly OutputAddress[] }) {
  const act = useEdit();
  const boards = new Map<string, OutputAddress[]>();
  for (const output of outputs) boards.set(output.deviceId, [...(boards.get(output.deviceId) ?? []), output]);
  return (
    <Accordion
      items={[...boards].map(([id, own]) => {
        const label = record.devices.find((device) => device.id === id)?.label ?? id;
        return {
          id,
          title: (
            <>
              <span className="mono flex-1">{label}</span>
              <span className="font-normal">
                {own.filter((output) => !isDue(output)).length} of {own.length} answer
              </span>
            </>
          ),
          body: (
            <div className="grid gap-1.5">
              <ul className="text-small">
                {own.map((output) => (
                  <li key={output.label}>
                    <b className="mono">{output.label}</b> {answerWords(output)}
                  </li>
                ))}
              </ul>
              <div>
                <Button
                  size="small"
                  onClick={() => act(() => resetBoard(record, id, "reset or exchanged", new Date().toISOString()))}
                >
                  {label} was reset, or exchanged
                </Button>
              </div>
            </div>
          ),
        };
      })}
    />
  );
}

/** @example "answers to 3, programmed 12 May 20:14; is to have 7" */
function answerWords({ address, now, answer }: OutputAddress): string {
  const since = answer ? `${answer.how} ${shortDateAndTime(answer.at)}` : "as bought";
  const seen = answer?.seen ? ` ("${answer.seen}")` : "";
  return `answers to ${now}, ${since}${seen}${address === now ? "" : `; is to have ${address}`}`;
}
