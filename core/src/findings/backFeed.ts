import { setDriver } from "../equip/equipment.ts";
import { deviceOf } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { Device } from "../record/schemas.ts";
import type { Thread } from "../schematic/thread.ts";
import { list, volts } from "../units/format.ts";
import { joinedAtContacts } from "./contactUsedTwice.ts";
import { made } from "./remedies.ts";
import { type Remedy, rule } from "./rule.ts";
import { threadsOn } from "./threadsOf.ts";

interface FedBack {
  supply: Device;
  left: number;
  threads: Thread[];
}

export const backFeed = rule<FedBack>({
  id: "back-feed",
  stage: "equip",
  column: null,
  severity: "look",
  title: "A supply that is off is fed by another",
  about:
    "Where something joins two supplies besides their common return, the one that is switched off, and all that hangs on it, is kept half alive by the other: boards hang, lamps glow, and current flows where no fuse was meant for it. The rule switches each supply off by itself, with all that it feeds, and looks at the volts that are left across it.",
  look: ({ record, threads, hands }) =>
    hands
      .filter(({ kind, id }) => kind === "back-feed" && !joinedAtContacts(record).has(id))
      .map(({ id, amps: left }) => ({ supply: deviceOf(record, id), left, threads: threadsOn(record, threads, id) })),
  subject: ({ supply }) => supply.id,
  where: ({ supply }) => supply.label,
  terminals: ({ supply }) => [supply.label],
  turnouts: ({ threads }) => threads,
  why: ({ supply, left }) =>
    `With ${supply.label} switched off and all other supplies on, ${volts(left)} are left across it.`,
  remedies: ({ supply, threads }, { record }) => ontoOne(record, supply, threads),
});

/** What hangs on a supply directly, put on another of its kind, so that nothing is left to be fed back. */
function ontoOne(record: RailwayRecord, supply: Device, threads: readonly Thread[]): Remedy[] {
  const own = threads.filter(({ motors }) => motors.some(({ driver }) => driver?.device.id === supply.id));
  return record.devices
    .filter(({ id, typeId }) => typeId === supply.typeId && id !== supply.id)
    .slice(0, 2)
    .map((other) =>
      made(record, `Put ${list(own.map(({ label }) => label))} on ${other.label}, too`, (draft) => {
        for (const { turnout } of own) setDriver(draft, turnout.id, { deviceId: other.id, way: null });
      }),
    )
    .filter(() => own.length > 0);
}
