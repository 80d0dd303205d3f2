import type { LucideIcon } from "lucide-react";
import type { ComponentProps } from "react";
import { Tip } from "./Tooltip.tsx";

/** A button that is an icon only; its name shows when it is pointed at, and is read out. */
export function IconButton({
  icon: Icon,
  label,
  className = "",
  ...rest
}: { icon: LucideIcon; label: string } & ComponentProps<"button">) {
  return (
    <Tip text={label}>
      <button
        type="button"
        aria-label={label}
        className={`inline-grid size-6 flex-none place-items-center rounded-[3px] text-ink-2 hover:bg-sheet-2 hover:text-ink max-sm:size-11 ${className}`}
        {...rest}
      >
        <Icon size={15} aria-hidden="true" />
      </button>
    </Tip>
  );
}
