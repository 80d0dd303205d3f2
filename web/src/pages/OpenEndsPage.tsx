import {
  DEBT_KINDS,
  type Debt,
  Draft,
  type Fact,
  find,
  freshId,
  type OpenEnd,
  openEnds,
  type RailwayRecord,
  restsOn,
  STANDINGS,
  threadsOf,
  turnoutsInOrder,
} from "@alderman/core";
import { type FormEvent, useMemo, useState } from "react";
import { Link, useParams } from "react-router";
import { useEdit } from "../parts/FindingCard.tsx";
import { Sheet, StageMain } from "../parts/Sheet.tsx";
import { useAppDispatch, useAppSelector } from "../store/store.ts";
import { choose } from "../store/view.ts";

const now = () => new Date().toISOString();

/** What is still owed, and what the plan rests on. */
export function OpenEndsPage() {
  const record = useAppSelector((state) => state.railway.record);
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
    <form className="flex flex-wrap gap-2 border-t border-rule px-3 py-2" onSubmit={add} aria-label="Note something">
      <select
        className="field !w-auto"
        aria-label="Kind"
        value={kind}
        onChange={(event) => setKind(event.target.value as Debt["kind"])}
      >
        {DEBT_KINDS.map((each) => (
          <option key={each}>{each}</option>
        ))}
      </select>
      <input
        className="field !w-48 flex-1"
        aria-label="What is open"
        placeholder="What is open"
        maxLength={80}
        value={text}
        onChange={(event) => setText(event.target.value)}
      />
      <input
        className="field !w-36"
        aria-label="What it blocks"
        placeholder="What it blocks"
        maxLength={80}
        value={blocks}
        onChange={(event) => setBlocks(event.target.value)}
      />
      <select
        className="field !w-auto"
        aria-label="Turnout"
        value={turnoutId}
        onChange={(event) => setTurnoutId(event.target.value)}
      >
        <option value="">no turnout</option>
        {turnoutsInOrder(record).map(({ id, label }) => (
          <option key={id} value={id}>
            {label}
          </option>
        ))}
      </select>
      <button type="submit" className="btn" disabled={text.trim() === ""}>
        Note it
      </button>
    </form>
  );
}

/** Facts with their standing. */
function Facts({ record }: { record: RailwayRecord }) {
  const act = useEdit();
  const threads = useMemo(() => threadsOf(record), [record]);
  const put = (fact: Fact, words: string) => {
    const draft = new Draft(record);
    draft.put("fact", fact);
    act(draft.group(words));
  };
  const remove = (fact: Fact) => {
    const draft = new Draft(record);
    draft.remove("fact", fact.id);
    act(draft.group(`No longer a fact: ${fact.text}`));
  };
  return (
    <Sheet title="Facts" about="heard, read in the leaflet, or measured here">
      <div className="scroll">
        {record.facts.length === 0 && (
          <p className="quiet p-3">
            Note what you were told or have read, and how far it can be relied on. A plan that rests on hearsay says so.
          </p>
        )}
        <ul>
          {record.facts.map((fact) => {
            const rest = restsOn(record, threads, fact);
            return (
              <li key={fact.id} className="flex items-start gap-2 border-b border-rule px-3 py-1.5">
                <div className="min-w-0 flex-1">
                  {fact.text}
                  <div className="quiet text-[12px]">
                    {[
                      fact.source,
                      rest.length > 0
                        ? `${rest
                            .slice(0, 5)
                            .map(({ label }) => label)
                            .join(", ")}${rest.length > 5 ? " ..." : ""} ${rest.length === 1 ? "rests" : "rest"} on it`
                        : "",
                      new Date(fact.at).toLocaleDateString(),
                    ]
                      .filter(Boolean)
                      .join("; ")}
                  </div>
                </div>
                <select
                  className="field !w-auto !min-h-6"
                  aria-label={`Standing of: ${fact.text}`}
                  value={fact.standing}
                  onChange={(event) => {
                    const standing = event.target.value as Fact["standing"];
                    put({ ...fact, standing, at: now() }, `${fact.text}: ${standing}`);
                  }}
                >
                  {STANDINGS.map((each) => (
                    <option key={each}>{each}</option>
                  ))}
                </select>
                <button
                  type="button"
                  className="btn !min-h-6"
                  aria-label={`Remove: ${fact.text}`}
                  onClick={() => remove(fact)}
                >
                  Remove
                </button>
              </li>
            );
          })}
        </ul>
      </div>
      <NewFact record={record} put={put} />
    </Sheet>
  );
}

function NewFact({ record, put }: { record: RailwayRecord; put: (fact: Fact, words: string) => void }) {
  const [text, setText] = useState("");
  const [source, setSource] = useState("");
  const [standing, setStanding] = useState<Fact["standing"]>("heard");
  const [deviceId, setDeviceId] = useState("");
  const add = (event: FormEvent) => {
    event.preventDefault();
    const fact: Fact = {
      ...{ id: freshId(record, "fact", text), text: text.trim(), standing, source: source.trim(), at: now() },
      ...{ typeId: null, figure: null, deviceId: deviceId || null },
    };
    put(fact, `Noted as ${standing}: ${fact.text}`);
    setText("");
    setSource("");
  };
  return (
    <form className="flex flex-wrap gap-2 border-t border-rule px-3 py-2" onSubmit={add} aria-label="Note a fact">
      <select
        className="field !w-auto"
        aria-label="Standing"
        value={standing}
        onChange={(event) => setStanding(event.target.value as Fact["standing"])}
      >
        {STANDINGS.map((each) => (
          <option key={each}>{each}</option>
        ))}
      </select>
      <input
        className="field !w-40 flex-1"
        aria-label="Fact"
        placeholder="Fact"
        maxLength={80}
        value={text}
        onChange={(event) => setText(event.target.value)}
      />
      <input
        className="field !w-32"
        aria-label="From where"
        placeholder="From where"
        maxLength={80}
        value={source}
        onChange={(event) => setSource(event.target.value)}
      />
      <select
        className="field !w-auto"
        aria-label="About"
        value={deviceId}
        onChange={(event) => setDeviceId(event.target.value)}
      >
        <option value="">the railway</option>
        {record.devices.map(({ id, label }) => (
          <option key={id} value={id}>
            {label}
          </option>
        ))}
      </select>
      <button type="submit" className="btn" disabled={text.trim() === ""}>
        Note it
      </button>
    </form>
  );
}
