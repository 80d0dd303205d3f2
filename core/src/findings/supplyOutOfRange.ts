import { genericType, typeOf, typesOfFamily } from "../catalogue/catalogue.ts";
import type { DeviceType } from "../catalogue/deviceType.ts";
import { MAINS_TOLERANCE } from "../catalogue/source.ts";
import { traitsOf } from "../catalogue/traits.ts";
import { changeType } from "../equip/devices.ts";
import { Draft } from "../equip/draft.ts";
import { feed, feedFrom, possibleSupplies } from "../equip/feed.ts";
import { bothHalves } from "../readings/states.ts";
import { AT_REST } from "../readings/threadReading.ts";
import { feederOf } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { Device } from "../record/schemas.ts";
import { terminalName } from "../schematic/nets.ts";
import { type Fitted, fitted, isLeftOn, supplyOf, type Thread } from "../schematic/thread.ts";
import { volts } from "../units/format.ts";
import { type Look, type Remedy, rule } from "./rule.ts";

interface OutOfRange {
  device: Device;
  type: DeviceType;
  supply: Fitted;
  /** Terminals at which it gets its volts. */
  at: readonly [string, string];
  /** Volts from the first to the second terminal in the two half cycles. */
  gets: [number, number];
  /** The most of them, of a transformer with the mains high. */
  high: number;
  least: number;
  most: number;
  threads: Thread[];
}

/** Volts beyond which plus and minus are taken to be exchanged, or to change sides. */
const EXCHANGED = 0.5;

export const supplyOutOfRange = rule<OutOfRange>({
  id: "supply-out-of-range",
  stage: "equip",
  column: "driver",
  severity: (found) => (isOnlyHigh(found) ? "look" : "stop"),
  title: "A board gets more or fewer volts than it is made for",
  about:
    "Boards are made for a range of volts: a decoder for 9 to 15 V DC, a discharge unit for what its capacitor bears. Below it they do not work or a motor is not moved; above it they are destroyed. One with terminals for plus and minus is made for DC: on AC, or with the two exchanged, it is destroyed too, unless a rectifier stands before it. The rule solves both half cycles, all turnouts at rest, and holds the volts at the board, or across a unit's capacitor, against the range; one on a transformer also with the mains a tenth above their rating.",
  look: (look) => look.record.devices.flatMap((device) => outOfRange(look, device) ?? []),
  subject: ({ device }) => device.id,
  where: ({ device }) => device.label,
  terminals: ({ device, at }) => at.map((terminal) => terminalName(device.label, terminal)),
  turnouts: ({ threads }) => threads,
  why: (found) => {
    const { device, supply, least, most } = found;
    const range = `it is made for ${volts(least)} to ${volts(most)}`;
    const from = `${supply.device.label}, ${supply.type.name}`;
    if (isAlternating(found))
      return `${device.label} gets AC from ${from}, up to ${volts(sizeOf(found))} either way; ${range} DC.`;
    if (isReversed(found)) return `Plus and minus are exchanged at ${device.label}, which ${from} feeds; ${range}.`;
    if (isOnlyHigh(found))
      return `${device.label} has ${volts(sizeOf(found))} from ${from}, and ${volts(found.high)} with the mains a tenth above their rating; ${range}.`;
    return `${device.label} has ${volts(sizeOf(found))} from ${from}; ${range}.`;
  },
  remedies: (found, { record }) =>
    isAlternating(found)
      ? feedsOfItsOwn(record, found)
      : isReversed(found)
        ? []
        : otherSupplies(record, { ...found, gets: found.high }),
  caution: ({ type }) => type,
});

/** What is wrong with the volts of a device that states a range; null when nothing is, or nothing feeds it. */
export function outOfRange({ record, threads, circuitry }: Look, device: Device): OutOfRange | null {
  const type = typeOf(record, device);
  const { leastVolts, mostVolts } = type.figures;
  // a board on a controller's pins takes the controller's own 5 V
  const supply = type.hears === "pins" ? commanderOf(record, device.id) : supplyOf(record, device.id);
  if (!leastVolts || !mostVolts || !supply) return null;
  const isUnit = traitsOf(type).gives === "pulse";
  const at = isUnit ? (["+", "−"] as const) : traitsOf(type).power;
  const [plus, minus] = [`${device.id}:${at[0]}`, `${device.id}:${at[1]}`];
  const { isShut, gets } = circuitry.remember(`reaching ${plus} ${minus} from ${supply.device.id}`, () => ({
    isShut: circuitry.solve(plus, AT_REST.N)?.shut.has(`${supply.device.id}.inside`) ?? false,
    gets: bothHalves(AT_REST.N).map((state) => circuitry.volts(plus, minus, state)),
  }));
  const [first, second] = gets;
  // a supply that has shut down has a finding of its own
  if (isShut || first === undefined || second === undefined) return null;
  const found: OutOfRange = {
    ...{ device, type, supply, at, gets: [first, second] },
    high: Math.max(Math.abs(first), Math.abs(second)) * (isTransformer(supply) ? 1 + MAINS_TOLERANCE : 1),
    ...{ least: leastVolts.value, most: mostVolts.value, threads: [] },
  };
  if (sizeOf(found) >= found.least && found.high <= found.most && !isAlternating(found) && !isReversed(found))
    return null;
  found.threads = threads.filter(({ motors }) =>
    motors.some(({ driver, unit }) => [driver, unit].some((each) => each?.device.id === device.id)),
  );
  // a control left on drains a unit, which is another finding
  return isUnit && found.threads.some(isLeftOn) ? null : found;
}

/** What brings a device its commands. */
function commanderOf(record: RailwayRecord, deviceId: string): Fitted | null {
  const id = feederOf(record, deviceId, "commands");
  return id === null ? null : fitted(record, id);
}

/** The greater of the volts in the two half cycles. */
function sizeOf({ gets }: OutOfRange): number {
  return Math.max(...gets.map(Math.abs));
}

/** What is made for plus and minus gets one and the other by turns. */
function isAlternating({ at, gets }: OutOfRange): boolean {
  return at[0] === "+" && Math.max(...gets) > EXCHANGED && Math.min(...gets) < -EXCHANGED;
}

/** What is within the range as long as the mains are at their rating. */
function isOnlyHigh(found: OutOfRange): boolean {
  const size = sizeOf(found);
  return size >= found.least && size <= found.most && !isAlternating(found) && !isReversed(found);
}

const isTransformer = ({ type }: Fitted) => traitsOf(type).gives === "ac";

function isReversed({ at, gets }: OutOfRange): boolean {
  return at[0] === "+" && Math.max(...gets) < -EXCHANGED;
}

/** Supplies of DC that are there and in the range, then its usual one. */
function feedsOfItsOwn(record: RailwayRecord, { device, type, least, most }: OutOfRange): Remedy[] {
  const suits = (each: Device) => {
    const { figures, ...kind } = typeOf(record, each);
    const given = figures.volts?.value ?? 0;
    return traitsOf(kind).gives === "dc" && given >= least && given <= most;
  };
  const known = possibleSupplies(record, type).find(suits);
  if (known)
    return [{ label: `Feed ${device.label} from ${known.label}`, group: feedFrom(record, device, "supply", known.id) }];
  const draft = new Draft(record);
  draft.unassign((a) => a.role === "supply" && a.toDeviceId === device.id);
  feed(draft, device, type);
  const words = `Give ${device.label} a supply of DC`;
  return [{ label: words, group: draft.group(words) }];
}

/** What is got from a supply now, and what is to be got. */
interface Wanted {
  supply: Fitted;
  /** Volts. */
  gets: number;
  least: number;
  most: number;
}

/** Types of the supply's own model whose volts would bring what it feeds into the middle of its range, nearest first. */
export function otherSupplies(record: RailwayRecord, { supply, gets, least, most }: Wanted): Remedy[] {
  const present = supply.type.figures.volts?.value;
  if (present === undefined) return [];
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
