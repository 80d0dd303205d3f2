import {
  allTaught,
  type RailwayRecord,
  type SwitchSetting,
  stepDone,
  type TeachingSheet,
  type TeachingStep,
  type Thread,
  teachingSheets,
} from "@alderman/core";
import { useMemo } from "react";
import { Mark } from "../../../drawing/Mark.tsx";
import { Button } from "../../../kit/Button.tsx";
import { Segmented } from "../../../kit/Segmented.tsx";
import { Sheet, SheetBody } from "../../../kit/Sheet.tsx";
import { Tick } from "../../../kit/Tick.tsx";
import { useEdit } from "../../../session/useEdit.ts";
import { shortDateAndTime } from "../../../tools/when.ts";

/** How a node is taught by its switches, one step after the other; what is ticked is a fact with its date. */
export function TeachSheet({
  record,
  threads,
  chosen,
  choose,
}: {
  record: RailwayRecord;
  threads: readonly Thread[];
  /** The node that is shown. */
  chosen: string | null;
  choose: (deviceId: string) => void;
}) {
  const act = useEdit();
  const sheets = useMemo(() => teachingSheets(record, threads), [record, threads]);
  const sheet = sheets.find(({ deviceId }) => deviceId === chosen) ?? sheets.find(isOpen) ?? sheets[0];
  if (!sheet)
    return (
      <Sheet title="Teaching">
        <p className="p-3 text-ink-2">No output of a node is to act upon an event yet.</p>
      </Sheet>
    );
  const { deviceId, steps, done, of, hindered } = sheet;
  const tick = (step: TeachingStep) => act(() => stepDone(record, threads, deviceId, step, new Date().toISOString()));
  const next = steps.find(({ kind, doneAt }) => kind !== "choose" && doneAt === null);
  return (
    <Sheet
      title="Teaching"
      about={`${done} of ${of} taught`}
      actions={
        sheets.length > 1 && (
          <Segmented
            label="Node"
            size="small"
            value={deviceId}
            segments={sheets.slice(0, 3).map((each) => ({ value: each.deviceId, text: each.label }))}
            onChange={choose}
          />
        )
      }
    >
      <SheetBody label={`Teaching ${sheet.label}`}>
        {hindered && (
          <p className="flex items-start gap-2 border-b border-rule px-3 py-2">
            <Mark verdict="doubtful" size={15} />
            <span>Not yet: {hindered}</span>
          </p>
        )}
        <ol>
          {steps.map((step, index) => (
            <StepRow
              key={step.id}
              step={step}
              number={index + 1}
              isNext={step === next}
              {...(hindered ? {} : { tick: () => tick(step) })}
            />
          ))}
        </ol>
        {!hindered && isOpen(sheet) && (
          <div className="p-3">
            <Button
              size="small"
              onClick={() => act(() => allTaught(record, threads, deviceId, new Date().toISOString()))}
            >
              {sheet.label} is taught all of this
            </Button>
          </div>
        )}
      </SheetBody>
    </Sheet>
  );
}

function isOpen({ steps }: TeachingSheet): boolean {
  return steps.some(({ doneAt, kind }) => doneAt === null && kind !== "choose");
}

function StepRow({
  step: { kind, words, switches, doneAt },
  number,
  isNext,
  tick,
}: {
  step: TeachingStep;
  number: number;
  isNext: boolean;
  tick?: () => void;
}) {
  return (
    <li
      className={`flex items-start gap-2 border-b border-rule px-3 py-1.5 ${isNext ? "bg-copper-wash shadow-[inset_3px_0_0_var(--copper)]" : ""}`}
    >
      <span className="w-5 flex-none pt-px">
        {kind === "choose" ? null : doneAt !== null ? (
          <Mark verdict="good" size={15} />
        ) : tick ? (
          <Tick label={`Step ${number} is done`} checked={false} onChange={tick} />
        ) : (
          <Mark verdict="open" size={15} />
        )}
      </span>
      <div className="min-w-0 flex-1">
        <p className={doneAt === null ? "" : "text-ink-2"}>
          {words}
          {doneAt !== null && kind === "teach" && (
            <span className="text-small text-ink-2"> {shortDateAndTime(doneAt)}</span>
          )}
        </p>
        {kind !== "teach" && doneAt === null && <DrawnSwitches switches={switches} />}
      </div>
    </li>
  );
}

/** From one switch to the next, and the height of their row. */
const STEP = 27;

/** The switches of a node as they must stand; those that are moved for this step stand out. */
function DrawnSwitches({ switches }: { switches: readonly SwitchSetting[] }) {
  const said = switches.map(({ name, on }) => `${name} ${on ? "on" : "off"}`).join(", ");
  return (
    <svg
      className="draw mt-1 block"
      viewBox={`0 0 ${switches.length * STEP} 46`}
      width={switches.length * STEP}
      height="46"
      role="img"
      aria-label={`Switches: ${said}`}
    >
      {switches.map(({ name, on, moved }, index) => {
        const x = index * STEP + 5;
        return (
          <g key={name}>
            {moved && (
              <rect x={x - 3.5} y="13" width="20" height="32" fill="none" stroke="var(--copper)" strokeWidth="2" />
            )}
            <text className="tm" x={x + 6.5} y="10" textAnchor="middle">
              {name}
            </text>
            <rect x={x} y="16" width="13" height="26" fill="var(--sheet-2)" stroke="var(--ink)" />
            <rect x={x} y={on ? 16 : 30} width="13" height="12" fill="var(--ink)" />
          </g>
        );
      })}
    </svg>
  );
}
