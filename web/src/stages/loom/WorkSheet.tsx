import {
  count,
  freeNumbers,
  jointsOf,
  type LoomProgress,
  list,
  moveWires,
  progressOf,
  proposeAnew,
  screwIdOf,
  type Total,
  takeWiresOut,
  totalsOf,
  type Wire,
} from "@alderman/core";
import { Fragment, useMemo, useState } from "react";
import { useOverview } from "../../derivation/hooks.ts";
import { Clear } from "../../findings/Checked.tsx";
import { FindingCard } from "../../findings/FindingCard.tsx";
import { Accordion } from "../../kit/Accordion.tsx";
import type { DataColumn } from "../../kit/BodyRow.tsx";
import { Button } from "../../kit/Button.tsx";
import { DataTable } from "../../kit/DataTable.tsx";
import { Progress } from "../../kit/Progress.tsx";
import { Segmented } from "../../kit/Segmented.tsx";
import { Sheet, SheetBody } from "../../kit/Sheet.tsx";
import { useRecord } from "../../session/hooks.ts";
import { useEdit } from "../../session/useEdit.ts";
import { Nets } from "./Nets.tsx";
import { PARTS } from "./steps.ts";
import type { OpenThing } from "./things/thing.ts";

type View = "work" | "turnouts" | "places" | "nets" | "sums";

const VIEWS: { value: View; text: string }[] = [
  { value: "work", text: "All" },
  { value: "turnouts", text: "Turnouts" },
  { value: "places", text: "Strips" },
  { value: "nets", text: "Nets" },
  { value: "sums", text: "Sums" },
];

/** How far the work is, in all, turnout by turnout, and by strips and cables; and what is in the way. */
export function WorkSheet({ open }: { open: OpenThing }) {
  const overview = useOverview();
  const [view, setView] = useState<View>("work");
  const wires = overview?.loom.wires ?? [];
  const progress = progressOf(wires);
  return (
    <Sheet
      title="Work"
      actions={<Segmented size="small" label="Work by" value={view} segments={VIEWS} onChange={setView} />}
    >
      {view === "work" && (
        <SheetBody label="Work" still>
          <p className="px-3 pt-2 text-small">
            <b>{jointsOf(progress).of}</b> joints, <b>{progress.bench.of}</b> at the bench,{" "}
            {progress.front.of > 0 && (
              <>
                <b>{progress.front.of}</b> in front,{" "}
              </>
            )}
            <b>{progress.underneath.of}</b> underneath
          </p>
          <Parts progress={progress} />
          <InTheWay />
          <Numbers />
        </SheetBody>
      )}
      {view === "turnouts" && <ByTurnout wires={wires} open={open} />}
      {view === "places" && <ByPlace wires={wires} open={open} />}
      {view === "nets" && <Nets />}
      {view === "sums" && <Sums />}
    </Sheet>
  );
}

/** Totals, each unfolding to what it is made of. */
function Sums() {
  const overview = useOverview();
  const record = useRecord();
  const totals = useMemo(() => (record && overview ? totalsOf(record, overview.loom) : []), [record, overview]);
  const write = (count: number, unit: Total["unit"]) => (unit === "m" ? `${count.toFixed(2)} m` : String(count));
  return (
    <SheetBody label="Sums">
      <Accordion
        items={totals.map(({ id, name, sum, unit, parts }) => ({
          id,
          title: (
            <>
              <span className="flex-1">{name}</span>
              <span className="font-mono text-[12px] font-normal">{write(sum, unit)}</span>
            </>
          ),
          body: (
            <dl className="grid grid-cols-[1fr_auto] gap-x-2">
              {parts.map((part) => (
                <Fragment key={part.name}>
                  <dt>{part.name}</dt>
                  <dd className="text-right font-mono text-[12px]">{write(part.count, unit)}</dd>
                </Fragment>
              ))}
            </dl>
          ),
        }))}
      />
    </SheetBody>
  );
}

function Parts({ progress }: { progress: LoomProgress }) {
  return (
    <dl className="grid grid-cols-[1fr_auto] gap-x-2 gap-y-0.5 px-3 py-2 text-small">
      {PARTS.map(({ part, words }) => {
        const { done, of } = progress[part];
        if (part === "front" && of === 0) return null;
        return (
          <div key={part} className="contents">
            <dt>{words}</dt>
            <dd className="text-right font-mono text-[12px]">
              {done} of {of}
            </dd>
            <dd className="col-span-2 pb-1">
              <Progress label={`${words}: ${done} of ${of}`} share={of === 0 ? 0 : done / of} />
            </dd>
          </div>
        );
      })}
    </dl>
  );
}

/** What is made and fits the plan no longer, and what lies spare. */
function InTheWay() {
  const overview = useOverview();
  const record = useRecord();
  const act = useEdit();
  const findings = overview?.findings.filter(({ ruleId }) => ruleId === "made-serves-nothing") ?? [];
  const moved = useMemo(() => {
    const ids = overview?.loom.idle.flatMap(({ fact, why }) => (why === "spare" ? [] : [fact.id])) ?? [];
    return record && overview && ids.length > 1 ? moveWires(record, overview.loom, ids) : null;
  }, [record, overview]);
  const spare = overview?.loom.idle.filter(({ why }) => why === "spare") ?? [];
  return (
    <>
      {moved && (
        <p className="border-t border-rule px-3 py-1.5 text-small">
          {findings.length} made wires have no place in the plan.{" "}
          <Button size="small" onClick={() => act(moved)}>
            Move all that reach to where the plan has them
          </Button>
        </p>
      )}
      {findings.map((finding) => (
        <FindingCard key={finding.key} finding={finding} />
      ))}
      {findings.length === 0 && (
        <p className="border-t border-rule px-3 py-2 text-small text-ink-2">
          <Clear>Nothing that is made is in the way of the plan.</Clear>
        </p>
      )}
      {spare.map(({ fact, from, to }) => (
        <p key={fact.id} className="flex items-center gap-2 border-t border-rule px-3 py-1 text-small">
          <span className="flex-1">
            <b className="font-mono">W{fact.number}</b> from {from} to {to} is made and lies spare.
          </span>
          <Button
            size="small"
            onClick={() => record && act(() => takeWiresOut(record, [fact.id], new Date().toISOString()))}
          >
            Take out
          </Button>
        </p>
      ))}
    </>
  );
}

/** Numbers of wires that were taken out, and of those that are only proposed. */
function Numbers() {
  const record = useRecord();
  const act = useEdit();
  if (!record) return null;
  const out = record.wires.filter(({ outAt }) => outAt !== null);
  const gaps = hasGaps(record.wires);
  if (out.length === 0 && !gaps) return null;
  return (
    <div className="grid gap-1.5 border-t border-rule px-3 py-1.5 text-small">
      {out.length > 0 && (
        <p>
          {count(out.length, "wire")} taken out: {list(out.map(({ number }) => `W${number}`).slice(0, MOST_NAMED))}
          {out.length > MOST_NAMED && " and more"}. No other wire gets{" "}
          {out.length === 1 ? "its number" : "their numbers"}.{" "}
          <Button
            size="small"
            onClick={() =>
              act(() =>
                freeNumbers(
                  record,
                  out.map(({ id }) => id),
                ),
              )
            }
          >
            Forget {out.length === 1 ? "it" : "them"}
          </Button>
        </p>
      )}
      {gaps && (
        <p>
          Numbers have gaps. What is made or kept stays as it is.{" "}
          <Button size="small" onClick={() => act(() => proposeAnew(record))}>
            Number anew what is only proposed
          </Button>
        </p>
      )}
    </div>
  );
}

/** Wires that are named one by one. */
const MOST_NAMED = 6;

/** Whether some numbers below the highest are nobody's. */
function hasGaps(wires: readonly { number: number }[]): boolean {
  return Math.max(0, ...wires.map(({ number }) => number)) > wires.length;
}

/** A group of wires, with how far the work on them is. */
interface Row {
  id: string;
  label: string;
  wires: number;
  progress: LoomProgress;
}

const COLUMNS: DataColumn<Row>[] = [
  { id: "label", title: "Of", value: ({ label }) => label, cell: ({ label }) => <b>{label}</b> },
  { id: "wires", title: "Wires", figures: true, value: ({ wires }) => wires },
  ...(["cut", "labelled"] as const).map(
    (part): DataColumn<Row> => ({
      ...{ id: part, title: part === "cut" ? "Cut" : "Flags", figures: true },
      value: ({ progress }) => progress[part].done,
    }),
  ),
  {
    ...{ id: "joined", title: "Joints", figures: true },
    value: ({ progress }) => jointsOf(progress).done,
    cell: ({ progress }) => `${jointsOf(progress).done}/${jointsOf(progress).of}`,
  },
  { id: "tested", title: "Test", figures: true, value: ({ progress }) => progress.tested.done },
];

function rowsOf(groups: ReadonlyMap<string, { label: string; wires: Wire[] }>): Row[] {
  return [...groups].map(([id, { label, wires }]) => ({ id, label, wires: wires.length, progress: progressOf(wires) }));
}

function ByTurnout({ wires, open }: { wires: readonly Wire[]; open: OpenThing }) {
  const record = useRecord();
  const rows = useMemo(() => {
    const labels = new Map(record?.turnouts.map(({ id, label }) => [id, label]));
    return rowsOf(
      groupedBy(wires, ({ turnoutId }) => [
        [turnoutId ?? "", turnoutId === null ? "boards" : (labels.get(turnoutId) ?? "")],
      ]),
    );
  }, [wires, record?.turnouts]);
  return (
    <DataTable
      label="Work by turnout"
      items={rows}
      columns={COLUMNS}
      idOf={({ id }) => id}
      onChoose={({ id }) => id && open({ kind: "turnout", id })}
      empty={<p className="p-3 text-ink-2">No wires yet.</p>}
    />
  );
}

/** As people read numbers: P2 before P10. */
const BY_NAME = new Intl.Collator([], { numeric: true });

function ByPlace({ wires, open }: { wires: readonly Wire[]; open: OpenThing }) {
  const cables = useMemo(() => new Set(wires.flatMap(({ core }) => core?.cableId ?? [])), [wires]);
  const rows = useMemo(
    () =>
      rowsOf(
        groupedBy(wires, ({ from, to, core }) => [
          ...[from, to].flatMap(({ key, name, of }): [string, string][] =>
            of ? [] : [[screwIdOf(key), name.replace(/-\d+$/, "")]],
          ),
          ...(core ? [[core.cableId, core.cable] as [string, string]] : []),
        ]),
      ).sort((a, b) => BY_NAME.compare(a.label, b.label)),
    [wires],
  );
  return (
    <DataTable
      label="Work by strip and cable"
      items={rows}
      columns={COLUMNS}
      idOf={({ id }) => id}
      onChoose={({ id }) => open({ kind: cables.has(id) ? "cable" : "strip", id })}
      empty={<p className="p-3 text-ink-2">No strips yet.</p>}
    />
  );
}

/** Wires by what they belong to, with what that is called. */
function groupedBy(wires: readonly Wire[], keysOf: (wire: Wire) => [id: string, label: string][]) {
  const groups = new Map<string, { label: string; wires: Wire[] }>();
  for (const wire of wires) {
    for (const [id, label] of new Map(keysOf(wire))) {
      const group = groups.get(id) ?? { label, wires: [] };
      group.wires.push(wire);
      groups.set(id, group);
    }
  }
  return groups;
}
