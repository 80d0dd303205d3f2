import { zodResolver } from "@hookform/resolvers/zod";
import { Plus } from "lucide-react";
import { Controller, type DefaultValues, type FieldValues, type Path, useForm } from "react-hook-form";
import type * as z from "zod/mini";
import { Button } from "../../kit/Button.tsx";
import { Choice } from "../../kit/Choice.tsx";
import { Combobox } from "../../kit/Combobox.tsx";
import { Problem } from "../../kit/Field.tsx";
import { Input } from "../../kit/Input.tsx";

interface NoteField<T extends FieldValues> {
  name: Path<T>;
  label: string;
  /** Takes what room there is. */
  wide?: boolean;
  /** It is one of these, or none of them. */
  options?: readonly { value: string; text: string }[];
  none?: string;
}

/** Above so many, one is found by typing. */
const MOST_IN_A_LIST = 40;

/** A line of fields at the head of a sheet, by which something is noted. */
export function NoteForm<T extends FieldValues>({
  label,
  schema,
  fresh,
  fields,
  add,
}: {
  label: string;
  schema: z.ZodMiniType<T, T>;
  fresh: DefaultValues<T>;
  fields: readonly NoteField<T>[];
  /** Notes it. @returns whether it could be */
  add: (given: T) => boolean;
}) {
  const { register, control, handleSubmit, reset, getValues, formState } = useForm<T>({
    resolver: zodResolver(schema),
    defaultValues: fresh,
  });
  const note = handleSubmit((given) => {
    // what was chosen stays chosen for the next one; what was typed was used
    if (add(given)) {
      const kept = Object.fromEntries(
        fields.flatMap(({ name, options }) => (options ? [[name, getValues(name)]] : [])),
      );
      reset({ ...fresh, ...kept } as DefaultValues<T>);
    }
  });
  return (
    <form
      className="flex flex-none flex-wrap items-start gap-2 border-b border-rule px-3 py-2"
      onSubmit={note}
      aria-label={label}
    >
      {fields.map(({ name, label: title, wide, options, none }) => (
        <div key={name} className={wide ? "min-w-44 flex-1" : options ? "" : "w-34"}>
          {options ? (
            <Controller
              control={control}
              name={name}
              render={({ field }) => {
                const all = none === undefined ? options : [{ value: null, text: none }, ...options];
                const List = options.length > MOST_IN_A_LIST ? Combobox : Choice;
                return <List label={title} value={field.value} options={all} onChange={field.onChange} />;
              }}
            />
          ) : (
            <Input
              aria-label={title}
              placeholder={title}
              {...register(name)}
              {...(formState.errors[name] ? { "aria-invalid": true } : {})}
            />
          )}
          <Problem
            text={formState.errors[name]?.message ? `${title} ${String(formState.errors[name].message)}.` : null}
          />
        </div>
      ))}
      <Button type="submit">
        <Plus size={14} aria-hidden="true" /> Note it
      </Button>
    </form>
  );
}
