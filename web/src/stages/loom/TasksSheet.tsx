import {
  ACTIONS,
  type Action,
  joinAt,
  list,
  needsOf,
  stockLines,
  type Task,
  tickWires,
  WORK_PLACES,
  WORK_WORDS,
  workPlan,
} from "@alderman/core";
import { type ReactNode, useMemo, useState } from "react";
import { useOverview } from "../../derivation/hooks.ts";
import { Checked } from "../../findings/Checked.tsx";
import type { DataColumn } from "../../kit/BodyRow.tsx";
import { Button } from "../../kit/Button.tsx";
import { Checkbox } from "../../kit/Checkbox.tsx";
import { DataTable } from "../../kit/DataTable.tsx";
import { Sheet } from "../../kit/Sheet.tsx";
import { useRecord } from "../../session/hooks.ts";
import { useEdit } from "../../session/useEdit.ts";

const ACTION_WORDS: Record<Action, string> = {
  cut: "cut",
  label: "flag both ends",
  bench: "joint at the bench",
  front: "joint in front",
  underneath: "joint underneath",
  test: "test",
};

/** Steps that are done to a wire as a whole. */
const STEP_OF = { cut: "cutAt", label: "labelledAt", test: "testedAt" } as const;

/** The order of work, task by task, with what is missing and how long it takes at the owner's own pace. */
export function TasksSheet({ lists, show }: { lists: ReactNode; show: (wireIds: readonly string[]) => void }) {
  const record = useRecord();
  const overview = useOverview();
  const act = useEdit();
  const [all, setAll] = useState(false);
  const plan = useMemo(() => {
    if (!record || !overview) return null;
    const lines = stockLines(record, needsOf({ record, loom: overview.loom, schematic: overview }));
    return workPlan(record, overview.loom, overview, lines);
  }, [record, overview]);
  if (!plan || !record || !overview) return null;
  const done = new Set(plan.tasks.flatMap(({ id, left }) => (left === 0 ? [id] : [])));
  const rows = plan.tasks.map((task, index) => ({
    ...task,
    number: index + 1,
    isNext: task.left > 0 && task.after.every((id) => done.has(id)),
  }));
  const columns: DataColumn<(typeof rows)[number]>[] = [
    {
      id: "number",
      title: "Place in the order",
      untitled: true,
      figures: true,
      width: 34,
      value: ({ number }) => number,
    },
    {
      ...{ id: "title", title: "Task", value: ({ title }) => title, wraps: true },
      cell: ({ title, isNext, left }) => (
        <span className={left === 0 ? "text-ink-2 line-through" : ""}>
          {isNext ? <b>{title}</b> : title}
          {isNext && <span className="text-small text-ink-2"> next</span>}
        </span>
      ),
    },
    {
      id: "place",
      hidden: true,
      title: "Where",
      value: ({ place }) => place,
      width: 88,
    },
    { id: "left", title: "Left", figures: true, value: ({ left }) => left, width: 50 },
    {
      id: "minutes",
      title: "Time",
      figures: true,
      value: ({ minutes }) => minutes,
      cell: ({ minutes }) => hours(minutes),
      width: 64,
    },
    {
      ...{ id: "missing", title: "Missing", width: 170, value: ({ missing }) => missing.length, wraps: true },
      cell: ({ missing }) =>
        missing.length === 0
          ? ""
          : `${missing.slice(0, MOST_NAMED).join(", ")}${missing.length > MOST_NAMED ? ` and ${missing.length - MOST_NAMED} more` : ""}`,
    },
    {
      ...{ id: "do", title: "What to do", untitled: true, width: 128 },
      cell: (task) =>
        task.left > 0 && (
          <span className="flex gap-1">
            <Button size="small" aria-label={`Show the wires of: ${task.title}`} onClick={() => show(task.open)}>
              Wires
            </Button>
            <Button size="small" aria-label={`Done: ${task.title}`} onClick={() => act(() => finish(task))}>
              Done
            </Button>
          </span>
        ),
    },
  ];
  /** Ticks all that is left of a task off. */
  const finish = (task: Task) => {
    const { action } = task;
    const now = new Date().toISOString();
    if (action !== "cut" && action !== "label" && action !== "test")
      return joinAt(record, overview.loom, task.open, action, now);
    return tickWires(record, overview.loom, task.open, STEP_OF[action], now);
  };
  const own = ACTIONS.filter((action) => plan.pace[action].isOwn);
  const paces = ACTIONS.map((action) => `${ACTION_WORDS[action]} ${plan.pace[action].minutes.toFixed(1)} min`).join(
    ", ",
  );
  return (
    <Sheet
      title="Order of work"
      about={list(
        WORK_PLACES.filter((place) => place !== "front" || plan.minutes.front > 0).map(
          (place) => `${hours(plan.minutes[place])} ${WORK_WORDS[place]}`,
        ),
      )}
      actions={lists}
    >
      <DataTable
        label="Order of work"
        keptAs="order-of-work"
        bar={
          <Checkbox checked={all} onChange={setAll}>
            with what is done
          </Checkbox>
        }
        items={all ? rows : rows.filter(({ left }) => left > 0)}
        columns={columns}
        idOf={({ id }) => id}
        empty={
          <p className="p-3 text-ink-2">
            <Checked>All of the loom is made and tested.</Checked>
          </p>
        }
      />
      <p className="flex-none border-t border-rule px-3 py-1.5 text-small text-ink-2">
        {own.length === 0 ? "Times are what is usual" : "Times are by your own ticks, where there are enough"}: {paces}.
      </p>
    </Sheet>
  );
}

/** Parts that are named one by one. */
const MOST_NAMED = 3;

function hours(minutes: number): string {
  const whole = Math.round(minutes);
  return whole < 60 ? `${whole} min` : `${Math.floor(whole / 60)} h ${String(whole % 60).padStart(2, "0")}`;
}
