import { RULES } from "@alderman/core";
import { FindingCard } from "../parts/FindingCard.tsx";
import { Sheet, StageMain } from "../parts/Sheet.tsx";
import { useResults } from "../worker/derive.ts";

/** All findings of the railway, the gravest first, and the rules that were looked at. */
export function FindingsSheet() {
  const { overview } = useResults();
  const findings = overview?.findings ?? [];
  const counted = findings.filter(({ kept }) => kept === null);
  const found = new Set(findings.map(({ ruleId }) => ruleId));
  return (
    <StageMain title="Findings" about="Where, why, and what can be done">
      <div className="grid min-h-0 grid-cols-[minmax(0,1fr)_300px] gap-2.5">
        <Sheet
          title="To be looked at"
          about={
            overview ? `${counted.length} that count, ${findings.length - counted.length} kept` : "being worked out"
          }
        >
          <div className="scroll">
            {overview && findings.length === 0 && <p className="quiet p-3">Nothing is wrong and nothing is missing.</p>}
            {findings.map((finding) => (
              <FindingCard key={finding.key} finding={finding} />
            ))}
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
