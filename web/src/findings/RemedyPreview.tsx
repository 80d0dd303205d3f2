import { type Consequence, count, type EditGroup, RecordError, touchedWords } from "@alderman/core";
import { useEffect, useMemo, useState } from "react";
import { askConsequences } from "../derivation/hooks.ts";
import { Mark } from "../drawing/Mark.tsx";
import { useRecord } from "../session/hooks.ts";
import { useAppDispatch } from "../store/store.ts";

/** Milliseconds for which one must stay on a button before the worker is asked. */
const WAIT = 250;
/** Most changes that are listed. */
const SHOWN = 4;

/** What an edit will change, before it is made: the things, and which findings go and come. */
export function RemedyPreview({ group }: { group: EditGroup }) {
  const record = useRecord();
  const dispatch = useAppDispatch();
  const [found, setFound] = useState<{ group: EditGroup; consequence: Consequence | null } | null>(null);
  useEffect(() => {
    let gone = false;
    const timer = setTimeout(() => {
      void dispatch(askConsequences(group)).then((consequence) => !gone && setFound({ group, consequence }));
    }, WAIT);
    return () => {
      gone = true;
      clearTimeout(timer);
    };
  }, [group, dispatch]);
  const touched = useMemo(() => {
    try {
      return record ? touchedWords(record, group.edits) : [];
    } catch (error) {
      // made for a record that has moved on since; the button will say so
      if (error instanceof RecordError) return [];
      throw error;
    }
  }, [record, group]);
  const consequence = found?.group === group ? found.consequence : null;
  return (
    <div className="border-l-3 border-rule-2 bg-sheet-2 px-2.5 py-1 text-small" role="status">
      {touched.slice(0, SHOWN).map(({ what, from, to }) => (
        <div key={`${what} ${from} ${to}`}>
          <b className="mono">{what}</b>: <span className="quiet">{from}</span> → {to}
        </div>
      ))}
      {touched.length > SHOWN && <div className="quiet">and {touched.length - SHOWN} more changes</div>}
      {consequence && (
        <div>
          <span className="quiet">
            {consequence.cured.length === 0 ? "Cures nothing." : `Cures ${count(consequence.cured.length, "finding")}.`}
          </span>{" "}
          {consequence.readings.slice(0, SHOWN).map(({ label, what, from, to }) => (
            <div key={`${label} ${what}`}>
              <b className="mono">{label}</b> {what}: <span className="quiet">{from}</span> → {to}
            </div>
          ))}
          {consequence.loom.slice(0, SHOWN).map((words) => (
            <div key={words}>{words}</div>
          ))}
          {consequence.raised.slice(0, 2).map((why) => (
            <span key={why}>
              <Mark verdict="doubtful" size={12} /> New: {why}{" "}
            </span>
          ))}
        </div>
      )}
    </div>
  );
}
