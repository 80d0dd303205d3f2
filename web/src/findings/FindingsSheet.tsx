import { type Finding, type RailwayRecord, RULES } from "@alderman/core";
import { useMemo, useRef, useState } from "react";
import { useOverview } from "../derivation/hooks.ts";
import { StageMain } from "../frame/StageMain.tsx";
import { Accordion } from "../kit/Accordion.tsx";
import { Button } from "../kit/Button.tsx";
import { Input } from "../kit/Input.tsx";
import { Segmented } from "../kit/Segmented.tsx";
import { Sheet, SheetBody } from "../kit/Sheet.tsx";
import { Sheets } from "../kit/Sheets.tsx";
import { Toolbar } from "../kit/Toolbar.tsx";
import { useRecord } from "../session/hooks.ts";
import { Clear } from "./Checked.tsx";
import { FindingCard } from "./FindingCard.tsx";
import { useFindingKeys } from "./useFindingKeys.ts";

const SEVERITIES = { stop: "wrong", look: "doubtful", note: "notes", kept: "kept" } as const;
type Severity = keyof typeof SEVERITIES;
/** "All" and each of some, as segments. */
function segments<T extends string>(names: Readonly<Record<T, string>>) {
  const values = Object.keys(names) as T[];
  return [{ value: "all" as T | "all", text: "all" }, ...values.map((value) => ({ value, text: names[value] }))];
}

const STAGES: Record<Finding["stage"], string> = {
  line: "Line",
  equip: "Equip",
  routes: "Routes",
  loom: "Loom",
  numbers: "Numbers",
};

/** Findings shown at first; more come when asked for. */
const SHOWN = 60;

/** All findings of the railway, the gravest first, by severity, stage and place; and the rules that were looked at. */
export function FindingsSheet() {
  const overview = useOverview();
  const record = useRecord();
  const [severity, setSeverity] = useState<Severity | "all">("all");
  const [stage, setStage] = useState<Finding["stage"] | "all">("all");
  const [place, setPlace] = useState("");
  const [most, setMost] = useState(SHOWN);
  const list = useRef<HTMLDivElement>(null);
  useFindingKeys(list);
  const all = useMemo(() => overview?.findings ?? [], [overview?.findings]);
  const findings = useMemo(() => {
    const inPlace = placeFilter(record, place);
    return all.filter(
      (finding) =>
        (severity === "all" || (finding.kept === null ? finding.severity : "kept") === severity) &&
        (stage === "all" || finding.stage === stage) &&
        inPlace(finding),
    );
  }, [all, record, severity, stage, place]);
  const counted = all.filter(({ kept }) => kept === null);
  const found = new Set(all.map(({ ruleId }) => ruleId));
  const filtered = findings.length !== all.length;
  return (
    <StageMain title="Findings" about="Where, why, and what can be done">
      <Sheets columns="minmax(0,1fr) 264px">
        <Sheet
          title="To be looked at"
          about={
            overview
              ? `${counted.length} that count, ${all.length - counted.length} kept${overview.partial ? ", so far" : ""}${filtered ? `; ${findings.length} shown` : ""}`
              : ""
          }
        >
          <Toolbar label="Which findings">
            <Segmented
              size="small"
              label="Severity"
              value={severity}
              segments={segments(SEVERITIES)}
              onChange={setSeverity}
            />
            <Segmented size="small" label="Stage" value={stage} segments={segments(STAGES)} onChange={setStage} />
            <Input
              type="search"
              className="w-32!"
              aria-label="Place"
              placeholder="Turnout or zone"
              value={place}
              onChange={(event) => setPlace(event.target.value)}
            />
          </Toolbar>
          <div className="min-h-0 flex-1 overflow-auto" ref={list}>
            {all.length === 0 && (
              <p className="p-3 text-ink-2">
                <Clear>Nothing is wrong and nothing is missing.</Clear>
              </p>
            )}
            {all.length > 0 && findings.length === 0 && (
              <p className="p-3 text-ink-2">
                <Clear>None of this sort here.</Clear>
              </p>
            )}
            {findings.slice(0, most).map((finding) => (
              <FindingCard key={finding.key} finding={finding} />
            ))}
            {findings.length > most && (
              <Button className="m-3" onClick={() => setMost(most + SHOWN)}>
                Show {Math.min(SHOWN, findings.length - most)} more of {findings.length - most}
              </Button>
            )}
          </div>
        </Sheet>
        <Sheet title="Rules" about={<Clear>{RULES.length} looked at</Clear>}>
          <SheetBody>
            <Accordion
              items={RULES.map(({ id, title, about }) => ({ id, title, body: about, quiet: !found.has(id) }))}
            />
          </SheetBody>
        </Sheet>
      </Sheets>
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
