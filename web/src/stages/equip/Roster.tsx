import type { Finding, Thread } from "@alderman/core";
import { memo } from "react";
import { useLeader, useOverview } from "../../derivation/hooks.ts";
import { Mark } from "../../drawing/Mark.tsx";
import { controlLabel } from "../../drawing/thread/controlWords.ts";
import { type Verdict, verdictFor } from "../../drawing/verdict.ts";
import type { DataColumn } from "../../kit/BodyRow.tsx";
import { DataTable } from "../../kit/DataTable.tsx";
import { Tip } from "../../kit/Tooltip.tsx";
import { useAppDispatch, useAppSelector } from "../../store/store.ts";
import { choose } from "../../store/view.ts";
import { HandGlyph, MotorGlyph } from "./smallGlyphs.tsx";

/** The turnouts with what each has, and its verdict; arrow keys choose. */
export const Roster = memo(function Roster() {
  const overview = useOverview();
  const failed = useAppSelector(({ derivation }) => derivation.state === "failed");
  const unfound: Verdict = failed ? "stale" : overview?.partial ? "open" : "good";
  const leader = useLeader();
  const dispatch = useAppDispatch();
  const worst = worstOf(overview?.findings ?? []);
  const columns: DataColumn<Thread>[] = [
    {
      ...{ id: "turnout", title: "Turnout", value: ({ label }) => label },
      cell: ({ label, turnout, followers }) => (
        <span className="font-semibold">
          <HandGlyph hand={turnout.hand} pair={followers.length > 0} /> {label}
        </span>
      ),
    },
    {
      ...{ id: "motor", title: "Motor", value: ({ motors }) => motors[0]?.type.short ?? null },
      cell: ({ motors: [motor] }) =>
        motor ? (
          <Named name={motor.type.name}>
            <MotorGlyph type={motor.type} />
          </Named>
        ) : (
          <None />
        ),
    },
    {
      ...{ id: "driver", title: "Driver", value: driverText },
      cell: (thread) => <Short text={driverText(thread)} name={thread.motors[0]?.driver?.type.name} />,
    },
    {
      ...{ id: "control", title: "Ctrl", value: ({ control }) => control && controlLabel(control) },
      cell: ({ control }) => <Short text={control && controlLabel(control)} name={control?.type.name} />,
    },
    {
      ...{ id: "lamp", title: "Lamp", value: lampsText },
      cell: (thread) => <Short text={lampsText(thread)} name={thread.lamps.map(({ type }) => type.name).join(", ")} />,
    },
    {
      ...{ id: "verdict", title: "Verdict", untitled: true, width: 26 },
      cell: ({ turnout }) => <Mark verdict={worst.get(turnout.id) ?? unfound} size={15} />,
    },
  ];
  return (
    <DataTable
      flowing
      label="Turnouts"
      className="[&_td]:px-1! [&_th]:px-1! [&_td:first-child]:pl-2! [&_th:first-child]:pl-2! [&_td:last-child]:pr-1.5!"
      items={overview?.threads ?? []}
      idOf={({ turnout }) => turnout.id}
      columns={columns}
      chosen={leader}
      onChoose={({ turnout }) => dispatch(choose({ kind: "turnout", id: turnout.id }))}
    />
  );
});

function Named({ name, children }: { name: string; children: React.ReactElement }) {
  return (
    <Tip text={name}>
      <span>{children}</span>
    </Tip>
  );
}

function Short({ text, name }: { text: string | null; name: string | undefined }) {
  if (text === null) return <None />;
  return (
    <Tip text={name}>
      <span className="font-mono text-[11.5px] tracking-tight">{text}</span>
    </Tip>
  );
}

function None() {
  return <span className="text-ink-2">none</span>;
}

/** Labels of a thread's lamps. */
function lampsText({ lamps }: Thread): string | null {
  return lamps.length > 0 ? lamps.map(({ device }) => device.label).join(" ") : null;
}

function driverText({ motors }: Thread): string | null {
  const driver = motors[0]?.driver;
  return driver ? `${driver.device.label}${driver.way === null ? "" : `-${driver.way}`}` : null;
}

/** The worst that findings say of each thread, by its leader; they come the gravest first. */
function worstOf(findings: readonly Finding[]): ReadonlyMap<string, Verdict> {
  const worst = new Map<string, Verdict>();
  for (const { kept, severity, ruleId, turnoutIds } of findings) {
    if (kept !== null) continue;
    const verdict = ruleId === "turnout-incomplete" ? "open" : verdictFor(severity);
    for (const id of turnoutIds) if (!worst.has(id)) worst.set(id, verdict);
  }
  return worst;
}
