import { FINDING_STAGES, type Finding, type RailwayRecord, RULES } from "@alderman/core";
import { useMemo, useRef, useState } from "react";
import { useResults } from "../derivation/hooks.ts";
import { FindingCard } from "../parts/FindingCard.tsx";
import { Sheet, StageMain } from "../parts/Sheet.tsx";
import { useFindingKeys } from "../parts/useFindingKeys.ts";
import { useRecord } from "../session/hooks.ts";

const SEVERITIES = { stop: "wrong", look: "doubtful", note: "notes", kept: "kept" } as const;
type Severity = keyof typeof SEVERITIES;
const STAGES = { equip: "Equip", loom: "Loom", numbers: "Numbers" } as const;

/** Findings shown at first; more come when asked for. */
const SHOWN = 60;

/** All findings of the railway, the gravest first, by severity, stage and place; and the rules that were looked at. */
export function FindingsSheet() {
  const { overview } = useResults();
  const record = useRecord();
  const [severity, setSeverity] = useState<Severity | null>(null);
  const [stage, setStage] = useState<Finding["stage"] | null>(null);
  const [place, setPlace] = useState("");
  const [most, setMost] = useState(SHOWN);
  const list = useRef<HTMLDivElement>(null);
  useFindingKeys(list);
  const all = useMemo(() => overview?.findings ?? [], [overview?.findings]);
  const findings = useMemo(() => {
    const inPlace = placeFilter(record, place);
    return all.filter(
      (finding) =>
        (severity === null || (finding.kept === null ? finding.severity : "kept") === severity) &&
        (stage === null || finding.stage === stage) &&
        inPlace(finding),
    );
  }, [all, record, severity, stage, place]);
  const counted = all.filter(({ kept }) => kept === null);
  const found = new Set(all.map(({ ruleId }) => ruleId));
  const filtered = findings.length !== all.length;
  return (
    <StageMain title="Findings" about="Where, why, and what can be done">
      <div className="grid min-h-0 grid-cols-[minmax(0,1fr)_300px] gap-2.5">
        <Sheet
          title="To be looked at"
          about={
            overview
              ? `${counted.length} that count, ${all.length - counted.length} kept${filtered ? `; ${findings.length} shown` : ""}`
              : "being worked out"
          }
        >
          <div className="flex flex-wrap items-center gap-2 border-b border-rule px-3 py-1.5">
            <Choice label="Severity" names={SEVERITIES} chosen={severity} choose={setSeverity} />
            <Choice
              label="Stage"
              names={Object.fromEntries(FINDING_STAGES.map((each) => [each, STAGES[each]])) as typeof STAGES}
              chosen={stage}
              choose={setStage}
            />
            <input
              type="search"
              className="field !w-32"
              aria-label="Place"
              placeholder="Turnout or zone"
              value={place}
              onChange={(event) => setPlace(event.target.value)}
            />
          </div>
          <div className="scroll" ref={list}>
            {overview && all.length === 0 && <p className="quiet p-3">Nothing is wrong and nothing is missing.</p>}
            {all.length > 0 && findings.length === 0 && <p className="quiet p-3">None of this sort here.</p>}
            {findings.slice(0, most).map((finding) => (
              <FindingCard key={finding.key} finding={finding} />
            ))}
            {findings.length > most && (
              <button type="button" className="btn m-3" onClick={() => setMost(most + SHOWN)}>
                Show {Math.min(SHOWN, findings.length - most)} more of {findings.length - most}
              </button>
            )}
          </div>
        </Sheet>
        <Sheet title="Rules" about={`${RULES.length} looked at`}>
          <div className="scroll">
            {RULES.map((rule) => (
              <details key={rule.id} className="border-b border-rule px-3 py-1.5">
                <summary
                  className={
                    found.has(rule.id)
                      ? "cursor-pointer font-head text-[14px] font-semibold"
                      : "quiet cursor-pointer font-head text-[14px]"
                  }
                >
                  {rule.title}
                </summary>
                <p className="mt-1 text-[12px]">{rule.about}</p>
              </details>
            ))}
          </div>
        </Sheet>
      </div>
    </StageMain>
  );
}

/** Whether a finding is at a place: its own, its turnouts' labels, or their zones. */
function placeFilter(record: RailwayRecord | null, place: string): (finding: Finding) => boolean {
  const wanted = place.trim().toLowerCase();
  if (wanted === "" || !record) return () => true;
  const zones = new Map(record.zones.map(({ id, label }) => [id, label.toLowerCase()]));
  const turnouts = new Map(
    record.turnouts.map(({ id, label, zoneId }) => [id, [label.toLowerCase(), (zoneId && zones.get(zoneId)) || ""]]),
  );
  return ({ where, turnoutIds }) =>
    where.toLowerCase().includes(wanted) ||
    turnoutIds.some((id) =>
      turnouts.get(id)?.some((text, index) => (index === 0 ? text === wanted : text.includes(wanted))),
    );
}

/** One of some, or all. */
function Choice<T extends string>({
  label,
  names,
  chosen,
  choose,
}: {
  label: string;
  names: Record<T, string>;
  chosen: T | null;
  choose: (chosen: T | null) => void;
}) {
  return (
    <fieldset className="seg small" aria-label={label}>
      <button type="button" aria-pressed={chosen === null} onClick={() => choose(null)}>
        all
      </button>
      {(Object.keys(names) as T[]).map((each) => (
        <button key={each} type="button" aria-pressed={chosen === each} onClick={() => choose(each)}>
          {names[each]}
        </button>
      ))}
    </fieldset>
  );
}
