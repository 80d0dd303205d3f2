import { useMemo, useRef } from "react";

/** An object that stays the same while its functions are always the latest ones. */
export function useLatest<T extends object>(functions: T): T {
  const latest = useRef(functions);
  latest.current = functions;
  return useMemo(
    () =>
      Object.fromEntries(
        Object.keys(latest.current).map((name) => [
          name,
          (...given: unknown[]) =>
            (latest.current as Record<string, (...given: unknown[]) => unknown>)[name]?.(...given),
        ]),
      ) as T,
    [],
  );
}
