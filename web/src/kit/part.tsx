import { type ComponentType, type LazyExoticComponent, lazy, type ReactNode, Suspense } from "react";
import { ErrorBoundary } from "react-error-boundary";

const notFetched = new Set<() => Promise<unknown>>();

/** A component whose code is fetched when it is first drawn, or by `fetchParts` before that. */
export function part<P extends object>(load: () => Promise<ComponentType<P>>): LazyExoticComponent<ComponentType<P>> {
  notFetched.add(load);
  return lazy(async () => ({ default: await load() }));
}

/** Fetches all parts that were named so far, and those that they name in turn: then the interface needs the server for data only. */
export async function fetchParts(): Promise<void> {
  while (notFetched.size > 0) {
    const round = [...notFetched];
    notFetched.clear();
    await Promise.allSettled(round.map((load) => load()));
  }
}

/** Parts that a page can do without: nothing stands in their place while they come, or when they cannot be fetched. */
export function Optional({ children }: { children: ReactNode }) {
  return (
    <ErrorBoundary fallback={null}>
      <Suspense>{children}</Suspense>
    </ErrorBoundary>
  );
}
