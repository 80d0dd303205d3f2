import { figureValue, findType } from "../catalogue/catalogue.ts";
import type { DeviceType } from "../catalogue/deviceType.ts";
import { fuseAbove, protectionOf } from "../catalogue/protection.ts";
import type { SupplyLoad } from "../hands/supplyLoads.ts";
import { find } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { Device } from "../record/schemas.ts";
import { terminalName } from "../schematic/nets.ts";
import type { Thread } from "../schematic/thread.ts";
import { amps } from "../units/format.ts";
import { fuseBehind, splitSupply, strongerSupply } from "./remedies.ts";
import { type Remedy, rule } from "./rule.ts";
import { isShortByHands } from "./shortByHands.ts";
import { threadsOn } from "./threadsOf.ts";

/** Share of the rating above which a supply is worth a look (common practice). */
const LOOK_SHARE = 0.8;

interface Loaded extends SupplyLoad {
  device: Device;
  type: DeviceType;
  rating: number;
  threads: Thread[];
}

export const supplyOverRating = rule<Loaded>({
  id: "supply-over-rating",
  stage: "equip",
  column: null,
  severity: ({ worst, rating, blocked }) => (worst > rating && !blocked ? "stop" : "look"),
  title: "A supply is near or over its rating",
  about:
    "What hangs on a supply is solved at rest with all turnouts normal and all reverse, while all move at once as at the start of a day, and with everything drawing at once that can: lamps in the colour that takes more, two controls held, servos held against their stops, and on a track bus the engines that run at once. Above four fifths of the rating is worth a look, with servos held against their stops above all of it; above the rating the supply runs hot or shuts down.",
  look: ({ loads, record, threads, hands }) => {
    // what controls thrown against each other do has a finding of its own
    const shorted = new Set(hands.filter(isShortByHands).map(({ id }) => id));
    return loads.flatMap((load): Loaded[] => {
      if (shorted.has(load.deviceId)) return [];
      const device = find(record, "device", load.deviceId);
      const type = device && findType(record, device.typeId);
      if (!device || !type?.figures.ratedAmps) return [];
      const { fuse } = protectionOf(type);
      const rating = Math.min(figureValue(type, "ratedAmps"), fuse ?? Number.POSITIVE_INFINITY);
      // servos against their stops are a mistake by themselves: a supply has to bear that, without a fifth to spare
      const lasting = load.blocked ? Math.max(load.rest, load.moving) : load.worst;
      if (lasting <= rating * LOOK_SHARE && load.worst <= rating) return [];
      return [{ ...load, device, type, rating, threads: threadsOn(record, threads, device.id) }];
    });
  },
  subject: ({ device }) => device.id,
  where: ({ device }) => device.label,
  terminals: ({ device, type }) => [terminalName(device.label, type.terminals[0]?.name ?? "+")],
  turnouts: ({ threads }) => threads,
  why: ({ device, type, rest, moving, worst, rating, when }) => {
    const { fuse, trips } = protectionOf(type);
    if (trips !== null && worst > trips)
      return `${device.label} would have to give ${amps(worst)} ${when}, and shuts down from ${amps(trips)}: all that hangs on it is dead.`;
    const isFuse = fuse === rating;
    return `${device.label} gives ${amps(worst)} ${when} (${amps(rest)} at rest, ${amps(moving)} while all move); ${isFuse ? "the fuse behind it is of" : "it is rated"} ${amps(rating)}, and ${amps(rating * LOOK_SHARE)} is good practice.`;
  },
  remedies: (loaded, { record }) => [
    ...splitSupply(record, loaded),
    ...(isFuseTooSmall(loaded) ? largerFuse(record, loaded) : strongerSupply(record, loaded, loaded.worst)),
  ],
  caution: ({ type }) => type,
});

/** Whether the supply itself bears what the fuse behind it does not. */
function isFuseTooSmall({ type, worst }: Loaded): boolean {
  const { fuse } = protectionOf(type);
  return fuse !== null && fuse < figureValue(type, "ratedAmps") && worst <= figureValue(type, "ratedAmps") * LOOK_SHARE;
}

function largerFuse(record: RailwayRecord, loaded: Loaded): Remedy[] {
  const size = fuseAbove(loaded.worst, LOOK_SHARE);
  return size !== null && size <= figureValue(loaded.type, "ratedAmps") ? [fuseBehind(record, loaded, size)] : [];
}
