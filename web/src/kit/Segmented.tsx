import { ToggleGroup } from "radix-ui";
import type { ReactNode } from "react";

export interface Segment<T extends string> {
  value: T;
  text: ReactNode;
  disabled?: boolean;
}

const BAR = "inline-flex flex-none overflow-hidden rounded-[3px] border border-ink bg-sheet";
const PART =
  "flex items-center justify-center gap-1.5 whitespace-nowrap border-l border-ink font-head text-button font-semibold first:border-l-0 data-[state=on]:bg-ink data-[state=on]:text-sheet focus-visible:-outline-offset-3 disabled:text-ink-2 disabled:line-through";
const SIZES = { normal: "min-h-7 px-2.5 max-sm:min-h-11", small: "min-h-6 px-2 text-label max-sm:min-h-11" };

/** One of a few, all in view; the arrows choose, Tab goes past. */
export function Segmented<T extends string>({
  label,
  value,
  segments,
  onChange,
  size = "normal",
  className = "",
}: {
  label: string;
  /** Null when nothing has been chosen yet. */
  value: T | null;
  segments: readonly Segment<T>[];
  onChange: (value: T) => void;
  size?: keyof typeof SIZES;
  className?: string;
}) {
  return (
    <ToggleGroup.Root
      type="single"
      aria-label={label}
      value={value ?? ""}
      // what is chosen already stays chosen when it is pressed again
      onValueChange={(chosen) => chosen && onChange(chosen as T)}
      className={`${BAR} ${className}`}
    >
      {segments.map((segment) => (
        <ToggleGroup.Item
          key={segment.value}
          value={segment.value}
          disabled={segment.disabled}
          className={`${PART} ${SIZES[size]} ${className.includes("w-full") ? "flex-1" : ""}`}
        >
          {segment.text}
        </ToggleGroup.Item>
      ))}
    </ToggleGroup.Root>
  );
}
