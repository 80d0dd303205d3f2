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
  type RailwayRecord,
  recordFlip,
  type SenseAt,
  type Thread,
  takeOver,
  threadsOf,
} from "@alderman/core";
import { type ReactNode, useMemo, useState } from "react";
import { Mark } from "../../drawing/Mark.tsx";
import type { DataColumn } from "../../kit/BodyRow.tsx";
import { Button } from "../../kit/Button.tsx";
import { Checkbox } from "../../kit/Checkbox.tsx";
import { Choice } from "../../kit/Choice.tsx";
import { DataTable } from "../../kit/DataTable.tsx";
import { Segmented } from "../../kit/Segmented.tsx";
import { useRecord } from "../../session/hooks.ts";
import { useEdit } from "../../session/useEdit.ts";

const now = () => new Date().toISOString();

type Outcome = Ledger["outcomes"][number];

/** Every place from finger to lamp where normal can turn into reverse, what follows, and what puts it right. */
export function SensePanel({ leader }: { leader: string }) {
  const record = useRecord();
  const threads = useMemo(() => (record ? threadsOf(record) : []), [record]);
  const thread = threads.find(({ turnout }) => turnout.id === leader);
  const act = useEdit();
  if (!record || !thread) return null;
  const ledger = ledgerOf(record, thread);
  if (ledger.outcomes.length === 0)
    return <p className="p-3 text-ink-2">Nothing to follow yet: {thread.label} has no motor on a driver.</p>;
  return (
    <div className="grid grid-cols-[minmax(0,4fr)_minmax(0,5fr)] items-start max-[1099px]:grid-cols-[minmax(0,1fr)]">
      <section aria-label="What it does">
        <Heading>Asked for reverse</Heading>
        <Outcomes record={record} ledger={ledger} />
        <PutRight
          advice={adviceFor(record, threads, thread)}
          flip={(link) => act(() => recordFlip(record, link, now()))}
        />
        <GuessWords thread={thread} ledger={ledger} />
      </section>
      <section aria-label="Places" className="border-l border-rule">
        <Heading>From finger to lamp</Heading>
        <Places record={record} ledger={ledger} threads={threads} />
      </section>
    </div>
  );
}

function Heading({ children }: { children: ReactNode }) {
  return <h3 className="px-2.5 pt-2 pb-0.5">{children}</h3>;
}

const OUTCOMES = { blades: "Blades of", frog: "Frog of", lamp: "Lamp" } as const;
const SEEN = [
  { value: "as asked", text: "as asked" },
  { value: "other", text: "the other way" },
] as const;

/** What blades, frogs and lamp do by the ledger, and where what was seen is said. */
function Outcomes({ record, ledger }: { record: RailwayRecord; ledger: Ledger }) {
  const act = useEdit();
  const [seen, setSeen] = useState<Record<string, boolean>>({});
  const looked = ledger.outcomes.some(({ key }) => Object.hasOwn(seen, key));
  const columns: DataColumn<Outcome>[] = [
    {
      ...{ id: "what", title: "What", wraps: true },
      cell: ({ what, label, by, wrong }) => (
        <>
          <Mark verdict={wrong ? "wrong" : "good"} size={14} /> {OUTCOMES[what]} <b className="mono">{label}</b>
          {by && <span className="text-ink-2"> by {by}</span>}
        </>
      ),
    },
    {
      ...{ id: "seen", title: "Seen", width: 190 },
      cell: ({ key, what, label }) => (
        <Segmented
          size="small"
          label={`Seen: ${what} of ${label}`}
          value={seen[key] === undefined ? null : seen[key] ? "other" : "as asked"}
          segments={SEEN}
          onChange={(value) => setSeen({ ...seen, [key]: value === "other" })}
        />
      ),
    },
  ];
  const keep = () => {
    act(() => explain(record, ledger, seen, now())?.group ?? null);
    setSeen({});
  };
  return (
    <>
      <DataTable flowing label="What it does" items={ledger.outcomes} columns={columns} idOf={({ key }) => key} />
      <div className="flex items-center gap-2 px-2.5 py-2">
        <Button className="flex-none" disabled={!looked} onClick={keep}>
          Note what was seen
        </Button>
        <span className="text-small text-ink-2">{predicted(ledger)}</span>
      </div>
    </>
  );
}

function predicted({ outcomes }: Ledger): string {
  const wrong = outcomes.filter((each) => each.wrong);
  if (wrong.length === 0) return "According to these entries, everything moves as asked.";
  return `According to these entries, ${list(wrong.map(({ what, label }) => `${what} of ${label}`))} go the other way.`;
}

/** All places that one has taught the same, over the railway. */
function alike(record: RailwayRecord, threads: readonly Thread[], { link, likely }: SenseAt): SenseAt[] {
  return threads
    .flatMap((thread) => ledgerOf(record, thread).links)
    .filter((other) => other.link === link && other.likely?.from === likely?.from && other.likely !== null);
}

const KNOWN_OPTIONS = KNOWN_FROM.map((value) => ({ value, text: value }));

/** The ledger: each place, whether it turns, and from what that is known. */
function Places({ record, ledger, threads }: { record: RailwayRecord; ledger: Ledger; threads: readonly Thread[] }) {
  const act = useEdit();
  const note = (link: SenseAt, inverts: boolean, known: KnownFrom) =>
    act(() => noteSense(record, link, inverts, known, now()));
  const columns: DataColumn<SenseAt>[] = [
    {
      ...{ id: "place", title: "Place", wraps: true },
      cell: (link) => (
        <Place link={link} take={() => act(() => takeOver(record, alike(record, threads, link), now()))} />
      ),
    },
    {
      ...{ id: "turns", title: "Turns", width: 80, wraps: true },
      cell: (link) => (
        <span className="inline-flex items-center gap-1.5">
          <Checkbox
            label={`${PLACES[link.link].name} at ${link.at} turns`}
            checked={link.inverts}
            onChange={(inverts) => note(link, inverts, link.known === "assumed" ? "seen" : link.known)}
          />
          {link.inverts ? "turns" : "no"}
        </span>
      ),
    },
    {
      ...{ id: "known", title: "Known from", width: 120, wraps: true },
      cell: (link) => (
        <Choice
          size="small"
          label={`How ${PLACES[link.link].name} at ${link.at} is known`}
          value={link.known}
          options={KNOWN_OPTIONS}
          onChange={(known) => note(link, link.inverts, known)}
        />
      ),
    },
  ];
  return (
    <DataTable
      flowing
      label="Places where normal can turn into reverse"
      items={ledger.links}
      columns={columns}
      idOf={({ key }) => key}
    />
  );
}

function Place({ link, take }: { link: SenseAt; take: () => void }) {
  const { name, find } = PLACES[link.link];
  const turned = link.flips > 0 ? `turned by hand ${link.flips === 1 ? "once" : `${link.flips} times`}` : "";
  const more = [link.note, turned].filter(Boolean).join("; ");
  return (
    <>
      {name} <b className="mono">{link.at}</b>
      {link.known === "assumed" && <div className="text-note leading-tight text-ink-2">{find}</div>}
      {more && <div className="text-note text-ink-2">{more}</div>}
      {link.likely && link.likely.inverts !== link.inverts && (
        <Button size="small" className="mt-1" onClick={take}>
          Take it to be like {link.likely.from}: {link.likely.inverts ? "turns" : "straight"}
        </Button>
      )}
    </>
  );
}

/** What puts it right, the fewest flips first. */
function PutRight({ advice, flip }: { advice: Advice; flip: (link: SenseAt) => void }) {
  const [best] = advice.plan;
  if (!best) return null;
  const others = advice.singles.filter(({ link }) => link.key !== best.link.key);
  return (
    <div className="px-2.5 pb-2">
      <h3>To put it right</h3>
      {advice.plan.length > 1 && <p className="text-small text-ink-2">It takes {advice.plan.length} turns.</p>}
      <ul>
        {[...advice.plan, ...(advice.plan.length === 1 ? others : [])].map((each) => (
          <li key={each.link.key} className="flex items-start gap-2 border-t border-rule py-1.5">
            <Button
              className="flex-none"
              look={advice.plan.includes(each) ? "best" : "plain"}
              disabled={each.spoils.length > 0 && !advice.plan.includes(each)}
              onClick={() => flip(each.link)}
            >
              {each.words}
            </Button>
            <span className="text-small text-ink-2">{flipWords(each)}</span>
          </li>
        ))}
      </ul>
    </div>
  );
}

function flipWords({ minutes, stored, reset, scope, spoils }: Flip): string {
  const words = [`${minutes} min; kept ${stored}`, reset ? "a reset undoes it" : ""];
  if (scope.length > 1) words.push(`turns ${list(scope)}`);
  if (spoils.length > 0) words.push(`not useful here: ${list(spoils.slice(0, 4))} would then go wrong`);
  return `${words.filter(Boolean).join("; ")}.`;
}

/** What trying costs, and what measuring first costs. */
function GuessWords({ thread, ledger }: { thread: Thread; ledger: Ledger }) {
  const guess = guessOf([ledger]);
  if (guess.unknown === 0) return <p className="px-2.5 pb-2 text-small text-ink-2">Every place is known.</p>;
  return (
    <p className="px-2.5 pb-2 text-small text-ink-2">
      {guess.unknown} places of {thread.label} are only assumed. Trying takes about {Math.round(guess.tryMinutes)} min
      with {guess.swaps} swaps to be expected; measuring all first {guess.measureMinutes} min.
    </p>
  );
}
