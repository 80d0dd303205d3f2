import type { Standing, TestStep, Thread } from "@alderman/core";
import { useState } from "react";
import { useChosenThread, useLeader, useResults } from "../../derivation/hooks.ts";
import { Mark } from "../../parts/Mark.tsx";
import { Sheet, StageMain } from "../../parts/Sheet.tsx";
import { useRecord } from "../../session/hooks.ts";
import { useAppDispatch } from "../../store/store.ts";
import { choose, probe, setMoment, setRange, throwTo } from "../../store/view.ts";
import { ThrowSelector } from "../equip/EquipStage.tsx";
import { StepRow } from "./StepRow.tsx";

/** Test sheets: what to measure on each turnout, what to expect, what was found. */
export function ProveStage() {
  const { overview, focus } = useResults();
  const thread = useChosenThread();
  const sheet = focus && thread && focus.turnoutId === thread.turnout.id ? focus.sheet : null;
  return (
    <StageMain title="Prove" about="Tests as built">
      <div className="grid min-h-0 grid-cols-[minmax(0,1fr)_260px] gap-2.5">
        {thread ? (
          <TestSheet key={thread.turnout.id} thread={thread} sheet={sheet} />
        ) : (
          <Sheet title="Test sheet">
            {overview && (
              <p className="quiet p-3">No turnouts yet. Enter them in Equip; each gets its test sheet by itself.</p>
            )}
          </Sheet>
        )}
        <Progress />
      </div>
    </StageMain>
  );
}

function TestSheet({ thread, sheet }: { thread: Thread; sheet: { step: TestStep; standing: Standing }[] | null }) {
  const [chosen, setChosen] = useState<string | null>(null);
  const dispatch = useAppDispatch();
  const firstOpen = sheet?.find(({ standing }) => standing.state === "open" || standing.state === "stale");
  const current = chosen ?? firstOpen?.step.key ?? null;
  const choose = (step: TestStep) => {
    setChosen(step.key);
    if (step.position) dispatch(throwTo({ turnoutId: step.turnoutId, position: step.position }));
    dispatch(setMoment("rest"));
    if (!step.probes || step.unit === "seen" || step.unit === "mA") return;
    const { red, black, redName, blackName } = step.probes;
    dispatch(setRange(step.unit));
    dispatch(probe({ probe: "red", end: { key: red, name: redName } }));
    dispatch(probe({ probe: "black", end: { key: black, name: blackName } }));
  };
  const next = (after: TestStep) => {
    const index = sheet?.findIndex(({ step }) => step.key === after.key) ?? -1;
    const following = sheet?.[index + 1]?.step;
    if (following) choose(following);
  };
  const of = (state: Standing["state"]) => sheet?.filter(({ standing }) => standing.state === state).length ?? 0;
  return (
    <Sheet
      title={`Test sheet ${thread.label}`}
      about={thread.turnout.name}
      actions={<ThrowSelector turnoutId={thread.turnout.id} moments={false} />}
    >
      <div className="scroll" role="list" aria-label="Steps">
        {sheet === null && <p className="quiet p-3">Being worked out ...</p>}
        {sheet?.length === 0 && (
          <p className="quiet p-3">
            {thread.label} needs a motor and a driver before there is something to test. Choose them in Equip.
          </p>
        )}
        {sheet?.map(({ step, standing }, index) => (
          <StepRow
            key={step.key}
            number={index + 1}
            step={step}
            standing={standing}
            chosen={step.key === current}
            choose={() => choose(step)}
            recorded={() => next(step)}
          />
        ))}
      </div>
      {sheet && sheet.length > 0 && (
        <div className="flex flex-wrap gap-x-4 gap-y-1 border-t border-rule-2 px-3 py-2.5">
          <span>
            <Mark verdict="good" /> {of("passed")} passed
          </span>
          <span>
            <Mark verdict="stale" /> {of("stale")} stale
          </span>
          <span>
            <Mark verdict="wrong" /> {of("failed")} failed
          </span>
          <span>
            <Mark verdict="open" /> {of("open") + of("no-change")} to read
          </span>
        </div>
      )}
    </Sheet>
  );
}

/** All turnouts with how far their sheets are. */
function Progress() {
  const { overview, proving } = useResults();
  const leader = useLeader();
  const dispatch = useAppDispatch();
  const names = useRecord()?.railway.name ?? "";
  return (
    <Sheet title="Turnouts" about={names}>
      <div className="scroll">
        <table className="list" aria-label="Progress">
          <thead>
            <tr>
              <th>Turnout</th>
              <th className="num head">Passed</th>
              <th className="num head">Stale</th>
              <th className="num head">Failed</th>
              <th />
            </tr>
          </thead>
          <tbody>
            {overview?.threads.map(({ turnout, label }) => {
              const counts = proving?.[turnout.id];
              const done = counts !== undefined && counts.steps > 0 && counts.passed === counts.steps;
              return (
                <tr
                  key={turnout.id}
                  aria-selected={turnout.id === leader}
                  className="cursor-pointer"
                  onClick={() => dispatch(choose(turnout.id))}
                >
                  <td>
                    <button type="button" className="font-semibold">
                      {label}
                    </button>
                  </td>
                  <td className="num">{counts ? `${counts.passed}/${counts.steps}` : ""}</td>
                  <td className="num">{counts?.stale || ""}</td>
                  <td className="num">{counts?.failed || ""}</td>
                  <td>
                    <Mark
                      verdict={done ? "good" : counts?.failed ? "wrong" : counts?.stale ? "stale" : "open"}
                      size={15}
                    />
                  </td>
                </tr>
              );
            })}
          </tbody>
        </table>
      </div>
    </Sheet>
  );
}
