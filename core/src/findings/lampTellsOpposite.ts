import { Draft } from "../equip/draft.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { Thread, ThreadLamp } from "../schematic/thread.ts";
import { NEVER, turnAt } from "../sense/edits.ts";
import { hasTurns, type Ledger, type Link, ledgerOf } from "../sense/ledger.ts";
import { PLACES } from "../sense/places.ts";
import { list } from "../units/format.ts";
import { lampsOf, type Remedy, rule } from "./rule.ts";

interface Opposite {
  thread: Thread;
  lamp: ThreadLamp;
  causes: Link[];
}

export const lampTellsOpposite = rule<Opposite>({
  id: "lamp-tells-opposite",
  stage: "equip",
  column: "lamp",
  severity: "look",
  title: "A lamp tells the opposite of how the blades lie",
  about:
    "By the sense ledger the lamp is turned once more than the blades are: its leads are exchanged, or the contact that lights it makes on the other side. Where both are so, it is right; then say what the contact does, and the finding goes.",
  look: ({ record, threads }) =>
    lampsOf(threads).flatMap(({ thread, lamp }): Opposite[] => {
      if (!hasTurns(record, thread)) return [];
      const ledger = ledgerOf(record, thread);
      return isOpposite(ledger, lamp) ? [{ thread, lamp, causes: causesOf(ledger, lamp) }] : [];
    }),
  subject: ({ lamp }) => lamp.device.id,
  where: ({ lamp }) => lamp.device.label,
  terminals: ({ lamp }) => [lamp.device.label],
  turnouts: ({ thread }) => [thread],
  why: ({ lamp, causes }) => {
    const places = causes.map(({ link, at }) => `${PLACES[link].name} at ${at}`);
    const many = causes.length > 1 || causes.some(({ link }) => PLACES[link].many);
    return `With ${lamp.turnout.label} at N, ${lamp.device.label} tells R: the ${list(places)} ${many ? "are" : "is"} turned.`;
  },
  remedies: ({ thread, lamp }, { record }) => [
    swapLeads(record, lamp),
    ...contactNoted(record, ledgerOf(record, thread), lamp),
  ],
});

/** The lamp differs from the blades of the turnout whose lamp it is, by the first of its controls. */
function isOpposite(ledger: Ledger, of: ThreadLamp): boolean {
  const { lamp, blades } = outcomesOf(ledger, of);
  return lamp !== undefined && blades !== undefined && lamp.wrong !== blades.wrong;
}

function outcomesOf({ outcomes }: Ledger, { device, turnout }: ThreadLamp) {
  return {
    lamp: outcomes.find(({ what, thingId }) => what === "lamp" && thingId === device.id),
    blades: outcomes.find(({ what, thingId }) => what === "blades" && thingId === turnout.id),
  };
}

/** What turns the one and not the other. */
function causesOf(ledger: Ledger, of: ThreadLamp): Link[] {
  const { lamp, blades } = outcomesOf(ledger, of);
  const turns = (chain: readonly string[] = [], key: string) => chain.includes(key);
  return ledger.links.filter(({ key, inverts }) => inverts && turns(lamp?.chain, key) !== turns(blades?.chain, key));
}

function swapLeads(record: RailwayRecord, { device, assignment }: ThreadLamp): Remedy {
  const draft = new Draft(record);
  draft.put("assignment", { ...assignment, crossed: !assignment.crossed });
  const words = `Swap the leads of ${device.label}`;
  return { label: words, group: draft.group(words) };
}

/** For a lamp whose leads were exchanged because its contact makes on the other side. */
function contactNoted(record: RailwayRecord, { links }: Ledger, { from }: ThreadLamp): Remedy[] {
  const contact = links.find(({ link, deviceId }) => link === "contact" && deviceId === from.device.id);
  if (contact?.known !== "assumed") return [];
  const draft = new Draft(record);
  turnAt(draft, contact, !contact.inverts, { known: "seen", at: NEVER });
  const label = `The lamp is right: the contact of ${from.device.label} makes on the other side`;
  return [{ label, group: draft.group(`Noted which side the contact of ${from.device.label} makes`) }];
}
