import { type Dispatch, type SetStateAction, useEffect, useState } from "react";
import { keepText, keptText } from "../tools/browserStore.ts";

/** State of a screen that this browser keeps, or does not when there is no name for it. */
export function useKeptState<T>(name: string | null, fresh: T): [T, Dispatch<SetStateAction<T>>] {
  const key = name === null ? null : `alderman-${name}`;
  const [state, setState] = useState<T>(() => (key === null ? fresh : read(key, fresh)));
  useEffect(() => {
    if (key === null) return;
    // a browser that keeps nothing shows it anew each time
    keepText(key, JSON.stringify(state));
  }, [key, state]);
  return [state, setState];
}

function read<T>(key: string, fresh: T): T {
  const text = keptText(key);
  try {
    return text === null ? fresh : (JSON.parse(text) as T);
  } catch {
    return fresh;
  }
}
