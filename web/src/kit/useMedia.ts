import { useSyncExternalStore } from "react";

/** Whether a media query holds, and anew whenever that changes. */
function useMedia(words: string): boolean {
  return useSyncExternalStore(
    (changed) => {
      const query = matchMedia(words);
      query.addEventListener("change", changed);
      return () => query.removeEventListener("change", changed);
    },
    () => matchMedia(words).matches,
    () => false,
  );
}

/** Whether one points with a finger here. */
export const useCoarsePointer = () => useMedia("(pointer: coarse)");

/** Whether the screen is that of a phone held upright. */
export const useNarrow = () => useMedia("(max-width: 699px)");
