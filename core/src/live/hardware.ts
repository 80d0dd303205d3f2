import { blockOf, typeOf } from "../catalogue/catalogue.ts";
import type { NodeEntry } from "../events/node.ts";
import { addressList } from "../numbers/addressList.ts";
import { startsOf } from "../numbers/feedback.ts";
import { find } from "../record/find.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { Thread } from "../schematic/thread.ts";
import { settingLines } from "../settings/settings.ts";

/** What stand-ins are made of: the devices of a railway as they are known to be, whatever is wanted of them. */
export interface Hardware {
  /** How the command station counts. */
  shift: 0 | 4;
  decoders: DecoderUnit[];
  settings: SettingCell[];
  nodes: NodeUnit[];
  encoders: EncoderUnit[];
}

/** A decoder with the address that each of its outputs answers to, from output 1 on, and the outputs that are programmed at once. */
export interface DecoderUnit {
  label: string;
  addresses: number[];
  blocks: number[][];
}

/** What is set in a device; way 0 for the device as a whole. */
export interface SettingCell {
  label: string;
  way: number;
  name: string;
  value: string;
  /** It must be open before any other setting of the device can be written. */
  isLock: boolean;
}

/** A node on the control bus. */
export interface NodeUnit {
  label: string;
  /** As its switches say; 0 when they were never set. */
  number: number;
  inputs: number;
  outputs: number;
  /** Its outputs come back as they were after power-on. */
  stays: boolean;
  entries: NodeEntry[];
  /** Numbers of the events that its inputs send, by input: short ones, and long ones with another number than their input's. */
  short: Record<number, number>;
  long: Record<number, number>;
}

/** A feedback encoder. */
export interface EncoderUnit {
  label: string;
  start: number;
  inputs: number;
}

/** The devices of a railway as stand-ins: what was read, programmed and taught, else as the factory set it. */
export function hardwareOf(record: RailwayRecord, threads: readonly Thread[]): Hardware {
  const lines = settingLines(record);
  const outputs = addressList(record, threads);
  const decoders = new Map<string, DecoderUnit>();
  for (const { deviceId, way, now } of outputs) {
    const device = find(record, "device", deviceId);
    if (!device) continue;
    const unit = decoders.get(deviceId) ?? { label: device.label, addresses: [], blocks: [] };
    unit.addresses[way - 1] = now;
    unit.blocks[way - 1] = [...blockOf(typeOf(record, device), way)];
    decoders.set(deviceId, unit);
  }
  const eventOf = new Map(record.events.map((event) => [event.id, event]));
  const nodes = record.devices.flatMap((device): NodeUnit[] => {
    const type = typeOf(record, device);
    const line = lines.find((each) => each.device.id === device.id && each.setting.isNodeNumber);
    if (!line) return [];
    const entries = record.taught.flatMap(({ deviceId, way, node, number, action }) =>
      deviceId === device.id && action !== null ? [{ way, node, number, action }] : [],
    );
    const sent = (nodeId: string | null) =>
      Object.fromEntries(
        record.producers.flatMap(({ deviceId, way, eventId }) => {
          const event = deviceId === device.id ? eventOf.get(eventId) : undefined;
          return event?.nodeId === nodeId ? [[way, event.number] as const] : [];
        }),
      );
    return [
      {
        ...{ label: device.label, number: numberIn(line.read) ?? numberIn(line.wanted) ?? 0 },
        ...{ inputs: type.inputs ?? 0, outputs: type.outputs, stays: type.powerOn === "stays" },
        ...{ entries, short: sent(null), long: sent(device.id) },
      },
    ];
  });
  return {
    shift: record.railway.addressShift,
    decoders: [...decoders.values()],
    settings: lines.flatMap(({ device, way, setting, read }) =>
      setting.isNodeNumber
        ? []
        : [
            {
              ...{ label: device.label, way: way ?? 0, name: setting.name },
              ...{ value: read ?? setting.factory, isLock: setting.isLock ?? false },
            },
          ],
    ),
    nodes,
    encoders: startsOf(record).map(({ device, wanted, read }) => ({
      ...{ label: device.label, start: numberIn(read) ?? numberIn(wanted) ?? 1 },
      inputs: typeOf(record, device).inputs ?? 0,
    })),
  };
}

function numberIn(text: string | null): number | null {
  const number = Number(text);
  return text !== null && text.trim() !== "" && Number.isInteger(number) && number > 0 ? number : null;
}
