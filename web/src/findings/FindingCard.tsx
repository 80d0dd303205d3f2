import { type Acceptance, causeOf, Draft, type Finding, freshId, type Remedy } from "@alderman/core";
import { type PointerEvent, useRef, useState } from "react";
import { useCures } from "../derivation/hooks.ts";
import { Mark } from "../drawing/Mark.tsx";
import { verdictFor } from "../drawing/verdict.ts";
import { Button } from "../kit/Button.tsx";
import { Input } from "../kit/Input.tsx";
import { Optional, part } from "../kit/part.tsx";
import { Sentence } from "../kit/Sentence.tsx";
import { useRecord } from "../session/hooks.ts";
import { useEdit } from "../session/useEdit.ts";

// loaded when somebody first looks
const RemedyLook = part(async () => (await import("./RemedyLook.tsx")).RemedyLook);

/** A finding: where, why in one sentence with the numbers, and what can be done about it. */
export function FindingCard({ finding }: { finding: Finding }) {
  return (
    <article
      className="finding grid grid-cols-[30px_minmax(0,1fr)] border-b border-rule px-3 pt-2.25 pb-2.5 focus-visible:-outline-offset-3"
      tabIndex={-1}
      aria-label={`${finding.title}: ${finding.where}`}
    >
      <div>
        <Mark verdict={finding.kept === null ? verdictFor(finding.severity) : "open"} size={20} />
      </div>
      <div className="min-w-0">
        <div className="font-head text-h3 font-semibold">
          {finding.title}{" "}
          <span className="mono font-normal text-ink-2">
            {finding.terminals.length > 0 ? finding.terminals.slice(0, 6).join(", ") : finding.where}
          </span>
        </div>
        <p>
          <Sentence text={finding.why} />
        </p>
        {finding.caution && (
          <p className="mt-1 text-small text-ink-2">
            <Sentence text={finding.caution} />
          </p>
        )}
        {finding.kept !== null ? (
          <Kept finding={finding} />
        ) : (
          <div className="mt-1.75 flex flex-wrap items-center gap-2">
            <Cures finding={finding} />
            {finding.severity !== "stop" && <KeepButton finding={finding} />}
          </div>
        )}
      </div>
    </article>
  );
}

/** What cures the finding: each remedy was made on a copy and solved before it is offered. */
function Cures({ finding }: { finding: Finding }) {
  const { cures, solving } = useCures(finding);
  const [best] = cures.filter(({ group }) => group);
  return (
    <>
      {cures.map((remedy) => (
        <RemedyButton key={remedy.label} remedy={remedy} best={remedy === best} />
      ))}
      {solving && <span className="text-small text-ink-2">Solving what cures it</span>}
    </>
  );
}

/** Time for which one points at a remedy before it shows what it would change, milliseconds. */
const LOOK_AFTER = 200;

/** A button that makes the edit. What it would change shows while it is pointed at or focused; by touch, before it is made. */
function RemedyButton({ remedy: { label, group, harm }, best }: { remedy: Remedy; best: boolean }) {
  const act = useEdit();
  const [looked, setLooked] = useState<"looking" | "asking" | null>(null);
  const waiting = useRef<ReturnType<typeof setTimeout>>(undefined);
  const touched = useRef(false);
  const button = useRef<HTMLButtonElement>(null);
  if (!group) {
    return (
      <span className="flex items-center gap-2">
        <Button disabled>{label}</Button>
        <span className="text-small text-ink-2">Not useful here: {harm}.</span>
      </span>
    );
  }
  const look = () => {
    clearTimeout(waiting.current);
    waiting.current = setTimeout(() => setLooked("looking"), LOOK_AFTER);
  };
  const leave = () => {
    clearTimeout(waiting.current);
    setLooked((now) => (now === "asking" ? now : null));
  };
  const make = () => {
    clearTimeout(waiting.current);
    setLooked(null);
    act(group);
  };
  return (
    <>
      <Button
        ref={button}
        look={best ? "best" : "plain"}
        onPointerDown={(event: PointerEvent) => {
          touched.current = event.pointerType === "touch";
        }}
        onClick={() => (touched.current ? setLooked("asking") : make())}
        onFocus={() => !touched.current && look()}
        onBlur={leave}
        onMouseEnter={look}
        onMouseLeave={leave}
      >
        {label}
      </Button>
      {looked !== null && (
        <Optional>
          <RemedyLook
            anchor={button}
            label={label}
            group={group}
            make={looked === "asking" ? make : null}
            close={() => setLooked(null)}
          />
        </Optional>
      )}
    </>
  );
}

/** What a finding is about, as its acceptance names it. */
const subjectOf = ({ key, ruleId }: Finding) => key.slice(ruleId.length + 1);

function KeepButton({ finding }: { finding: Finding }) {
  const record = useRecord();
  const act = useEdit();
  const [reason, setReason] = useState<string | null>(null);
  if (!record) return null;
  if (reason === null) return <Button onClick={() => setReason("")}>Keep, and note it</Button>;
  const keep = () => {
    const subject = subjectOf(finding);
    const draft = new Draft(record);
    for (const old of record.acceptances.filter((each) => each.rule === finding.ruleId && each.subject === subject))
      draft.remove("acceptance", old.id);
    const acceptance: Acceptance = {
      ...{ id: freshId(record, "acceptance", finding.key), rule: finding.ruleId, subject, cause: causeOf(finding.why) },
      ...{ reason: reason.trim(), at: new Date().toISOString() },
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
      <Input
        aria-label="Why it may stay"
        placeholder="Why it may stay"
        autoFocus
        value={reason}
        maxLength={80}
        onChange={(event) => setReason(event.target.value)}
      />
      <Button type="submit" disabled={!reason.trim()}>
        Keep it
      </Button>
    </form>
  );
}

function Kept({ finding }: { finding: Finding }) {
  const record = useRecord();
  const act = useEdit();
  if (!record) return null;
  const count = () => {
    const draft = new Draft(record);
    const subject = subjectOf(finding);
    for (const old of record.acceptances.filter((each) => each.rule === finding.ruleId && each.subject === subject))
      draft.remove("acceptance", old.id);
    act(draft.group(`The finding at ${finding.where} counts again`));
  };
  return (
    <div className="mt-1.75 flex flex-wrap items-center gap-2">
      <span className="text-ink-2">Kept: {finding.kept}</span>
      <Button onClick={count}>Let it count again</Button>
    </div>
  );
}
