import { Draft } from "../equip/draft.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { Thread, ThreadLamp } from "../schematic/thread.ts";
import { NEVER, turnAt } from "../sense/edits.ts";
import { hasTurns, type Ledger, type Link, ledgerOf } from "../sense/ledger.ts";
import { PLACES } from "../sense/places.ts";
import { list } from "../units/format.ts";
import { type Remedy, rule } from "./rule.ts";

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
    threads.flatMap((thread): Opposite[] => {
      const { lamp } = thread;
      if (!lamp || !hasTurns(record, thread)) return [];
      const ledger = ledgerOf(record, thread);
      return isOpposite(ledger) ? [{ thread, lamp, causes: causesOf(ledger) }] : [];
    }),
  subject: ({ lamp }) => lamp.device.id,
  where: ({ lamp }) => lamp.device.label,
  terminals: ({ lamp }) => [lamp.device.label],
  turnouts: ({ thread }) => [thread],
  why: ({ thread, lamp, causes }) => {
    const places = causes.map(({ link, at }) => `${PLACES[link].name} at ${at}`);
    const many = causes.length > 1 || causes.some(({ link }) => PLACES[link].many);
    return `With ${thread.label} at N, ${lamp.device.label} tells R: the ${list(places)} ${many ? "are" : "is"} turned.`;
  },
  remedies: ({ thread, lamp }, { record }) => [
    swapLeads(record, lamp),
    ...contactNoted(record, ledgerOf(record, thread), lamp),
  ],
});

/** The lamp differs from the blades of the turnout whose lamp it is, by the first of its controls. */
function isOpposite({ outcomes }: Ledger): boolean {
  const lamp = outcomes.find(({ what }) => what === "lamp");
  const blades = outcomes.find(({ what }) => what === "blades");
  return lamp !== undefined && blades !== undefined && lamp.wrong !== blades.wrong;
}

/** What turns the one and not the other. */
function causesOf({ links, outcomes }: Ledger): Link[] {
  const lamp = outcomes.find(({ what }) => what === "lamp")?.chain ?? [];
  const blades = outcomes.find(({ what }) => what === "blades")?.chain ?? [];
  return links.filter(({ key, inverts }) => inverts && lamp.includes(key) !== blades.includes(key));
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
