import type { Standing, TestStep, Thread } from "@alderman/core";
import { useState } from "react";
import type { ProvingCounts } from "../../derivation/derive.worker.ts";
import { useChosenThread, useFocusResult, useLeader, useResults } from "../../derivation/hooks.ts";
import { Mark } from "../../drawing/Mark.tsx";
import type { Verdict } from "../../drawing/verdict.ts";
import { Checked } from "../../findings/Checked.tsx";
import { StageMain } from "../../frame/StageMain.tsx";
import { DataTable } from "../../kit/DataTable.tsx";
import { Sheet, SheetBody } from "../../kit/Sheet.tsx";
import { Sheets } from "../../kit/Sheets.tsx";
import { useRecord } from "../../session/hooks.ts";
import { useAppDispatch } from "../../store/store.ts";
import { choose, probe, setMoment, setRange, throwTo } from "../../store/view.ts";
import { ThrowSelector } from "../equip/ThrowSelector.tsx";
import { StepRow } from "./StepRow.tsx";

/** Test sheets: what to measure on each turnout, what to expect, what was found. */
export function ProveStage() {
  const focus = useFocusResult();
  const thread = useChosenThread();
  const sheet = focus && thread && focus.turnoutId === thread.turnout.id ? focus.sheet : null;
  return (
    <StageMain title="Prove" about="Tests as built">
      <Sheets columns="minmax(0,1fr) 280px">
        {thread ? (
          <TestSheet key={thread.turnout.id} thread={thread} sheet={sheet} />
        ) : (
          <Sheet title="Test sheet">
            <p className="p-3 text-ink-2">
              <Checked>No turnouts yet. Enter them in Equip; each gets its test sheet by itself.</Checked>
            </p>
          </Sheet>
        )}
        <Progress />
      </Sheets>
    </StageMain>
  );
}

function TestSheet({ thread, sheet }: { thread: Thread; sheet: { step: TestStep; standing: Standing }[] | null }) {
  const [chosen, setChosen] = useState<string | null>(null);
  const [typed, setTyped] = useState<Readonly<Record<string, string>>>({});
  const dispatch = useAppDispatch();
  const firstOpen = sheet?.find(({ standing }) => standing.state === "open" || standing.state === "stale");
  const current = chosen ?? firstOpen?.step.key ?? null;
  const chooseStep = (step: TestStep) => {
    setChosen(step.key);
    if (step.position) dispatch(throwTo({ turnoutId: step.turnoutId, position: step.position }));
    dispatch(setMoment("rest"));
    if (!step.probes || step.unit === "seen" || step.unit === "mA") return;
    // the meter of the dock measures with every wire on
    if (step.apart) {
      dispatch(probe({ probe: "red", end: null }));
      dispatch(probe({ probe: "black", end: null }));
      return;
    }
    const { red, black, redName, blackName } = step.probes;
    dispatch(setRange(step.unit));
    dispatch(probe({ probe: "red", end: { key: red, name: redName } }));
    dispatch(probe({ probe: "black", end: { key: black, name: blackName } }));
  };
  const next = (after: TestStep) => {
    const index = sheet?.findIndex(({ step }) => step.key === after.key) ?? -1;
    const following = sheet?.[index + 1]?.step;
    if (following) chooseStep(following);
  };
  const of = (state: Standing["state"]) => sheet?.filter(({ standing }) => standing.state === state).length ?? 0;
  return (
    <Sheet
      title={`Test sheet ${thread.label}`}
      about={thread.turnout.name}
      actions={<ThrowSelector turnoutId={thread.turnout.id} moments={false} />}
    >
      <SheetBody>
        {sheet === null && <p className="p-3 text-ink-2">Being worked out ...</p>}
        {sheet?.length === 0 && (
          <p className="p-3 text-ink-2">
            {thread.label} needs a motor and a driver before there is something to test. Choose them in Equip.
          </p>
        )}
        <div role="list" aria-label="Steps">
          {sheet?.map(({ step, standing }, index) => (
            <StepRow
              key={step.key}
              number={index + 1}
              step={step}
              standing={standing}
              chosen={step.key === current}
              // the owner went on from the step before, and types on
              entered={step.key === chosen}
              choose={() => chooseStep(step)}
              recorded={() => next(step)}
              typed={typed[step.key] ?? ""}
              keepTyped={(text) => setTyped((all) => ({ ...all, [step.key]: text }))}
            />
          ))}
        </div>
      </SheetBody>
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

type Counts = ProvingCounts[string];

/** All turnouts with how far their sheets are. */
function Progress() {
  const { overview, proving } = useResults();
  const leader = useLeader();
  const dispatch = useAppDispatch();
  const name = useRecord()?.railway.name ?? "";
  const countsOf = ({ turnout }: Thread) => proving?.[turnout.id];
  return (
    <Sheet title="Turnouts" about={name}>
      <DataTable<Thread>
        label="Progress"
        items={overview?.threads ?? []}
        idOf={({ turnout }) => turnout.id}
        chosen={leader}
        onChoose={({ turnout }) => dispatch(choose({ kind: "turnout", id: turnout.id }))}
        columns={[
          {
            ...{ id: "turnout", title: "Turnout", value: ({ label }) => label },
            cell: ({ label }) => <b className="font-semibold">{label}</b>,
          },
          {
            ...{ id: "passed", title: "Passed", figures: true, value: (thread) => countsOf(thread)?.passed ?? null },
            cell: (thread) => passedWords(countsOf(thread)),
          },
          { id: "stale", title: "Stale", figures: true, value: (thread) => countsOf(thread)?.stale || null },
          { id: "failed", title: "Failed", figures: true, value: (thread) => countsOf(thread)?.failed || null },
          {
            ...{ id: "mark", title: "Verdict", untitled: true, width: 34 },
            cell: (thread) => <Mark verdict={verdictOf(countsOf(thread))} size={15} />,
          },
        ]}
      />
    </Sheet>
  );
}

function passedWords(counts: Counts | undefined): string {
  return counts ? `${counts.passed}/${counts.steps}` : "";
}

function verdictOf(counts: Counts | undefined): Verdict {
  if (!counts) return "open";
  if (counts.steps > 0 && counts.passed === counts.steps) return "good";
  return counts.failed > 0 ? "wrong" : counts.stale > 0 ? "stale" : "open";
}
