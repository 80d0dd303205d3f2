import type { ReactNode } from "react";
import { Choice, type Option } from "./Choice.tsx";
import { Field } from "./Field.tsx";

interface Props<T extends string | null> {
  label: ReactNode;
  value: T;
  options: readonly Option<T>[];
  onChange: (value: T) => void;
  /** More below the list. */
  children?: ReactNode;
}

/** A list to choose from, as a field with its label. */
export function ChoiceField<T extends string | null>({ label, children, ...choice }: Props<T>) {
  return (
    <Field label={label}>
      {({ id }) => (
        <>
          <Choice id={id} className="w-full" {...choice} />
          {children}
        </>
      )}
    </Field>
  );
}
