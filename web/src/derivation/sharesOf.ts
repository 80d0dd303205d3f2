import type { Results } from "./deriver.ts";

/** How much of a stage is done, in the stage's own units. */
export interface Share {
  done: number;
  of: number;
  /** What is counted. */
  words: string;
}

export type Shares = Record<"equip" | "loom" | "numbers" | "prove", Share>;

/** The share done of each stage, from the worker's results so far. */
export function sharesOf(turnouts: number, overview: Results["overview"], proving: Results["proving"]): Shares {
  const complete = new Set(overview?.complete);
  const stopped = new Set(
    overview?.findings.filter(({ severity }) => severity === "stop").flatMap(({ turnoutIds }) => turnoutIds),
  );
  const members = (of: (leader: string) => boolean) =>
    overview?.threads
      .filter(({ turnout }) => of(turnout.id))
      .reduce((sum, { followers }) => sum + 1 + followers.length, 0) ?? 0;
  const leaders = new Map(
    overview?.threads.flatMap(({ turnout, followers }) =>
      [turnout, ...followers].map((each) => [each.id, turnout.id] as const),
    ),
  );
  const ready =
    overview?.loom.wires.filter(({ turnoutId }) => !turnoutId || !stopped.has(leaders.get(turnoutId) ?? "")) ?? [];
  const used = overview?.addresses.filter(({ throws }) => throws !== null) ?? [];
  const counts = Object.values(proving ?? {});
  return {
    equip: { done: members((leader) => complete.has(leader)), of: turnouts, words: "turnouts completely equipped" },
    loom: {
      done: ready.length,
      of: overview?.loom.wires.length ?? 0,
      words: "wires that no grave finding forbids to lay",
    },
    numbers: {
      done: used.filter(({ sharedWith, packet }) => sharedWith.length === 0 && packet).length,
      of: used.length,
      words: "outputs in use with an address of their own",
    },
    prove: {
      done: counts.reduce((sum, { passed }) => sum + passed, 0),
      of: counts.reduce((sum, { steps }) => sum + steps, 0),
      words: "test steps passed and still good",
    },
  };
}
