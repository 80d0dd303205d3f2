import { opensFrom, protectionOf } from "../catalogue/protection.ts";
import { traitsOf } from "../catalogue/traits.ts";
import { Draft } from "../equip/draft.ts";
import { terminalName } from "../schematic/nets.ts";
import { type Fitted, supplyOf, type Thread } from "../schematic/thread.ts";
import { amps } from "../units/format.ts";
import { fitWithFigures } from "./remedies.ts";
import { type Look, rule } from "./rule.ts";

interface Late {
  unit: Fitted;
  supply: Fitted;
  /** What a wheel that bridges draws, what opens the supply, and what changes the unit over, amps. */
  flows: number;
  opens: number;
  changes: number;
  threads: Thread[];
}

export const polarityUnitLate = rule<Late>({
  id: "polarity-unit-late",
  stage: "equip",
  column: "frog",
  severity: "stop",
  title: "A polarity unit does not change over before the track shuts down",
  about:
    "An automatic unit notices a wheel that bridges frog and rail by the short that it makes, and changes over. The short has to draw what the unit needs, and the command station or a fuse must not open first. The rule lays a solved short from the frog to each rail.",
  look: (look) => look.threads.flatMap((thread) => lateOn(look, thread)),
  subject: ({ unit }) => unit.device.id,
  where: ({ unit }) => unit.device.label,
  terminals: ({ unit }) => [terminalName(unit.device.label, "F")],
  turnouts: ({ threads }) => threads,
  why: ({ unit, supply, flows, opens, changes }) =>
    flows < changes
      ? `A wheel that bridges draws ${amps(flows)} from ${supply.device.label}; ${unit.device.label} changes over from ${amps(changes)}.`
      : `${unit.device.label} changes over from ${amps(changes)}, and ${supply.device.label} opens from ${amps(opens)}.`,
  remedies: ({ unit, flows, opens }, { record }) => {
    const draft = new Draft(record);
    const at = Math.round(Math.min(flows, opens) * SURELY * 10) / 10;
    fitWithFigures(draft, unit, `from ${amps(at)}`, { tripAmps: at });
    const label = `Set ${unit.device.label} to change over from ${amps(at)}`;
    return at > 0 ? [{ label, group: draft.group(label) }] : [];
  },
});

/** Share of what flows at which a unit is set to act: well before anything else does (common practice). */
const SURELY = 0.6;

function lateOn({ record, circuitry }: Look, thread: Thread): Late[] {
  return thread.frogs.flatMap(({ device, from }): Late[] => {
    const changes = from?.type.figures.tripAmps?.value;
    if (!from || traitsOf(from.type).inTrack !== "polarity-unit" || !changes) return [];
    const supply = supplyOf(record, from.device.id) ?? supplyOf(record, device.id);
    if (!supply) return [];
    const shorts = ["L", "R"].flatMap((rail) => {
      const ends = [`${device.id}:F`, `${device.id}:${rail}`] as const;
      return circuitry.short(...ends, ends)?.amps ?? [];
    });
    const flows = Math.max(0, ...shorts);
    const opens = opensFrom(protectionOf(supply.type));
    // without a wheel's way to the rail there is nothing to be said
    if (flows < NOTHING || Math.min(flows, opens) > changes) return [];
    return [{ unit: from, supply, flows, opens, changes, threads: [thread] }];
  });
}

/** Less than this through a short comes from no supply, amps. */
const NOTHING = 1e-3;
