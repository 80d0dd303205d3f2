import { genericType, typeOf, typesOfFamily } from "../catalogue/catalogue.ts";
import type { DeviceType } from "../catalogue/deviceType.ts";
import { traitsOf } from "../catalogue/traits.ts";
import { changeType } from "../equip/devices.ts";
import { AT_REST } from "../readings/threadReading.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { Device } from "../record/schemas.ts";
import { terminalName } from "../schematic/nets.ts";
import { type Fitted, isLeftOn, supplyOf, type Thread } from "../schematic/thread.ts";
import { volts } from "../units/format.ts";
import { type Remedy, rule } from "./rule.ts";

interface OutOfRange {
  device: Device;
  type: DeviceType;
  supply: Fitted;
  /** Terminals at which it gets its volts. */
  at: [string, string];
  gets: number;
  least: number;
  most: number;
  threads: Thread[];
}

export const supplyOutOfRange = rule<OutOfRange>({
  id: "supply-out-of-range",
  stage: "equip",
  column: "driver",
  severity: "stop",
  title: "A board gets more or fewer volts than it is made for",
  about:
    "Boards are made for a range of volts: a decoder for 9 to 15 V DC, a discharge unit for what its capacitor bears. Below it they do not work or a motor is not moved; above it they are destroyed. The rule holds the solved volts at the board, or across the capacitor, against the range, all turnouts at rest.",
  look: ({ record, threads, circuitry }) =>
    record.devices.flatMap((device): OutOfRange[] => {
      const type = typeOf(record, device);
      const { leastVolts, mostVolts } = type.figures;
      const supply = supplyOf(record, device.id);
      if (type.family !== "driver" || !leastVolts || !mostVolts || !supply) return [];
      const at: [string, string] = ["+", "−"];
      const gets = circuitry.volts(`${device.id}:${at[0]}`, `${device.id}:${at[1]}`, AT_REST.N);
      const driven = threads.filter(({ motors }) =>
        motors.some(({ driver, unit }) => [driver, unit].some((each) => each?.device.id === device.id)),
      );
      // a control left on drains a unit, which is another finding
      const drained = traitsOf(type).gives === "pulse" && driven.some(isLeftOn);
      if (gets === undefined || drained) return [];
      const size = Math.abs(gets);
      if (size >= leastVolts.value && size <= mostVolts.value) return [];
      return [
        { device, type, supply, at, gets: size, least: leastVolts.value, most: mostVolts.value, threads: driven },
      ];
    }),
  subject: ({ device }) => device.id,
  where: ({ device }) => device.label,
  terminals: ({ device, at }) => at.map((terminal) => terminalName(device.label, terminal)),
  turnouts: ({ threads }) => threads,
  why: ({ device, supply, gets, least, most }) =>
    `${device.label} has ${volts(gets)} from ${supply.device.label}, ${supply.type.name}; it is made for ${volts(least)} to ${volts(most)}.`,
  remedies: (found, { record }) => otherSupplies(record, found),
  caution: ({ type }) => type,
});

/** Types of the supply's own model whose volts would bring the board into the middle of its range, nearest first. */
function otherSupplies(record: RailwayRecord, { supply, gets, least, most }: OutOfRange): Remedy[] {
  const present = supply.type.figures.volts?.value ?? 0;
  const middle = (least + most) / 2;
  const wouldGet = (type: DeviceType) => (gets * (type.figures.volts?.value ?? 0)) / present;
  return typesOfFamily(record, "supply")
    .filter((type) => type.model === supply.type.model && wouldGet(type) >= least && wouldGet(type) <= most)
    .sort((a, b) => Math.abs(wouldGet(a) - middle) - Math.abs(wouldGet(b) - middle))
    .slice(0, 2)
    .map((type) => ({
      label: `Make ${supply.device.label} ${genericType(type.id) ? `a ${type.name}` : `one of "${type.name}"`}`,
      group: changeType(record, supply.device.id, type.id),
    }));
}
