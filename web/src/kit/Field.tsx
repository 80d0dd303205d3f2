import { createContext, type ReactNode, useContext, useId } from "react";

/** What a control within a field needs so that label and problem belong to it. */
export interface FieldIds {
  id: string;
  "aria-describedby"?: string;
  "aria-invalid"?: true;
}

/** Whether fields have their labels above them. */
const Stacked = createContext(false);

/** A label, its control, and what is wrong with what was typed, in the two columns of a `FormGrid` or one below the other. */
export function Field({
  label,
  problem,
  stacked: ownStacked = false,
  children,
}: {
  label: ReactNode;
  problem?: string | null | undefined;
  stacked?: boolean;
  children: (ids: FieldIds) => ReactNode;
}) {
  const id = useId();
  const stacked = useContext(Stacked) || ownStacked;
  const ids: FieldIds = problem ? { id, "aria-describedby": `${id}-problem`, "aria-invalid": true } : { id };
  const body = (
    <>
      <label htmlFor={id} className={stacked ? "" : "pt-1"}>
        {label}
      </label>
      <div className="min-w-0">
        {children(ids)}
        <Problem id={`${id}-problem`} text={problem} />
      </div>
    </>
  );
  return stacked ? <div className="grid content-start gap-1">{body}</div> : body;
}

/** The sentence below a field. */
export function Problem({ id, text }: { id?: string; text: string | null | undefined }) {
  return text ? (
    <p {...(id ? { id } : {})} role="alert" className="mt-0.5 text-small text-red">
      {text}
    </p>
  ) : null;
}

/** Labels at the left, controls at the right. */
export function FormGrid({ narrow = false, children }: { narrow?: boolean; children: ReactNode }) {
  return (
    <div
      className={`grid items-start gap-x-4 gap-y-2 max-sm:grid-cols-1 ${narrow ? "grid-cols-[120px_minmax(0,1fr)]" : "grid-cols-[170px_minmax(0,1fr)]"}`}
    >
      {children}
    </div>
  );
}

/** Fields side by side, three in a row, with their labels above them, under a heading of their own. */
export function FieldGroup({ title, children }: { title: string; children: ReactNode }) {
  return (
    <Stacked value={true}>
      <section aria-label={title} className="mt-3 border-t border-rule pt-2">
        <h3 className="mb-1.5 font-head text-label text-ink-2">{title}</h3>
        <div className="grid grid-cols-3 items-end gap-x-4 gap-y-2 max-sm:grid-cols-1">{children}</div>
      </section>
    </Stacked>
  );
}
