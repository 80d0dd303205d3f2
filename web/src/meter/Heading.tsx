import type { ReactNode } from "react";

/** A heading within the dock. */
export function Heading({ children }: { children: ReactNode }) {
  return <div className="font-head text-label font-semibold text-ink-2">{children}</div>;
}
