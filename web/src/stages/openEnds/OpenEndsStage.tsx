import { DEBT_KINDS, Debt, Draft, find, freshId, type OpenEnd, openEnds, type RailwayRecord } from "@alderman/core";
import { useMemo } from "react";
import { useParams } from "react-router";
import * as z from "zod/mini";
import { StageMain } from "../../frame/StageMain.tsx";
import { Button, ButtonLink } from "../../kit/Button.tsx";
import { DataTable } from "../../kit/DataTable.tsx";
import { Sheet } from "../../kit/Sheet.tsx";
import { Sheets } from "../../kit/Sheets.tsx";
import { useRecord } from "../../session/hooks.ts";
import { useEdit } from "../../session/useEdit.ts";
import { useAppDispatch } from "../../store/store.ts";
import { choose } from "../../store/view.ts";
import { trimmed } from "../../tools/trimmed.ts";
import { Facts } from "./Facts.tsx";
import { NoteForm } from "./NoteForm.tsx";

const now = () => new Date().toISOString();

/** What is still owed, and what the plan rests on. */
export function OpenEndsStage() {
  const record = useRecord();
  const ends = useMemo(() => (record ? openEnds(record) : []), [record]);
  if (!record) return null;
  return (
    <StageMain title="Open ends" about="What is left open, undecided or awaited; and what the plan rests on">
      <Sheets columns="minmax(0,1.4fr) minmax(0,1fr)">
        <Sheet title="Left open" about={ends.length === 0 ? "nothing" : `${ends.length}, with what each blocks`}>
          <NewDebt record={record} />
          <DataTable<OpenEnd>
            label="Left open"
            keptAs="open-ends"
            items={ends}
            idOf={({ key }) => key}
            empty={
              <p className="p-3 text-ink-2">
                Nothing is open. Note here what you end a day with: an unfilled gap, a connector awaited, a place
                undecided.
              </p>
            }
            columns={[
              { id: "kind", title: "Kind", width: 90, value: ({ kind }) => kind },
              { id: "text", title: "What", wraps: true, value: ({ text }) => text },
              { id: "blocks", title: "Blocks", wraps: true, value: ({ blocks }) => blocks },
              {
                ...{ id: "go", title: "What to do", untitled: true, width: 84 },
                cell: (end) => <EndAction end={end} record={record} />,
              },
            ]}
          />
        </Sheet>
        <Facts record={record} />
      </Sheets>
    </StageMain>
  );
}

function EndAction({ end, record }: { end: OpenEnd; record: RailwayRecord }) {
  const { railwayId } = useParams();
  const dispatch = useAppDispatch();
  const act = useEdit();
  const debt = end.debtId === null ? undefined : find(record, "debt", end.debtId);
  const { turnoutId } = end;
  if (debt) {
    const done = () => {
      const draft = new Draft(record);
      draft.put("debt", { ...debt, done: true });
      return draft.group(`Done: ${debt.text}`);
    };
    return (
      <Button size="small" onClick={() => act(done)}>
        Done
      </Button>
    );
  }
  if (turnoutId === null) return null;
  return (
    <ButtonLink
      size="small"
      to={`/r/${railwayId}/equip?view=${end.key === "senses" ? "sense" : "thread"}`}
      onClick={() => dispatch(choose({ kind: "turnout", id: turnoutId }))}
    >
      Go there
    </ButtonLink>
  );
}

const NewDebtFields = z.object({
  kind: Debt.shape.kind,
  text: trimmed(Debt.shape.text),
  blocks: trimmed(Debt.shape.blocks),
  turnoutId: Debt.shape.turnoutId,
});

/** Notes something by hand. */
function NewDebt({ record }: { record: RailwayRecord }) {
  const act = useEdit();
  const turnouts = record.turnouts.map(({ id, label }) => ({ value: id, text: label }));
  return (
    <NoteForm
      label="Note something"
      schema={NewDebtFields}
      fresh={{ kind: "open end", text: "", blocks: "", turnoutId: null }}
      fields={[
        { name: "kind", label: "Kind", options: DEBT_KINDS.map((value) => ({ value, text: value })) },
        { name: "text", label: "What", wide: true },
        { name: "blocks", label: "What it blocks" },
        { name: "turnoutId", label: "About", options: turnouts, none: "the railway" },
      ]}
      add={(given) => {
        const draft = new Draft(record);
        draft.put("debt", { id: freshId(record, "debt", given.text), ...given, done: false, at: now() });
        return act(draft.group(`Noted: ${given.text}`));
      }}
    />
  );
}
