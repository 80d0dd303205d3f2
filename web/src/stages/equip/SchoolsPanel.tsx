import { amps, applySchool, type Compared, count, list, SCHOOLS, type Thread, type Zone } from "@alderman/core";
import { useEffect, useState } from "react";
import { Planning } from "../../derivation/plan.ts";
import { Mark } from "../../parts/Mark.tsx";
import { useRecord } from "../../session/hooks.ts";
import { useEdit } from "../../session/useEdit.ts";

/** The schools of practice side by side for one turnout, its zone or the whole railway. */
export function SchoolsPanel({ thread }: { thread: Thread }) {
  const record = useRecord();
  const act = useEdit();
  const [scope, setScope] = useState<"turnout" | "zone" | "all">("turnout");
  const [found, setFound] = useState<readonly Compared[]>([]);
  const zone = record?.zones.find(({ id }) => id === thread.turnout.zoneId);
  const ids = scopeOf(scope, thread, zone, record?.turnouts ?? []);
  const key = ids.join();
  // biome-ignore lint/correctness/useExhaustiveDependencies: `key` stands for `ids`
  useEffect(() => {
    if (!record) return;
    const planning = new Planning();
    let stopped = false;
    setFound([]);
    void (async () => {
      for (const { id } of SCHOOLS) {
        const answer = await planning.compare(record, id, ids);
        if (stopped) return;
        if ("done" in answer) setFound((known) => [...known, answer.done]);
      }
    })();
    return () => {
      stopped = true;
      planning.stop();
    };
  }, [record, key]);
  if (!record) return null;
  const { currency } = record.railway;
  const choose = (schoolId: string) => act(applySchool(record, schoolId, ids));
  return (
    <div className="grid gap-1 pb-3">
      <div className="flex flex-wrap items-center gap-2 px-2.5 pt-2">
        <fieldset className="seg small" aria-label="For">
          {(["turnout", "zone", "all"] as const).map((each) => (
            <button
              key={each}
              type="button"
              aria-pressed={scope === each}
              disabled={each === "zone" && !zone}
              onClick={() => setScope(each)}
            >
              {each === "turnout" ? thread.label : each === "zone" ? (zone?.label ?? "no zone") : "all"}
            </button>
          ))}
        </fieldset>
        <span className="quiet text-[12px]">
          {count(ids.length, "turnout")}; what is to be bought beyond what is there, at rough prices; wires and currents
          of these turnouts by themselves.
        </span>
      </div>
      <table className="list wraps" aria-label="Schools of practice">
        <thead>
          <tr>
            <th>School</th>
            <th className="num head">{currency}</th>
            <th className="num head">Wires</th>
            <th className="num head">To panel</th>
            <th className="num head">Joints below</th>
            <th className="num head">At rest</th>
            <th className="num head">At worst</th>
            <th />
          </tr>
        </thead>
        <tbody>
          {found.map((each) => (
            <SchoolRow key={each.schoolId} school={each} choose={choose} />
          ))}
        </tbody>
      </table>
      {found.length < SCHOOLS.length && (
        <p role="status" className="quiet px-2.5 text-[12px]">
          {found.length} of {SCHOOLS.length} schools worked out ...
        </p>
      )}
    </div>
  );
}

function scopeOf(
  scope: "turnout" | "zone" | "all",
  { turnout, followers }: Thread,
  zone: Zone | undefined,
  turnouts: readonly { id: string; zoneId: string | null }[],
): string[] {
  if (scope === "turnout") return [turnout, ...followers].map(({ id }) => id);
  return turnouts.filter(({ zoneId }) => scope === "all" || zoneId === zone?.id).map(({ id }) => id);
}

function SchoolRow({ school, choose }: { school: Compared; choose: (schoolId: string) => void }) {
  const [wrong] = school.wrong;
  return (
    <>
      <tr className="joined">
        <td>
          <b>{school.name}</b>
        </td>
        <td className="num">{Math.round(school.cost)}</td>
        <td className="num">{school.wires}</td>
        <td className="num">{school.cores}</td>
        <td className="num">{school.jointsUnderneath}</td>
        <td className="num">{amps(school.restAmps)}</td>
        <td className="num">{amps(school.worstAmps)}</td>
        <td className="text-right">
          {school.present ? (
            <span className="quiet">as it is</span>
          ) : (
            <button
              type="button"
              className="btn !min-h-6"
              onClick={() => choose(school.schoolId)}
              aria-label={`Choose: ${school.name}`}
            >
              Choose
            </button>
          )}
        </td>
      </tr>
      <tr>
        <td colSpan={8} className="!pt-0 text-[12px]">
          <span className="quiet">For:</span> {school.for} <span className="quiet">Against:</span> {school.against}{" "}
          <span className="quiet">Without the computer:</span> {school.without}.{" "}
          {school.lamp ? `Its lamp knows ${school.lamp.words}.` : "It has no lamp."}
          {school.parts.length > 0 && (
            <div>
              <span className="quiet">To buy:</span> {list(school.parts.map((part) => `${part.count} ${part.name}`))}.
            </div>
          )}
          {wrong && (
            <div>
              <Mark verdict="wrong" size={13} /> {wrong}
            </div>
          )}
        </td>
      </tr>
    </>
  );
}
