import { useMemo } from "react";
import { useAppSelector } from "../store/store.ts";
import { useResults } from "./derive.ts";
import { type Shares, sharesOf } from "./sharesOf.ts";

/** The share done of each stage, from the worker's latest results. */
export function useShares(): Shares {
  const turnouts = useAppSelector((state) => state.railway.record?.turnouts.length ?? 0);
  const { overview, proving } = useResults();
  return useMemo(() => sharesOf(turnouts, overview, proving), [turnouts, overview, proving]);
}
