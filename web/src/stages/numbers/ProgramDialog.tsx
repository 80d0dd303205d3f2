import { type OutputAddress, type ProgrammingStep, setAnswer } from "@alderman/core";
import { useState } from "react";
import { Button } from "../../kit/Button.tsx";
import { Dialog } from "../../kit/Dialog.tsx";
import { Field } from "../../kit/Field.tsx";
import { Input } from "../../kit/Input.tsx";
import { useRecord } from "../../session/hooks.ts";
import { useEdit } from "../../session/useEdit.ts";
import { programWords } from "./programWords.ts";

/** One output after the other is programmed, step by step, in large type; what is done is written down with its time. */
export function ProgramDialog({
  steps,
  outputs,
  close,
}: {
  /** What is left to be programmed, in its order. */
  steps: readonly ProgrammingStep[];
  outputs: readonly OutputAddress[];
  close: () => void;
}) {
  const record = useRecord();
  const act = useEdit();
  const [at, setAt] = useState(0);
  const [seen, setSeen] = useState("");
  const [step] = steps;
  if (!record) return null;
  if (!step) {
    return (
      <Dialog title="All are programmed" about="Every output answers to the address that it is to have." close={close}>
        <Button look="best" onClick={close}>
          Close
        </Button>
      </Dialog>
    );
  }
  const words = programWords(record, step, outputs);
  const isLast = at === words.length - 1;
  const done = () => {
    const [way = 1] = step.ways;
    const how = { how: "programmed" as const, seen: seen.trim(), at: new Date().toISOString() };
    act(() => setAnswer(record, step.deviceId, way, step.address, how));
    setAt(0);
    setSeen("");
  };
  const still = outputs.find(({ deviceId, way }) => deviceId === step.deviceId && way === step.ways[0]);
  return (
    <Dialog
      title={`Program ${step.label} to ${step.address}`}
      about={`${steps.length === 1 ? "The last one." : `${steps.length} left with this one.`} It answers to ${still?.now}${still?.answer?.seen ? `; last seen: ${still.answer.seen}` : ""}.`}
      close={close}
    >
      {step.isTemporary && (
        <p className="mb-2 bg-copper-wash px-3 py-2">
          Only for now: another output still answers to the number that it is to have. It gets that later.
        </p>
      )}
      {step.alsoAt.length > 0 && (
        <p role="alert" className="mb-2 bg-red-wash px-3 py-2">
          {step.alsoAt.join(", ")} {step.alsoAt.length === 1 ? "is" : "are"} to have this number too. One command will
          move both: give one of them another address first.
        </p>
      )}
      <ol className="grid gap-1.5">
        {words.map((each, index) => (
          <li
            key={each}
            aria-current={index === at ? "step" : undefined}
            className={
              index === at
                ? "bg-copper-wash px-3 py-3 text-[22px] leading-snug shadow-[inset_4px_0_0_var(--copper)]"
                : `px-3 ${index < at ? "text-ink-2 line-through" : "text-ink-2"}`
            }
          >
            {each}
          </li>
        ))}
      </ol>
      {isLast && (
        <div className="mt-3">
          <Field label="What it showed, if you want to keep it" stacked>
            {(ids) => <Input {...ids} value={seen} maxLength={80} onChange={(event) => setSeen(event.target.value)} />}
          </Field>
        </div>
      )}
      <div className="mt-4 flex flex-wrap gap-2">
        <Button
          look="best"
          className="min-h-[60px]! px-6 text-[18px]"
          onClick={() => (isLast ? done() : setAt(at + 1))}
        >
          {isLast ? "It answers" : "Done, next"}
        </Button>
        {at > 0 && (
          <Button className="min-h-[60px]!" onClick={() => setAt(at - 1)}>
            Back
          </Button>
        )}
      </div>
    </Dialog>
  );
}
