import { blockOf, figureValue, typeOf } from "../catalogue/catalogue.ts";
import { numbered } from "../catalogue/deviceType.ts";
import { ByWay } from "../record/byWay.ts";
import { assignmentsOfDevice } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { Answer } from "../record/numbers.ts";
import { drivesItself, type Thread } from "../schematic/thread.ts";
import { accessoryAddress, addressRange } from "./accessoryAddress.ts";

/** One numbered output of a decoder and the address it answers to. */
export interface OutputAddress {
  deviceId: string;
  way: number;
  /** As "D1-2". */
  label: string;
  address: number;
  /** The address is the one the board was bought with. */
  factory: boolean;
  /** Decoder and pair in the packets, or null when the address is impossible. */
  packet: { decoder: number; pair: number; raw: number } | null;
  /** Labels of the turnouts or pairs it throws, null when free. */
  throws: string | null;
  /** Leaders of those. */
  turnoutIds: string[];
  /** Labels of other outputs with the same address. */
  sharedWith: string[];
  /** What it is known to answer to; null for a board as it was bought. */
  answer: Answer | null;
  /** What it answers to now: as known, else as the factory set it. */
  now: number;
  /** Outputs that get their addresses at once, of which it is one, by their numbers. */
  block: number[];
}

/** Whether an output is to be programmed: it answers to another address than it is to have. */
export function isDue({ address, now }: OutputAddress): boolean {
  return address !== now;
}

/** Labels as people sort them: D2 before D10. */
const ORDER = new Intl.Collator("en", { numeric: true });

/** The address list: each output of each decoder, in the order of boards' labels and outputs. */
export function addressList(record: RailwayRecord, threads: readonly Thread[]): OutputAddress[] {
  const uses = new ByWay<Set<Thread>>();
  for (const thread of threads) {
    for (const motor of thread.motors) {
      const { driver } = motor;
      const [device, way] = drivesItself(motor) ? [motor.device, 1] : [driver?.device, driver?.way ?? null];
      if (device) uses.at(device.id, way, () => new Set()).add(thread);
    }
  }
  const answers = new ByWay<Answer>();
  for (const answer of record.answers) answers.set(answer.deviceId, answer.way, answer);
  const outputs = record.devices
    .map((device) => ({ device, type: typeOf(record, device) }))
    .filter(({ type }) => type.figures.factoryAddress !== undefined)
    .sort((a, b) => ORDER.compare(a.device.label, b.device.label))
    .flatMap(({ device, type }) => {
      const stated = new Map<number, number>();
      for (const assignment of assignmentsOfDevice(record, device.id)) {
        if (assignment.role === "address") stated.set(assignment.way, assignment.address);
      }
      return numbered(Math.max(type.outputs, 1)).map((way): OutputAddress => {
        const address = stated.get(way) ?? figureValue(type, "factoryAddress") + way - 1;
        const threads = [...(uses.get(device.id, way) ?? [])];
        const answer = answers.get(device.id, way) ?? null;
        return {
          deviceId: device.id,
          way,
          label: type.outputs > 0 ? `${device.label}-${way}` : device.label,
          address,
          factory: !stated.has(way),
          packet: packetOf(address, record.railway.addressShift),
          throws: threads.map(({ label }) => label).join(", ") || null,
          turnoutIds: threads.map(({ turnout }) => turnout.id),
          sharedWith: [],
          answer,
          now: answer?.address ?? figureValue(type, "factoryAddress") + way - 1,
          block: blockOf(type, way),
        };
      });
    });
  const byAddress = new Map<number, OutputAddress[]>();
  for (const output of outputs) byAddress.set(output.address, [...(byAddress.get(output.address) ?? []), output]);
  for (const output of outputs) {
    output.sharedWith = (byAddress.get(output.address) ?? [])
      .filter((other) => other !== output)
      .map((other) => other.label);
  }
  return outputs;
}

/** The lowest address from `from` up that no output has, or null when all are taken. */
export function freeAddress(record: RailwayRecord, outputs: readonly OutputAddress[], from = 1): number | null {
  const taken = new Set(outputs.map((output) => output.address));
  const { first, last } = addressRange(record.railway.addressShift);
  for (let address = Math.max(first, from); address <= last; address++) if (!taken.has(address)) return address;
  return null;
}

function packetOf(address: number, shift: 0 | 4): OutputAddress["packet"] {
  try {
    return accessoryAddress(address, shift);
  } catch {
    return null;
  }
}
