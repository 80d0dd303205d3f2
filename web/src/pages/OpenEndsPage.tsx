import {
  DEBT_KINDS,
  type Debt,
  Draft,
  find,
  freshId,
  type OpenEnd,
  openEnds,
  type RailwayRecord,
  turnoutsInOrder,
} from "@alderman/core";
import { type FormEvent, useMemo, useState } from "react";
import { Link, useParams } from "react-router";
import { NoteForm, NoteSelect, NoteText } from "../parts/NoteForm.tsx";
import { Sheet, StageMain } from "../parts/Sheet.tsx";
import { useRecord } from "../session/hooks.ts";
import { useEdit } from "../session/useEdit.ts";
import { useAppDispatch } from "../store/store.ts";
import { choose } from "../store/view.ts";
import { Facts } from "./Facts.tsx";

const now = () => new Date().toISOString();

/** What is still owed, and what the plan rests on. */
export function OpenEndsPage() {
  const record = useRecord();
  const ends = useMemo(() => (record ? openEnds(record) : []), [record]);
  if (!record) return null;
  return (
    <StageMain title="Open ends" about="What is left open, undecided or awaited; and what the plan rests on">
      <div className="grid min-h-0 grid-cols-[minmax(0,1.4fr)_minmax(0,1fr)] gap-2.5">
        <Sheet title="Left open" about={ends.length === 0 ? "nothing" : `${ends.length}, with what each blocks`}>
          <div className="scroll">
            {ends.length === 0 && (
              <p className="quiet p-3">
                Nothing is open. Note here what you end a day with: an unfilled gap, a connector awaited, a place
                undecided.
              </p>
            )}
            {ends.length > 0 && (
              <table className="list wraps" aria-label="Left open">
                <thead>
                  <tr>
                    <th>What</th>
                    <th>Blocks</th>
                    <th />
                  </tr>
                </thead>
                <tbody>
                  {ends.map((end) => (
                    <EndRow key={end.key} end={end} record={record} />
                  ))}
                </tbody>
              </table>
            )}
          </div>
          <NewDebt record={record} />
        </Sheet>
        <Facts record={record} />
      </div>
    </StageMain>
  );
}

function EndRow({ end, record }: { end: OpenEnd; record: RailwayRecord }) {
  const { railwayId } = useParams();
  const dispatch = useAppDispatch();
  const act = useEdit();
  const debt = end.debtId === null ? undefined : find(record, "debt", end.debtId);
  const done = (noted: Debt) => {
    const draft = new Draft(record);
    draft.put("debt", { ...noted, done: true });
    act(draft.group(`Done: ${noted.text}`));
  };
  return (
    <tr>
      <td>
        <span className="quiet text-[12px]">{end.kind}</span> {end.text}
      </td>
      <td className="quiet">{end.blocks}</td>
      <td className="text-right">
        {debt && (
          <button type="button" className="btn !min-h-6" onClick={() => done(debt)}>
            Done
          </button>
        )}
        {!debt && end.turnoutId && (
          <Link
            className="btn whitespace-nowrap !min-h-6"
            to={`/r/${railwayId}/equip?view=${end.key === "senses" ? "sense" : "thread"}`}
            onClick={() => dispatch(choose(end.turnoutId))}
          >
            Go there
          </Link>
        )}
      </td>
    </tr>
  );
}

/** Notes something by hand. */
function NewDebt({ record }: { record: RailwayRecord }) {
  const act = useEdit();
  const [text, setText] = useState("");
  const [blocks, setBlocks] = useState("");
  const [kind, setKind] = useState<Debt["kind"]>("open end");
  const [turnoutId, setTurnoutId] = useState("");
  const add = (event: FormEvent) => {
    event.preventDefault();
    const draft = new Draft(record);
    draft.put("debt", {
      ...{ id: freshId(record, "debt", text), kind, text: text.trim(), blocks: blocks.trim() },
      ...{ turnoutId: turnoutId || null, done: false, at: now() },
    });
    act(draft.group(`Noted: ${text.trim()}`));
    setText("");
    setBlocks("");
  };
  return (
    <NoteForm label="Note something" ready={text.trim() !== ""} add={add}>
      <NoteSelect
        label="Kind"
        value={kind}
        options={DEBT_KINDS.map((value) => ({ value, text: value }))}
        set={setKind}
      />
      <NoteText label="What is open" value={text} wide set={setText} />
      <NoteText label="What it blocks" value={blocks} set={setBlocks} />
      <NoteSelect
        label="Turnout"
        value={turnoutId}
        none="no turnout"
        options={turnoutsInOrder(record).map(({ id, label }) => ({ value: id, text: label }))}
        set={setTurnoutId}
      />
    </NoteForm>
  );
}
