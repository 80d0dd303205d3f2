import { isDue, jointsOf, progressOf, type RailwayRecord } from "@alderman/core";
import type { Results } from "./deriver.ts";
import { loomIn } from "./overview.ts";

/** How much of a stage is done, in the stage's own units; of one that is not worked out yet there is none. */
export interface Share {
  done: number;
  of: number;
  /** What is counted. */
  words: string;
}

/** What shares are counted from. */
export type Counted = Pick<Results, "overview" | "proving">;

/** The turnouts, followers among them, of the threads that their leader is asked for. */
function members({ overview }: Counted, of: (leader: string) => boolean): number {
  const own = overview?.threads.filter(({ turnout }) => of(turnout.id)) ?? [];
  return own.reduce((sum, { followers }) => sum + 1 + followers.length, 0);
}

/** Turnouts that have their place on the line. */
export function lineShare(turnouts: number, _results: Counted, record: RailwayRecord | null): Share {
  return { done: record?.spots.length ?? 0, of: turnouts, words: "turnouts placed on the line" };
}

/** Turnouts that have all they need. */
export function equipShare(turnouts: number, results: Counted): Share | null {
  if (!results.overview || results.overview.coming.includes("threads")) return null;
  const complete = new Set(results.overview?.complete);
  const done = members(results, (leader) => complete.has(leader));
  return { done, of: turnouts, words: "turnouts completely equipped" };
}

/** Routes that are asked for by something and in whose way nothing stands. */
export function routesShare(_turnouts: number, { overview }: Counted, record: RailwayRecord | null): Share | null {
  const routes = record?.routes ?? [];
  if (!overview || overview.partial) return null;
  const wrong = new Set(
    overview.findings.flatMap(({ stage, severity, where }) =>
      stage === "routes" && severity === "stop" ? [where] : [],
    ),
  );
  const asked = new Set(record?.routeControls.map(({ routeId }) => routeId));
  const done = routes.filter(({ id, label }) => asked.has(id) && !wrong.has(label)).length;
  return { done, of: routes.length, words: "routes that are asked for, and that can be set" };
}

/** Joints of wires that are made. */
export function loomShare(_turnouts: number, { overview }: Counted): Share | null {
  const loom = loomIn(overview);
  return loom && { ...jointsOf(progressOf(loom.wires)), words: "joints of wires made" };
}

/** Outputs in use that answer to the address that they are to have, which is theirs alone. */
export function numbersShare(_turnouts: number, { overview }: Counted): Share | null {
  if (!overview || overview.coming.includes("addresses")) return null;
  const used = overview.addresses.filter(({ throws }) => throws !== null);
  const done = used.filter((output) => output.sharedWith.length === 0 && output.packet && !isDue(output)).length;
  return { done, of: used.length, words: "outputs in use that answer to an address of their own" };
}

/** Steps of the test sheets that have passed and still hold. */
export function proveShare(_turnouts: number, { proving }: Counted): Share | null {
  if (!proving) return null;
  const counts = Object.values(proving);
  return {
    done: counts.reduce((sum, { passed }) => sum + passed, 0),
    of: counts.reduce((sum, { steps }) => sum + steps, 0),
    words: "test steps passed and still good",
  };
}
