import {
  amps,
  applySchool,
  type Compared,
  count,
  type EditGroup,
  list,
  type RailwayRecord,
  SCHOOLS,
  type Thread,
  touchedWords,
  type Zone,
} from "@alderman/core";
import { useEffect, useMemo, useState } from "react";
import { Planning } from "../../derivation/plan.ts";
import { Mark } from "../../drawing/Mark.tsx";
import type { DataColumn } from "../../kit/BodyRow.tsx";
import { Button } from "../../kit/Button.tsx";
import { DataTable } from "../../kit/DataTable.tsx";
import { AlertDialog } from "../../kit/Dialog.tsx";
import { Progress } from "../../kit/Progress.tsx";
import { Segmented } from "../../kit/Segmented.tsx";
import { useRecord } from "../../session/hooks.ts";
import { useEdit } from "../../session/useEdit.ts";

type Scope = "turnout" | "zone" | "all";

/** The schools of practice side by side for one turnout, its zone or the whole railway. */
export function SchoolsPanel({ thread }: { thread: Thread }) {
  const record = useRecord();
  const act = useEdit();
  const [scope, setScope] = useState<Scope>("turnout");
  const zone = record?.zones.find(({ id }) => id === thread.turnout.zoneId);
  const ids = scopeOf(scope, thread, zone, record?.turnouts ?? []);
  const { found, refused } = useCompared(ids);
  const [wanted, setWanted] = useState<string | null>(null);
  if (!record) return null;
  const columns = columnsFor(record.railway.currency, setWanted);
  const school = found.find(({ schoolId }) => schoolId === wanted);
  return (
    <div className="grid gap-1 pb-3">
      <div className="flex flex-wrap items-center gap-2 px-2.5 pt-2">
        <Segmented
          size="small"
          label="For"
          value={scope}
          segments={[
            { value: "turnout", text: thread.label },
            { value: "zone", text: zone?.label ?? "no zone", disabled: !zone },
            { value: "all", text: "all" },
          ]}
          onChange={setScope}
        />
        <span className="text-small text-ink-2">
          {count(ids.length, "turnout")}; what is to be bought beyond what is there, at rough prices; wires and currents
          of these turnouts by themselves.
        </span>
      </div>
      {school && (
        <ChooseSchool
          record={record}
          school={school}
          ids={ids}
          choose={(group) => {
            act(group);
            setWanted(null);
          }}
          close={() => setWanted(null)}
        />
      )}
      <DataTable
        flowing
        label="Schools of practice"
        items={found}
        columns={columns}
        idOf={({ schoolId }) => schoolId}
        below={(school) => <SchoolWords school={school} />}
      />
      {refused.map((why) => (
        <p key={why} role="alert" className="mx-2.5 bg-red-wash px-3 py-2">
          <Mark verdict="wrong" /> {why}
        </p>
      ))}
      {refused.length === 0 && found.length < SCHOOLS.length && (
        <div role="status" className="grid gap-1 px-2.5 text-small text-ink-2">
          {found.length} of {SCHOOLS.length} schools worked out ...
          <Progress label="Schools worked out" share={found.length / SCHOOLS.length} />
        </div>
      )}
    </div>
  );
}

/** Most changes that are listed before a school is chosen. */
const LISTED = 12;

/** What a school would change, before it is chosen. */
function ChooseSchool({
  record,
  school,
  ids,
  choose,
  close,
}: {
  record: RailwayRecord;
  school: Compared;
  ids: readonly string[];
  choose: (group: EditGroup) => void;
  close: () => void;
}) {
  const group = useMemo(() => applySchool(record, school.schoolId, ids), [record, school.schoolId, ids]);
  const touched = useMemo(() => touchedWords(record, group.edits), [record, group]);
  return (
    <AlertDialog
      title={`${school.name}?`}
      about="Addresses, notes, and lamps that can still be lit stay. Undo brings everything back."
      close={close}
      actions={
        <Button look="best" onClick={() => choose(group)}>
          Choose it
        </Button>
      }
    >
      <ul aria-label="What changes" className="max-h-[40vh] overflow-auto text-small">
        {touched.slice(0, LISTED).map(({ what, from, to }) => (
          <li key={`${what} ${from} ${to}`}>
            <b className="mono">{what}</b>: <span className="quiet">{from}</span> → {to}
          </li>
        ))}
        {touched.length > LISTED && <li className="quiet">and {touched.length - LISTED} more changes</li>}
      </ul>
    </AlertDialog>
  );
}

/** What each school means for some turnouts, one after the other as they are worked out, and why some could not be. */
function useCompared(ids: readonly string[]): { found: readonly Compared[]; refused: readonly string[] } {
  const record = useRecord();
  const [found, setFound] = useState<readonly Compared[]>([]);
  const [refused, setRefused] = useState<readonly string[]>([]);
  const key = ids.join();
  // biome-ignore lint/correctness/useExhaustiveDependencies: `key` stands for `ids`
  useEffect(() => {
    if (!record) return;
    const planning = new Planning();
    let stopped = false;
    setFound([]);
    setRefused([]);
    void (async () => {
      for (const { id } of SCHOOLS) {
        const answer = await planning.compare(record, id, ids);
        if (stopped) return;
        if ("done" in answer) setFound((known) => [...known, answer.done]);
        else setRefused((known) => [...new Set([...known, answer.refused])]);
      }
    })();
    return () => {
      stopped = true;
      planning.stop();
    };
  }, [record, key]);
  return { found, refused };
}

function scopeOf(
  scope: Scope,
  { turnout, followers }: Thread,
  zone: Zone | undefined,
  turnouts: readonly { id: string; zoneId: string | null }[],
): string[] {
  if (scope === "turnout") return [turnout, ...followers].map(({ id }) => id);
  return turnouts.filter(({ zoneId }) => scope === "all" || zoneId === zone?.id).map(({ id }) => id);
}

function columnsFor(currency: string, choose: (schoolId: string) => void): DataColumn<Compared>[] {
  return [
    { id: "school", title: "School", wraps: true, value: ({ name }) => name, cell: ({ name }) => <b>{name}</b> },
    { id: "cost", title: currency, figures: true, value: ({ cost }) => Math.round(cost) },
    { id: "wires", spare: true, title: "Wires", figures: true, value: ({ wires }) => wires },
    { id: "cores", spare: true, title: "To panel", figures: true, value: ({ cores }) => cores },
    {
      id: "joints",
      spare: true,
      title: "Joints below",
      figures: true,
      value: ({ jointsUnderneath }) => jointsUnderneath,
    },
    {
      ...{ id: "rest", spare: true, title: "At rest", figures: true, value: ({ restAmps }) => restAmps },
      cell: ({ restAmps }) => amps(restAmps),
    },
    {
      ...{ id: "worst", title: "At worst", figures: true, value: ({ worstAmps }) => worstAmps },
      cell: ({ worstAmps }) => amps(worstAmps),
    },
    {
      ...{ id: "choose", title: "Choose", untitled: true, width: 76 },
      cell: ({ schoolId, name, present }) =>
        present ? (
          <span className="text-ink-2">as it is</span>
        ) : (
          <Button size="small" onClick={() => choose(schoolId)} aria-label={`Choose: ${name}`}>
            Choose
          </Button>
        ),
    },
  ];
}

function SchoolWords({ school }: { school: Compared }) {
  const [wrong] = school.wrong;
  return (
    <>
      <span className="text-ink-2">For:</span> {school.for} <span className="text-ink-2">Against:</span>{" "}
      {school.against} <span className="text-ink-2">Without the computer:</span> {school.without}.{" "}
      {school.lamp ? `Its lamp knows ${school.lamp.words}.` : "It has no lamp."}
      {school.parts.length > 0 && (
        <div>
          <span className="text-ink-2">To buy:</span> {list(school.parts.map((part) => `${part.count} ${part.name}`))}.
        </div>
      )}
      {wrong && (
        <div>
          <Mark verdict="wrong" size={13} /> {wrong}
        </div>
      )}
    </>
  );
}
