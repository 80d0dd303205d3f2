import type { Thread } from "@alderman/core";
import { type KeyboardEvent, useEffect, useRef } from "react";
import { useLeader, useResults } from "../../derivation/hooks.ts";
import { Mark, type Verdict, verdictFor } from "../../parts/Mark.tsx";
import { useAppDispatch } from "../../store/store.ts";
import { choose } from "../../store/view.ts";
import { draggable } from "./Outputs.tsx";
import { HandGlyph, MotorGlyph } from "./smallGlyphs.tsx";

/** The turnouts with what each has, and its verdict; arrow keys choose. */
export function Roster() {
  const { overview } = useResults();
  const leader = useLeader();
  const dispatch = useAppDispatch();
  const table = useRef<HTMLTableSectionElement>(null);
  useEffect(() => {
    table.current?.querySelector(`[data-turnout="${leader}"]`)?.scrollIntoView({ block: "nearest" });
  }, [leader]);
  const onKeyDown = (event: KeyboardEvent<HTMLTableRowElement>) => {
    const step = event.key === "ArrowDown" ? 1 : event.key === "ArrowUp" ? -1 : 0;
    if (step === 0) return;
    event.preventDefault();
    const next = step === 1 ? event.currentTarget.nextElementSibling : event.currentTarget.previousElementSibling;
    if (!(next instanceof HTMLElement) || !next.dataset.turnout) return;
    dispatch(choose(next.dataset.turnout));
    next.focus();
  };
  return (
    <table className="list table-fixed" aria-label="Turnouts">
      <colgroup>
        {[74, 60, 48, 36, 36, 24].map((width, index) => (
          <col key={COLUMN_KEYS[index]} style={{ width }} />
        ))}
      </colgroup>
      <thead>
        <tr>
          <th>Turnout</th>
          <th className="!px-1">Motor</th>
          <th className="!px-1">Driver</th>
          <th className="!px-1">Ctrl</th>
          <th className="!px-1">Lamp</th>
          <th />
        </tr>
      </thead>
      <tbody ref={table}>
        {overview?.threads.map((thread) => (
          <tr
            key={thread.turnout.id}
            data-turnout={thread.turnout.id}
            aria-selected={thread.turnout.id === leader}
            tabIndex={thread.turnout.id === leader ? 0 : -1}
            className="cursor-pointer"
            onClick={() => dispatch(choose(thread.turnout.id))}
            onKeyDown={onKeyDown}
            {...draggable(thread.turnout.id)}
          >
            <td className="font-semibold !px-0 !pl-2">
              <HandGlyph hand={thread.turnout.hand} pair={thread.followers.length > 0} /> {thread.label}
            </td>
            <td className="!px-1 text-[12px]">
              {thread.motors[0] ? <MotorGlyph type={thread.motors[0].type} /> : <None />}
            </td>
            <td className="mono !px-1 text-[11.5px]">{driverText(thread) ?? <None />}</td>
            <td className="mono !px-1 text-[11.5px]">{thread.control?.device.label ?? <None />}</td>
            <td className="mono !px-1 text-[11.5px]">{thread.lamp?.device.label ?? <None />}</td>
            <td className="!pl-0 !pr-2">
              <Mark verdict={verdictOf(thread, overview)} size={15} />
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

const COLUMN_KEYS = ["turnout", "motor", "driver", "control", "lamp", "verdict"];

function None() {
  return <span className="quiet font-body">none</span>;
}

function driverText({ motors }: Thread): string | null {
  const driver = motors[0]?.driver;
  return driver ? `${driver.device.label}${driver.way === null ? "" : `-${driver.way}`}` : null;
}

/** The worst that findings say of a thread. */
export function verdictOf(
  { turnout }: Thread,
  { findings }: { findings: NonNullable<ReturnType<typeof useResults>["overview"]>["findings"] },
): Verdict {
  const own = findings.filter(({ kept, turnoutIds }) => kept === null && turnoutIds.includes(turnout.id));
  const [worst] = own;
  if (!worst) return "good";
  return worst.ruleId === "turnout-incomplete" ? "open" : verdictFor(worst.severity);
}
