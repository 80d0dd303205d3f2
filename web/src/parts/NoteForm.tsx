import type { FormEvent, ReactNode } from "react";

/** A line of fields at the foot of a sheet, by which something is noted. */
export function NoteForm({
  label,
  ready,
  add,
  children,
}: {
  label: string;
  /** What is needed has been typed. */
  ready: boolean;
  add: (event: FormEvent) => void;
  children: ReactNode;
}) {
  return (
    <form className="flex flex-wrap gap-2 border-t border-rule px-3 py-2" onSubmit={add} aria-label={label}>
      {children}
      <button type="submit" className="btn" disabled={!ready}>
        Note it
      </button>
    </form>
  );
}

/** One of some in such a form; `none` stands for nothing chosen. */
export function NoteSelect<T extends string>({
  label,
  value,
  options,
  none,
  set,
}: {
  label: string;
  value: T | "";
  options: readonly { value: T; text: string }[];
  none?: string;
  set: (value: T) => void;
}) {
  return (
    <select
      className="field !w-auto"
      aria-label={label}
      value={value}
      onChange={(event) => set(event.target.value as T)}
    >
      {none !== undefined && <option value="">{none}</option>}
      {options.map((option) => (
        <option key={option.value} value={option.value}>
          {option.text}
        </option>
      ))}
    </select>
  );
}

/** A short text in such a form. */
export function NoteText({
  label,
  value,
  wide = false,
  set,
}: {
  label: string;
  value: string;
  wide?: boolean;
  set: (value: string) => void;
}) {
  return (
    <input
      className={wide ? "field !w-44 flex-1" : "field !w-34"}
      aria-label={label}
      placeholder={label}
      maxLength={80}
      value={value}
      onChange={(event) => set(event.target.value)}
    />
  );
}
