import { figureValue } from "../catalogue/catalogue.ts";
import { traitsOf } from "../catalogue/traits.ts";
import { changeType } from "../equip/devices.ts";
import { Draft } from "../equip/draft.ts";
import { feed } from "../equip/feed.ts";
import { lampIn } from "../readings/threadReading.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { Thread, ThreadLamp } from "../schematic/thread.ts";
import { volts } from "../units/format.ts";
import { joinedAtContacts } from "./contactUsedTwice.ts";
import { hangsOnDc } from "./frogLampsOnDc.ts";
import { type Look, POSITIONS, type Remedy, rule } from "./rule.ts";

interface Backwards {
  thread: Thread;
  lamp: ThreadLamp;
  sees: number;
  bears: number;
}

export const lampReverseVoltage = rule<Backwards>({
  id: "lamp-reverse-voltage",
  stage: "equip",
  column: "lamp",
  severity: "look",
  title: "A lamp sees more volts backwards than it bears",
  about:
    "An LED lets nothing through backwards, and so takes the whole voltage on itself. On digital track power and on AC that happens half of the time. Most LEDs are rated for 5 V backwards; a diode the other way round beside each keeps it to less than one. The rule solves both half cycles.",
  look: (look) =>
    look.inThreads("backwards", (thread) => thread.lamps.flatMap((lamp) => backwards(look, thread, lamp))),
  subject: ({ lamp }) => lamp.device.id,
  where: ({ lamp }) => lamp.device.label,
  terminals: ({ lamp }) => [lamp.device.label],
  turnouts: ({ thread }) => [thread],
  why: ({ lamp, sees, bears }) =>
    `An LED of ${lamp.device.label} sees ${volts(sees)} backwards; it bears ${volts(bears)}.`,
  remedies: ({ lamp }, { record }) =>
    traitsOf(lamp.type).shows === "frog-leds"
      ? [
          {
            label: `Fit diodes beside the LEDs of ${lamp.device.label}`,
            group: changeType(record, lamp.device.id, "lamps-frog-diodes"),
          },
        ]
      : [onDc(record, lamp)],
  caution: ({ lamp }) => lamp.type,
});

/** Feeds a lamp from a supply of DC, one that is there or its usual one. */
function onDc(record: RailwayRecord, { device, type }: ThreadLamp): Remedy {
  const draft = new Draft(record);
  draft.unassign((a) => a.role === "supply" && a.toDeviceId === device.id);
  feed(draft, device, type);
  const label = `Feed ${device.label} from a supply of DC`;
  return { label, group: draft.group(label) };
}

/** A lamp that sees more backwards than it bears; none that hangs on a contact which serves two things, or on DC at a frog. */
function backwards({ record, reading }: Look, thread: Thread, lamp: ThreadLamp): Backwards[] {
  if (!lamp.type.figures.bearsVolts || joinedAtContacts(record).has(lamp.device.id) || hangsOnDc(record, lamp))
    return [];
  const bears = figureValue(lamp.type, "bearsVolts");
  const sees = Math.max(
    ...POSITIONS.map((position) => lampIn(reading(thread, position, "rest"), lamp)?.backwardsVolts ?? 0),
  );
  return sees > bears ? [{ thread, lamp, sees, bears }] : [];
}
