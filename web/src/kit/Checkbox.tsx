import { Check, Minus } from "lucide-react";
import { Checkbox as Radix } from "radix-ui";
import { type ReactNode, useId } from "react";

/** A tick, with its words beside it or, with `label`, for those who listen only. `"indeterminate"`: some of several. */
export function Checkbox({
  checked,
  onChange,
  label,
  children,
  className = "",
}: {
  checked: boolean | "indeterminate";
  onChange: (checked: boolean) => void;
  label?: string;
  children?: ReactNode;
  className?: string;
}) {
  const id = useId();
  return (
    <span className={`inline-flex items-center gap-1.5 align-middle max-sm:min-h-11 ${className}`}>
      <Radix.Root
        id={id}
        checked={checked}
        onCheckedChange={(now) => onChange(now === true)}
        {...(label ? { "aria-label": label } : {})}
        className="grid size-4 flex-none place-items-center rounded-[2px] border border-ink bg-sheet data-[state=checked]:border-copper data-[state=checked]:bg-copper data-[state=indeterminate]:border-copper data-[state=indeterminate]:bg-copper"
      >
        <Radix.Indicator className="text-on-copper">
          {checked === "indeterminate" ? <Minus size={13} strokeWidth={3} /> : <Check size={13} strokeWidth={3} />}
        </Radix.Indicator>
      </Radix.Root>
      {children && <label htmlFor={id}>{children}</label>}
    </span>
  );
}
