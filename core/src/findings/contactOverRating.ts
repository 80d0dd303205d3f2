import { opensFrom, protectionOf } from "../catalogue/protection.ts";
import { traitsOf } from "../catalogue/traits.ts";
import { Draft } from "../equip/draft.ts";
import { contactsOf } from "../hands/troubles.ts";
import { standing } from "../hands/words.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { terminalName } from "../schematic/nets.ts";
import { type Fitted, fitted, supplyOf, type Thread } from "../schematic/thread.ts";
import { amps } from "../units/format.ts";
import { coilsThrough } from "./contactOverAmps.ts";
import { fitWithFigures, sentence } from "./remedies.ts";
import { PULSE_TIMES } from "./routeContactAmps.ts";
import { type Look, type Remedy, rule } from "./rule.ts";
import { threadsWith } from "./threadsOf.ts";

interface Burdened {
  at: Fitted;
  part: string;
  flows: number;
  rated: number;
  /** How things stand for it; null for a short at a frog until the track's breaker opens. */
  when: string | null;
  /** What ends a short at a frog. */
  supply: string | null;
  threads: Thread[];
}

export const contactOverRating = rule<Burdened>({
  id: "contact-over-rating",
  stage: "equip",
  column: null,
  severity: ({ when }) => (when === null ? "look" : "stop"),
  title: "A contact carries more for long than it is rated for",
  about:
    "The contacts of relays and motors, of toggles and keys, are rated for a current that lasts; above it they grow hot and pit. The rule looks at the solved current of every contact in every combination of what can be set. A contact that feeds a frog also carries the track's short until the breaker opens: for that second it bears about three times its rating (common practice).",
  look: (look) => {
    const { record, threads, hands } = look;
    // coils through a control's contact have a finding of their own
    const told = new Set(coilsThrough(look).map(({ control }) => control.device.id));
    const worst = new Map<string, Burdened>();
    for (const { kind, id, part, amps: flows, limit: rated, when } of hands) {
      if (kind !== "contact" || part === null || told.has(id) || (worst.get(id)?.flows ?? 0) >= flows) continue;
      const own = threadsWith(threads, new Set([id]));
      worst.set(id, {
        ...{ at: fitted(record, id), part, flows, rated, when: standing(record, when), supply: null, threads: own },
      });
    }
    for (const each of frogShorts(look)) if (!worst.has(each.at.device.id)) worst.set(each.at.device.id, each);
    return [...worst.values()];
  },
  subject: ({ at }) => at.device.id,
  where: ({ at }) => at.device.label,
  terminals: ({ at, part }) => [terminalName(at.device.label, part)],
  turnouts: ({ threads }) => threads,
  why: ({ at, part, flows, rated, when, supply }) =>
    when === null
      ? `A short at the frog sends ${amps(flows)} through ${terminalName(at.device.label, part)} until ${supply} opens; the contact is rated ${amps(rated)}, and bears ${amps(rated * PULSE_TIMES)} for that second.`
      : `${sentence(when)}, ${terminalName(at.device.label, part)} carries ${amps(flows)}; the contact is rated ${amps(rated)}.`,
  remedies: ({ at, flows, when }, { record }) =>
    strongerContact(record, at, when === null ? flows / PULSE_TIMES : flows),
  caution: ({ at }) => at.type,
});

/** Contacts that feed a frog, where the track's breaker lets more through than they bear for a second. */
function frogShorts({ threads, record, circuitry }: Look): Burdened[] {
  return threads.flatMap((thread) =>
    thread.frogs.flatMap(({ device, from, assignment }): Burdened[] => {
      const rated = from && from.type.contactSets > 0 ? contactsOf(from.type)?.rated : undefined;
      const supply = supplyOf(record, device.id);
      if (!from || !rated || !supply || traitsOf(supply.type).gives !== "track") return [];
      const opens = opensFrom(protectionOf(supply.type));
      if (opens <= rated * PULSE_TIMES) return [];
      const found = circuitry.short(`${device.id}:F`, `${device.id}:L`, [`${device.id}:F`, `${device.id}:L`]);
      const other = circuitry.short(`${device.id}:F`, `${device.id}:R`, [`${device.id}:F`, `${device.id}:R`]);
      const flows = Math.min(opens, Math.max(found?.amps ?? 0, other?.amps ?? 0));
      if (flows <= rated * PULSE_TIMES) return [];
      const part = `S${assignment.way ?? 1}c`;
      return [{ at: from, part, flows, rated, when: null, supply: supply.device.label, threads: [thread] }];
    }),
  );
}

/** The same thing with contacts that bear more, as an own type. */
function strongerContact(record: RailwayRecord, at: Fitted, flows: number): Remedy[] {
  const rating = USUAL_CONTACTS.find((each) => each >= flows);
  if (rating === undefined) return [];
  const draft = new Draft(record);
  const figure = at.type.contactSets > 0 ? "contactAmps" : "ratedAmps";
  fitWithFigures(draft, at, `contacts of ${rating} A`, { [figure]: rating });
  const label = `Take contacts of ${rating} A for ${at.device.label}`;
  return [{ label, group: draft.group(label) }];
}

/** Usual ratings of contacts, amps (common practice). */
const USUAL_CONTACTS = [1, 2, 3, 5, 10, 16, 25];
