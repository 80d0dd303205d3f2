import { readNumber } from "@alderman/core";
import { TextField } from "./TextField.tsx";

/** A number that is saved when it is left; both decimal marks are understood. */
export function NumberField({
  value,
  save,
  empty,
  write = String,
  ...rest
}: {
  label?: string;
  ids?: { id: string };
  value: number | null;
  /** Keeps the number; null for a field that was emptied. @returns why it cannot be kept */
  save: (value: number | null) => string | null | undefined;
  /** What an empty field means; without it, it may not be emptied. */
  empty?: string;
  write?: (value: number) => string;
  className?: string;
  goesOn?: boolean;
}) {
  return (
    <TextField
      {...rest}
      inputMode="decimal"
      value={value === null ? "" : write(value)}
      {...(empty ? { placeholder: empty } : {})}
      save={(text) => {
        if (text === "" && empty !== undefined) return save(null);
        const read = readNumber(text);
        return "problem" in read ? read.problem : save(read.number);
      }}
    />
  );
}
