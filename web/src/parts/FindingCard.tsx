import { type Acceptance, Draft, type Finding, freshId, type Remedy } from "@alderman/core";
import { useState } from "react";
import { useRecord } from "../session/hooks.ts";
import { useEdit } from "../session/useEdit.ts";
import { Mark, verdictFor } from "./Mark.tsx";
import { RemedyPreview } from "./RemedyPreview.tsx";

/** A finding: where, why in one sentence with the numbers, and what can be done about it. */
export function FindingCard({ finding }: { finding: Finding }) {
  const act = useEdit();
  const [looked, setLooked] = useState<Remedy | null>(null);
  const [best] = finding.remedies.filter(({ group }) => group);
  return (
    <article className="finding relative" tabIndex={-1} aria-label={`${finding.title}: ${finding.where}`}>
      <div>
        <Mark verdict={finding.kept === null ? verdictFor(finding.severity) : "open"} size={20} />
      </div>
      <div className="min-w-0">
        <div className="where">
          {finding.title}{" "}
          <span className="mono quiet font-normal">
            {finding.terminals.length > 0 ? finding.terminals.slice(0, 6).join(", ") : finding.where}
          </span>
        </div>
        <p>{finding.why}</p>
        {finding.caution && <p className="quiet mt-1 text-[12px]">{finding.caution}</p>}
        {finding.kept !== null ? (
          <Kept finding={finding} />
        ) : (
          <div className="acts">
            {finding.remedies.map((remedy) => (
              <RemedyButton
                key={remedy.label}
                remedy={remedy}
                best={remedy === best}
                act={act}
                look={(on) => setLooked(on ? remedy : null)}
              />
            ))}
            {finding.severity !== "stop" && <KeepButton finding={finding} />}
          </div>
        )}
        {looked?.group && finding.kept === null && (
          // over the next card, so that nothing moves under the hand that is about to press
          <div className="pointer-events-none absolute top-full right-3 left-10 z-20 border border-ink">
            <RemedyPreview group={looked.group} />
          </div>
        )}
      </div>
    </article>
  );
}

function RemedyButton({
  remedy,
  best,
  act,
  look,
}: {
  remedy: Remedy;
  best: boolean;
  act: ReturnType<typeof useEdit>;
  /** The button is looked at, or no more. */
  look: (on: boolean) => void;
}) {
  if (!remedy.group) {
    return (
      <span className="flex items-center gap-2">
        <button type="button" className="btn off" disabled>
          {remedy.label}
        </button>
        <span className="quiet text-[12px]">No use here: {remedy.harm}.</span>
      </span>
    );
  }
  return (
    <button
      type="button"
      className={best ? "btn go" : "btn"}
      onClick={() => act(remedy.group)}
      onFocus={() => look(true)}
      onBlur={() => look(false)}
      onMouseEnter={() => look(true)}
      onMouseLeave={() => look(false)}
    >
      {remedy.label}
    </button>
  );
}

function KeepButton({ finding }: { finding: Finding }) {
  const record = useRecord();
  const act = useEdit();
  const [reason, setReason] = useState<string | null>(null);
  if (!record) return null;
  if (reason === null) {
    return (
      <button type="button" className="btn" onClick={() => setReason("")}>
        Keep, and note it
      </button>
    );
  }
  const keep = () => {
    const subject = finding.key.slice(finding.ruleId.length + 1);
    const draft = new Draft(record);
    for (const old of record.acceptances.filter((each) => each.rule === finding.ruleId && each.subject === subject))
      draft.remove("acceptance", old.id);
    const acceptance: Acceptance = {
      id: freshId(record, "acceptance", finding.key),
      rule: finding.ruleId,
      subject,
      cause: finding.why,
      reason: reason.trim(),
      at: new Date().toISOString(),
    };
    draft.put("acceptance", acceptance);
    act(draft.group(`Kept a finding at ${finding.where}: ${reason.trim()}`));
  };
  return (
    <form
      className="flex w-full max-w-[420px] gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        if (reason.trim()) keep();
      }}
    >
      <input
        className="field"
        aria-label="Why it may stay"
        placeholder="Why it may stay"
        value={reason}
        maxLength={80}
        onChange={(event) => setReason(event.target.value)}
      />
      <button type="submit" className="btn" disabled={!reason.trim()}>
        Keep it
      </button>
    </form>
  );
}

function Kept({ finding }: { finding: Finding }) {
  const record = useRecord();
  const act = useEdit();
  if (!record) return null;
  const count = () => {
    const draft = new Draft(record);
    const subject = finding.key.slice(finding.ruleId.length + 1);
    for (const old of record.acceptances.filter((each) => each.rule === finding.ruleId && each.subject === subject))
      draft.remove("acceptance", old.id);
    act(draft.group(`The finding at ${finding.where} counts again`));
  };
  return (
    <div className="acts">
      <span className="quiet">Kept: {finding.kept}</span>
      <button type="button" className="btn" onClick={count}>
        Let it count again
      </button>
    </div>
  );
}
