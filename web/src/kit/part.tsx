import { type ComponentType, type LazyExoticComponent, lazy, type ReactNode, Suspense } from "react";
import { ErrorBoundary } from "react-error-boundary";

const notFetched = new Set<() => Promise<unknown>>();

/** A component whose code is fetched when it is first drawn, or by `fetchParts` before that. */
export function part<P extends object>(load: () => Promise<ComponentType<P>>): LazyExoticComponent<ComponentType<P>> {
  notFetched.add(load);
  return lazy(async () => ({ default: await load() }));
}

/** The same of what is wanted just when the server is away: its code is fetched at once, beside what is drawn first. */
export function partAtOnce<P extends object>(
  load: () => Promise<ComponentType<P>>,
): LazyExoticComponent<ComponentType<P>> {
  const loading = load();
  // it is told where it is drawn
  loading.catch(() => undefined);
  return lazy(async () => ({ default: await loading }));
}

/**
 * Fetches all parts that were named so far, and those that they name in turn: then the interface needs the server for data only.
 * One after the other, and none while the server is away: a browser may not ask again for what it once could not get.
 * @param mayFetch whether the server answers now, and nothing more urgent is done
 */
export async function fetchParts(mayFetch: () => Promise<boolean>): Promise<void> {
  for (const load of notFetched) {
    while (!(await mayFetch())) await new Promise((done) => setTimeout(done, ASK_AGAIN));
    notFetched.delete(load);
    await load().catch(() => undefined);
  }
}

/** Pause until it is asked again whether parts may be fetched, milliseconds. */
const ASK_AGAIN = 3000;

/** Parts that a page can do without: nothing stands in their place while they come, or when they cannot be fetched. */
export function Optional({ children }: { children: ReactNode }) {
  return (
    <ErrorBoundary fallback={null}>
      <Suspense>{children}</Suspense>
    </ErrorBoundary>
  );
}
