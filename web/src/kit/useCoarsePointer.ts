import { useSyncExternalStore } from "react";

/** Whether one points with a finger here. */
export function useCoarsePointer(): boolean {
  return useSyncExternalStore(
    (changed) => {
      const query = matchMedia("(pointer: coarse)");
      query.addEventListener("change", changed);
      return () => query.removeEventListener("change", changed);
    },
    () => matchMedia("(pointer: coarse)").matches,
    () => false,
  );
}
