import { type KeyboardEvent, useEffect, useRef } from "react";
import { useForm } from "react-hook-form";
import { Problem } from "./Field.tsx";
import { focusNext } from "./focusNext.ts";
import { inputClass } from "./Input.tsx";

interface SavedProps {
  label?: string;
  /** Given by the `Field` around it. */
  ids?: { id: string };
  /** The text as it is kept. */
  value: string;
  /**
   * Keeps the text; called when the field is left or Enter is pressed, and only when it is not as it was.
   * @returns the sentence that says why it cannot be kept: it is shown, and the typed text stays
   */
  save: (text: string) => string | null | undefined;
  placeholder?: string;
  className?: string;
  maxLength?: number;
  inputMode?: "decimal" | "numeric";
  /** Enter goes on to the next field of the same list. */
  goesOn?: boolean;
  /** Lines; a field of several is no longer left by Enter. */
  lines?: number;
}

/** A text that is saved when it is left. What cannot be saved stays as it was typed, with the sentence below it; Escape brings back what is kept. */
export function TextField({ label, ids, value, save, lines, goesOn, className = "", ...rest }: SavedProps) {
  const { register, reset, setError, clearErrors, getValues, formState } = useForm({ values: { text: value } });
  const latest = useRef(save);
  latest.current = save;
  const problem = formState.errors.text?.message;
  // a field that is left by Enter is left twice, and what is kept comes back a moment later: the same text is not sent again
  const sent = useRef<string | null>(null);
  // biome-ignore lint/correctness/useExhaustiveDependencies: whatever value comes ends the waiting
  useEffect(() => {
    sent.current = null;
  }, [value]);
  const keep = () => {
    const text = getValues("text").trim();
    if (text === value) {
      reset({ text: value });
      clearErrors();
      return;
    }
    if (text === sent.current) return;
    const refusal = latest.current(text);
    sent.current = refusal ? null : text;
    if (refusal) setError("text", { message: refusal });
    else clearErrors();
  };
  const leave = useRef(keep);
  leave.current = keep;
  // what is typed is kept as well when the whole thing is closed
  useEffect(() => () => leave.current(), []);
  const onKeyDown = (event: KeyboardEvent<HTMLElement>) => {
    if (event.key === "Enter" && !lines) {
      event.preventDefault();
      keep();
      if (goesOn && !formState.errors.text) focusNext(event.currentTarget);
    } else if (event.key === "Escape" && getValues("text") !== value) {
      event.preventDefault();
      event.stopPropagation();
      reset({ text: value });
      clearErrors();
    }
  };
  const given = {
    ...rest,
    ...ids,
    ...(label ? { "aria-label": label } : {}),
    ...(problem ? { "aria-invalid": true } : {}),
    // Escape gives back what is kept, and closes the dialog around only when there is nothing to give back
    ...(formState.isDirty ? { "data-changed": true } : {}),
    ...register("text", { onBlur: keep }),
    onKeyDown,
  };
  return (
    <>
      {lines ? (
        <textarea rows={lines} className={inputClass(`py-1 ${className}`)} {...given} />
      ) : (
        <input autoComplete="off" className={inputClass(className)} {...given} />
      )}
      <Problem text={problem} />
    </>
  );
}
