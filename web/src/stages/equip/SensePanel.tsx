import {
  type Advice,
  adviceFor,
  explain,
  type Flip,
  guessOf,
  KNOWN_FROM,
  type KnownFrom,
  type Ledger,
  ledgerOf,
  list,
  noteSense,
  PLACES,
  recordFlip,
  type SenseAt,
  type Thread,
  takeOver,
  threadsOf,
} from "@alderman/core";
import { useMemo, useState } from "react";
import { Mark } from "../../parts/Mark.tsx";
import { useRecord } from "../../session/hooks.ts";
import { useEdit } from "../../session/useEdit.ts";

const now = () => new Date().toISOString();

/** Every place from finger to lamp where normal can turn into reverse, what follows, and what puts it right. */
export function SensePanel({ leader }: { leader: string }) {
  const record = useRecord();
  const threads = useMemo(() => (record ? threadsOf(record) : []), [record]);
  const thread = threads.find(({ turnout }) => turnout.id === leader);
  const act = useEdit();
  const [seen, setSeen] = useState<Record<string, boolean>>({});
  if (!record || !thread) return null;
  const ledger = ledgerOf(record, thread);
  if (ledger.outcomes.length === 0)
    return <p className="quiet p-3">Nothing to follow yet: {thread.label} has no motor on a driver.</p>;
  const advice = adviceFor(record, threads, thread);
  const looked = ledger.outcomes.filter(({ key }) => key in seen);
  const keep = () => {
    act(() => explain(record, ledger, seen, now())?.group ?? null);
    setSeen({});
  };
  return (
    <div className="sense">
      <section aria-label="What it does">
        <h3>Asked for reverse</h3>
        <table className="list" aria-label="What it does">
          <tbody>
            {ledger.outcomes.map((outcome) => (
              <tr key={outcome.key}>
                <td>
                  <Mark verdict={outcome.wrong ? "wrong" : "good"} size={14} /> {OUTCOMES[outcome.what]}{" "}
                  <b className="mono">{outcome.label}</b>
                  {outcome.by && <span className="quiet"> by {outcome.by}</span>}
                </td>
                <td className="text-right">
                  <fieldset className="seg small" aria-label={`Seen: ${outcome.what} of ${outcome.label}`}>
                    {([false, true] as const).map((other) => (
                      <button
                        key={String(other)}
                        type="button"
                        aria-pressed={seen[outcome.key] === other}
                        onClick={() => setSeen({ ...seen, [outcome.key]: other })}
                      >
                        {other ? "the other way" : "as asked"}
                      </button>
                    ))}
                  </fieldset>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
        <div className="flex items-center gap-2 px-2.5 py-2">
          <button type="button" className="btn flex-none" disabled={looked.length === 0} onClick={keep}>
            Note what was seen
          </button>
          <span className="quiet text-[12px]">{foretold(ledger)}</span>
        </div>
        <PutRight advice={advice} flip={(link) => act(recordFlip(record, link, now()))} />
        <GuessWords thread={thread} ledgers={[ledger]} />
      </section>
      <section aria-label="Places">
        <h3>From finger to lamp</h3>
        <table className="list wraps" aria-label="Places where normal can turn into reverse">
          <thead>
            <tr>
              <th>Place</th>
              <th>Turns</th>
              <th>Known from</th>
            </tr>
          </thead>
          <tbody>
            {ledger.links.map((link) => (
              <PlaceRow
                key={link.key}
                link={link}
                note={(inverts, known) => act(noteSense(record, link, inverts, known, now()))}
                take={() => act(takeOver(record, alike(record, threads, link), now()))}
              />
            ))}
          </tbody>
        </table>
      </section>
    </div>
  );
}

const OUTCOMES = { blades: "Blades of", frog: "Frog of", lamp: "Lamp" } as const;

function foretold({ outcomes }: Ledger): string {
  const wrong = outcomes.filter((each) => each.wrong);
  return wrong.length === 0
    ? "By this ledger everything goes as asked."
    : `By this ledger ${list(wrong.map(({ what, label }) => `${what} of ${label}`))} go the other way.`;
}

/** All places that one has taught the same, over the railway. */
function alike(
  record: Parameters<typeof ledgerOf>[0],
  threads: readonly Thread[],
  { link, likely }: SenseAt,
): SenseAt[] {
  return threads
    .flatMap((thread) => ledgerOf(record, thread).links)
    .filter((other) => other.link === link && other.likely?.from === likely?.from && other.likely !== null);
}

function PlaceRow({
  link,
  note,
  take,
}: {
  link: SenseAt;
  note: (inverts: boolean, known: KnownFrom) => void;
  take: () => void;
}) {
  const place = PLACES[link.link];
  return (
    <tr>
      <td>
        {place.name} <b className="mono">{link.at}</b>
        {link.known === "assumed" && <div className="quiet text-[11.5px] leading-tight">{place.find}</div>}
        {(link.note || link.flips > 0) && (
          <div className="quiet text-[11.5px]">
            {[link.note, link.flips > 0 ? `turned by hand ${link.flips === 1 ? "once" : `${link.flips} times`}` : ""]
              .filter(Boolean)
              .join("; ")}
          </div>
        )}
        {link.likely && link.likely.inverts !== link.inverts && (
          <button type="button" className="btn !min-h-6 mt-1" onClick={take}>
            Take it to be like {link.likely.from}: {link.likely.inverts ? "turns" : "straight"}
          </button>
        )}
      </td>
      <td className="align-top">
        <label className="flex items-center gap-1.5">
          <input
            type="checkbox"
            className="size-4 accent-[var(--copper)]"
            checked={link.inverts}
            onChange={(event) => note(event.target.checked, link.known === "assumed" ? "seen" : link.known)}
            aria-label={`${place.name} at ${link.at} turns`}
          />
          {link.inverts ? "turns" : "no"}
        </label>
      </td>
      <td className="align-top">
        <select
          className="field !w-auto !min-h-6"
          aria-label={`How ${place.name} at ${link.at} is known`}
          value={link.known}
          onChange={(event) => note(link.inverts, event.target.value as KnownFrom)}
        >
          {KNOWN_FROM.map((known) => (
            <option key={known} value={known}>
              {known}
            </option>
          ))}
        </select>
      </td>
    </tr>
  );
}

/** What puts it right, the fewest flips first. */
function PutRight({ advice, flip }: { advice: Advice; flip: (link: SenseAt) => void }) {
  const [best] = advice.plan;
  if (!best) return null;
  const others = advice.singles.filter(({ link }) => link.key !== best.link.key);
  return (
    <div className="px-2.5 pb-2">
      <h3 className="!px-0">To put it right</h3>
      {advice.plan.length > 1 && <p className="quiet text-[12px]">It takes {advice.plan.length} turns.</p>}
      <ul>
        {[...advice.plan, ...(advice.plan.length === 1 ? others : [])].map((each) => (
          <li key={each.link.key} className="flex items-start gap-2 border-t border-rule py-1.5">
            <button
              type="button"
              className={`flex-none ${advice.plan.includes(each) ? "btn go" : each.spoils.length > 0 ? "btn off" : "btn"}`}
              disabled={each.spoils.length > 0 && !advice.plan.includes(each)}
              onClick={() => flip(each.link)}
            >
              {each.words}
            </button>
            <span className="quiet text-[12px]">{flipWords(each)}</span>
          </li>
        ))}
      </ul>
    </div>
  );
}

function flipWords({ minutes, stored, reset, scope, spoils }: Flip): string {
  const words = [`${minutes} min; kept ${stored}`, reset ? "a reset undoes it" : ""];
  if (scope.length > 1) words.push(`turns ${list(scope)}`);
  if (spoils.length > 0) words.push(`no use here: it would turn ${list(spoils.slice(0, 4))} wrong`);
  return `${words.filter(Boolean).join("; ")}.`;
}

/** What trying costs, and what measuring first costs. */
function GuessWords({ thread, ledgers }: { thread: Thread; ledgers: Ledger[] }) {
  const guess = guessOf(ledgers);
  if (guess.unknown === 0) return <p className="quiet px-2.5 pb-2 text-[12px]">Every place is known.</p>;
  return (
    <p className="quiet px-2.5 pb-2 text-[12px]">
      {guess.unknown} places of {thread.label} are only assumed. Trying takes about {Math.round(guess.tryMinutes)} min
      with {guess.swaps} swaps to be expected; measuring all first {guess.measureMinutes} min.
    </p>
  );
}
