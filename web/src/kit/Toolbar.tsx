import { Toolbar as Radix } from "radix-ui";
import type { ReactNode } from "react";

/** A line of controls above a list. */
export function Toolbar({ label, children }: { label: string; children: ReactNode }) {
  return (
    <Radix.Root
      aria-label={label}
      className="flex flex-none flex-wrap items-center gap-x-3 gap-y-1 border-b border-rule px-3 py-1.5"
    >
      {children}
    </Radix.Root>
  );
}
