import type { ReactNode } from "react";
import { checkAgain, useResults } from "../derivation/hooks.ts";
import { Mark } from "../drawing/Mark.tsx";
import { Button } from "../kit/Button.tsx";
import { useAppDispatch } from "../store/store.ts";

/** Stands where something will be shown that is not worked out yet: how far that is, or why it cannot be. */
export function Awaited() {
  return (
    <p className="p-3 text-ink-2">
      <Checked>{null}</Checked>
    </p>
  );
}

/** Says that nothing was found, once that is known of the record as it is; else, how far the checking has come. */
export function Clear({ children }: { children: ReactNode }) {
  const { state } = useResults();
  return state === "known" ? children : <Checked>{children}</Checked>;
}

/** Says something only once everything follows from the record as it is; else, how far that has come. */
export function Checked({ children }: { children: ReactNode }) {
  const { state, share, failure } = useResults();
  const dispatch = useAppDispatch();
  if (state === "checked") return children;
  if (state === "checking" || state === "known") {
    const far = share === null ? "" : ` ${Math.round(share * 100)} %`;
    return <span className="text-ink-2">Checking ...{far}</span>;
  }
  return (
    <span role="alert" className="inline-flex flex-wrap items-center gap-2">
      <Mark verdict="stale" size={14} /> Could not be checked: {failure}
      <Button size="small" onClick={() => dispatch(checkAgain())}>
        Check again
      </Button>
    </span>
  );
}
