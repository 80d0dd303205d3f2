import { Groups } from "../circuit/groups.ts";
import { ChangedMap } from "../record/changedMap.ts";
import type { Change } from "../record/difference.ts";
import { type Wire as Fact, standingOfWire } from "../record/made.ts";
import type { Steps } from "../record/steps.ts";
import { type Claims, claimsOf } from "./claims.ts";
import type { Shelf } from "./shelf.ts";
import { factEnds } from "./wire.ts";

/** Wires of the record that hang together, whatever they should join, and what they say of nets. */
export interface Bundle {
  facts: readonly Fact[];
  /** Names in the circuit of all ends. */
  names: ReadonlySet<string>;
  claims: Claims;
}

/** The wires of the record in bundles: what one says of nets depends on nothing outside it. */
export interface Bundles {
  /** The bundle of an end, by its name in the circuit. */
  at: ChangedMap<string, Bundle>;
  /** Bundles of wires with a loose end, which hang on nothing. */
  loose: readonly Bundle[];
  /** Bundles in which wires are made or kept. */
  factual: readonly Bundle[];
}

/** Wires in groups that hang together, each in the order of identifiers. */
function tied(facts: readonly Fact[]): Fact[][] {
  const groups = new Groups();
  const nameOf = (fact: Fact) => factEnds(fact).from ?? factEnds(fact).to ?? fact.id;
  for (const fact of facts) groups.join(nameOf(fact), factEnds(fact).to ?? nameOf(fact));
  const number = groups.numbered();
  const tied: Fact[][] = [];
  for (const fact of facts) {
    const at = number.get(nameOf(fact)) ?? 0;
    tied[at] ??= [];
    tied[at].push(fact);
  }
  for (const own of tied) own.sort((a, b) => (a.id < b.id ? -1 : 1));
  return tied;
}

export const NO_BUNDLES: Bundles = { at: new ChangedMap(new Map()), loose: [], factual: [] };

/**
 * The bundles after an edit, in steps, of which those in which nothing changed are the same objects, and the names of all ends whose
 * bundle is another one now.
 * @param change wires that went and that came
 * @param replanned terminals that are in another net than before, or in none
 * @param planned net of a terminal
 */
export function* bundlesAfter(
  before: Bundles,
  change: Change<Fact>,
  replanned: ReadonlySet<string>,
  planned: (terminal: string) => string | undefined,
  shelf: Shelf,
): Steps<{ bundles: Bundles; changed: ReadonlySet<string> }> {
  const gone = new Set(change.gone);
  const come = change.come.filter((fact) => standingOfWire(fact) !== "out");
  const touched = new Set<Bundle>();
  const touch = (name: string | null) => {
    const bundle = name === null ? undefined : before.at.get(name);
    if (bundle) touched.add(bundle);
  };
  for (const fact of [...gone, ...come]) {
    const { from, to } = factEnds(fact);
    touch(from);
    touch(to);
  }
  for (const terminal of replanned) touch(terminal);
  for (const bundle of before.loose) if (bundle.facts.some((fact) => gone.has(fact))) touched.add(bundle);
  if (touched.size === 0 && come.length === 0) return { bundles: before, changed: new Set() };
  const facts = [...touched].flatMap((bundle) => bundle.facts.filter((fact) => !gone.has(fact)));
  const groups = tied([...facts, ...come]);
  yield;
  const fresh = groups.map((own): Bundle => {
    const names = new Set(
      own.flatMap((fact) => [factEnds(fact).from, factEnds(fact).to]).filter((name) => name !== null),
    );
    return { facts: own, names, claims: claimsOf(own, shelf, planned) };
  });
  yield;
  const at = new ChangedMap(before.at);
  for (const { names } of touched) for (const name of names) at.delete(name);
  for (const bundle of fresh) for (const name of bundle.names) at.set(name, bundle);
  const left = (bundles: readonly Bundle[]) => bundles.filter((bundle) => !touched.has(bundle));
  const loose = [...left(before.loose), ...fresh.filter(({ names }) => names.size < 2)];
  const isFactual = ({ claims }: Bundle) => claims.firm.length + claims.idle.length > 0;
  const factual = [...left(before.factual), ...fresh.filter(isFactual)];
  const changed = new Set([...touched, ...fresh].flatMap(({ names }) => [...names]));
  return { bundles: { at, loose, factual }, changed };
}
