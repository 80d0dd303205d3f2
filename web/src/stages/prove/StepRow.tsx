import {
  changeWords,
  Draft,
  type Found,
  freshId,
  ohms,
  readNumber,
  type Standing,
  signOf,
  signWords,
  type TestResult,
  type TestStep,
  testResult,
  volts,
} from "@alderman/core";
import { useEffect, useRef } from "react";
import { useForm } from "react-hook-form";
import { Band } from "../../drawing/Band.tsx";
import { Mark, PositionMark } from "../../drawing/Mark.tsx";
import type { Verdict } from "../../drawing/verdict.ts";
import { Button } from "../../kit/Button.tsx";
import { Problem } from "../../kit/Field.tsx";
import { Input } from "../../kit/Input.tsx";
import { useRecord } from "../../session/hooks.ts";
import { useEdit } from "../../session/useEdit.ts";
import { dateAndTime } from "../../tools/when.ts";

const STANDING: Record<Standing["state"], { verdict: Verdict; words: string }> = {
  passed: { verdict: "good", words: "Passed" },
  failed: { verdict: "wrong", words: "Failed" },
  "no-change": { verdict: "open", words: "No change: it was there already" },
  stale: { verdict: "stale", words: "Stale" },
  open: { verdict: "open", words: "Not read" },
};

interface Props {
  number: number;
  step: TestStep;
  standing: Standing;
  chosen: boolean;
  /** It was come to by recording the step before, or by choosing it: its field takes the focus. */
  entered: boolean;
  choose: () => void;
  recorded: () => void;
  /** What was typed and not recorded yet, and where it is kept while one looks elsewhere. */
  typed: string;
  keepTyped: (text: string) => void;
}

/** One step of a test sheet: what to do, what to expect, and where to say what was found. */
export function StepRow({ number, step, standing, chosen, entered, choose, recorded, typed, keepTyped }: Props) {
  const record = useRecord();
  const act = useEdit();
  const { verdict, words } = STANDING[standing.state];
  const { result } = standing;
  const keep = (found: Found) => {
    if (!record) return;
    const at = new Date().toISOString();
    const id = freshId(record, "test", `${step.turnoutId}-${step.key}-${at.slice(0, 10)}`);
    const test = testResult(step, found, id, at);
    const draft = new Draft(record);
    draft.put("test", test);
    act(
      draft.group(
        `${step.title}: ${"seen" in found ? `seen ${found.seen}` : `read ${reading(step, found.read)}`}, ${test.verdict}`,
      ),
    );
    recorded();
  };
  return (
    <div
      role="listitem"
      aria-current={chosen ? "step" : undefined}
      aria-label={`Step ${number}, ${step.title}`}
      className={`grid grid-cols-[34px_minmax(0,1fr)] sm:grid-cols-[34px_minmax(0,1.1fr)_minmax(0,1fr)_minmax(0,0.8fr)] max-sm:*:not-first:col-start-2 gap-y-1 gap-x-2 border-b border-rule py-2 pr-3 ${chosen ? "bg-copper-wash shadow-[inset_3px_0_0_var(--copper)]" : ""}`}
    >
      <b className="pl-3 font-head text-[18px] text-copper">{number}</b>
      <button type="button" className="self-start text-left" onClick={choose}>
        <span className="flex items-center gap-2 font-head text-h3 font-semibold">
          {step.title}
          {step.position && <PositionMark position={step.position} filled scale={0.8} />}
        </span>
        <span className="block text-small">{step.how}</span>
        {step.probes && (
          <span className="mono block text-ink-2">
            {step.probes.redName} to {step.probes.blackName}
          </span>
        )}
      </button>
      <div>
        <div className="flex flex-wrap items-baseline gap-x-3">
          <span className="mono text-[13px]">
            {step.unit === "seen" ? `see ${step.wanted}` : reading(step, step.expected)}
          </span>
          {step.low !== null && step.high !== null && (
            <span className="text-small text-ink-2">±{reading(step, (step.high - step.low) / 2)}</span>
          )}
        </div>
        {!chosen && typed !== "" && <p className="text-small text-ink-2">typed {typed}, not recorded yet</p>}
        {chosen ? (
          <FoundField step={step} keep={keep} focused={entered} typed={typed} keepTyped={keepTyped} />
        ) : (
          step.low !== null &&
          step.high !== null &&
          result && <Band low={step.low} high={step.high} read={result.read} width={168} />
        )}
      </div>
      <div className="flex gap-2">
        <Mark verdict={verdict} size={17} />
        <div className="min-w-0">
          <b className="font-head text-h3 font-semibold">{words}</b>
          {result && (
            <p className="mono text-small">{result.unit === "seen" ? result.seen : reading(step, result.read)}</p>
          )}
          {standing.state === "stale" ? (
            <p className="text-small text-ink-2">{changeWords(standing.changes)}</p>
          ) : (
            result && <p className="text-small text-ink-2">{dateAndTime(result.at)}</p>
          )}
          {standing.state === "failed" && result && <p className="text-small">{adviceOn(step, result)}</p>}
        </div>
      </div>
    </div>
  );
}

/** What to make of a step that failed. */
function adviceOn({ unit }: TestStep, result: TestResult): string {
  if (unit !== "seen" && unit !== "mA") return signWords(unit, signOf(result));
  return "Look in Sense what could turn it, and take a reading where the meter's next place is.";
}

function reading(step: TestStep, value: number | null): string {
  if (value === null) return "open";
  return step.unit === "ohm" ? ohms(value) : volts(value);
}

/** Where what was found is said: a figure for the meter, a choice for the eye. */
function FoundField({
  step,
  keep,
  focused,
  typed,
  keepTyped,
}: Pick<Props, "step" | "typed" | "keepTyped"> & { keep: (found: Found) => void; focused: boolean }) {
  const { register, handleSubmit, setError, setFocus, formState } = useForm({ defaultValues: { said: typed } });
  const eye = useRef<HTMLButtonElement>(null);
  useEffect(() => {
    if (!focused) return;
    if (step.unit === "seen") eye.current?.focus();
    else setFocus("said");
  }, [focused, step.unit, setFocus]);
  if (step.unit === "seen") {
    return (
      <div className="mt-1.5 flex flex-wrap gap-1.5">
        {step.sees.map((seen, index) => (
          <Button key={seen} ref={index === 0 ? eye : null} onClick={() => keep({ seen })}>
            {seen}
          </Button>
        ))}
      </div>
    );
  }
  const submit = handleSubmit(({ said }) => {
    const words = said.trim().toLowerCase();
    const read = words === "open" || words === "ol" ? { number: null } : readNumber(said);
    if ("problem" in read) return setError("said", { message: `${read.problem} An open circuit is "open".` });
    keepTyped("");
    keep({ read: read.number });
  });
  const problem = formState.errors.said?.message;
  return (
    <form className="mt-1.5 flex items-start gap-1.5" onSubmit={submit}>
      <div>
        <Input
          className="w-28! font-mono"
          aria-label={`Meter said, ${step.unit}`}
          placeholder={step.unit === "diode" ? "V" : step.unit}
          {...(problem ? { "aria-invalid": true } : {})}
          {...register("said", { onChange: (event) => keepTyped(event.target.value) })}
        />
        <Problem text={problem} />
      </div>
      <Button type="submit" look="best">
        Record
      </Button>
    </form>
  );
}
