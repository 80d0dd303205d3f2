import { figureValue, findType } from "../catalogue/catalogue.ts";
import type { DeviceType } from "../catalogue/deviceType.ts";
import type { SupplyLoad } from "../readings/supplyLoads.ts";
import type { Device } from "../record/schemas.ts";
import { terminalName } from "../schematic/nets.ts";
import { amps } from "../units/format.ts";
import { splitSupply } from "./remedies.ts";
import { rule } from "./rule.ts";

/** Share of the rating above which a supply is worth a look (common practice). */
const LOOK_SHARE = 0.8;

interface Loaded extends SupplyLoad {
  device: Device;
  type: DeviceType;
  rating: number;
}

export const supplyOverRating = rule<Loaded>({
  id: "supply-over-rating",
  stage: "equip",
  column: null,
  severity: ({ worst, rating }) => (worst > rating ? "stop" : "look"),
  title: "A supply is near or over its rating",
  about:
    "What hangs on a supply is solved at rest with all turnouts normal and all reverse, while all move at once as at the start of a day, and with each coil's control held so that the discharge unit charges at its hardest. Above four fifths of the rating is worth a look; above the rating the supply runs hot or shuts down.",
  look: ({ loads, record }) =>
    loads.flatMap((load): Loaded[] => {
      const device = record.devices.find(({ id }) => id === load.deviceId);
      const type = device && findType(record, device.typeId);
      if (!device || !type?.figures.ratedAmps) return [];
      const rating = figureValue(type, "ratedAmps");
      return load.worst > rating * LOOK_SHARE ? [{ ...load, device, type, rating }] : [];
    }),
  subject: ({ device }) => device.id,
  where: ({ device }) => device.label,
  terminals: ({ device, type }) => [terminalName(device.label, type.terminals[0]?.name ?? "+")],
  turnouts: () => [],
  why: ({ device, rest, moving, worst, rating, when }) =>
    `${device.label} gives ${amps(worst)} ${when} (${amps(rest)} at rest, ${amps(moving)} while all move); it is rated ${amps(rating)}, and ${amps(rating * LOOK_SHARE)} is good practice.`,
  remedies: (loaded, { record }) => splitSupply(record, loaded),
  caution: ({ type }) => type,
});
