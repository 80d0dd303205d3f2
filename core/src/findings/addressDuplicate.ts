import { Draft } from "../equip/draft.ts";
import { setAddress } from "../equip/equipment.ts";
import { freeAddress, type OutputAddress } from "../numbers/addressList.ts";
import { deviceOf } from "../record/find.ts";
import type { Thread } from "../schematic/thread.ts";
import { list } from "../units/format.ts";
import { type Remedy, rule } from "./rule.ts";

interface Clash {
  /** Addresses to which the same boards answer. */
  addresses: number[];
  outputs: OutputAddress[];
  threads: Thread[];
}

export const addressDuplicate = rule<Clash>({
  id: "address-duplicate",
  stage: "numbers",
  column: "address",
  severity: ({ addresses, outputs }) =>
    addresses.some((address) => outputs.filter((output) => output.address === address && output.throws).length > 1)
      ? "stop"
      : "look",
  title: "Two outputs answer to one address",
  about:
    "One command then moves two things. New boards come with the same factory addresses, so a second board must be given its own before both are connected. Two motors on one output are no clash; they are meant to move together.",
  look: ({ addresses, threads }) => {
    const byAddress = new Map<number, OutputAddress[]>();
    for (const output of addresses)
      if (output.sharedWith.length > 0)
        byAddress.set(output.address, [...(byAddress.get(output.address) ?? []), output]);
    // boards that clash at many addresses are one finding
    const clashes = new Map<string, Clash>();
    for (const [address, outputs] of byAddress) {
      const key = [...new Set(outputs.map(({ deviceId }) => deviceId))].join();
      const clash = clashes.get(key) ?? { addresses: [], outputs: [], threads: [] };
      clashes.set(key, clash);
      clash.addresses.push(address);
      clash.outputs.push(...outputs);
    }
    return [...clashes.values()].map((clash) => {
      const turnouts = new Set(clash.outputs.flatMap(({ turnoutIds }) => turnoutIds));
      return { ...clash, threads: threads.filter(({ turnout }) => turnouts.has(turnout.id)) };
    });
  },
  subject: ({ outputs }) => `address-${[...new Set(outputs.map(({ deviceId }) => deviceId))].join("-")}`.slice(0, 80),
  where: ({ addresses }) => (addresses.length === 1 ? `Address ${addresses[0]}` : `Addresses ${runs(addresses)}`),
  terminals: ({ outputs }) => outputs.map(({ label }) => label),
  turnouts: ({ threads }) => threads,
  why: ({ addresses, outputs }) => {
    const thrown = outputs.filter(({ throws }) => throws !== null);
    const told = thrown.length > 0 ? thrown : outputs;
    const [first] = addresses;
    const at = addresses.filter((address) => told.some((output) => output.address === address));
    const shown = outputs.filter(({ address }) => address === (at[0] ?? first));
    const named = shown.map(
      ({ label, throws, factory }) => `${label} (${throws ?? "free"}${factory ? ", factory setting" : ""})`,
    );
    const rest = addresses.filter((address) => address !== (at[0] ?? first));
    const others = rest.length > 0 ? `; ${runs(rest)} ${rest.length === 1 ? "is" : "are"} no better` : "";
    return `A command to ${at[0] ?? first} reaches ${list(named)}${others}.`;
  },
  remedies: ({ addresses: clashing, outputs }, { record, addresses }) => {
    const last = outputs.findLast((output) => output.throws === null) ?? outputs.at(-1);
    if (!last) return [];
    const single = clashing.length === 1 ? giveFreeAddress(record, last, addresses) : null;
    return [single, renumberBoard(record, outputs.at(-1) ?? last, addresses)].filter((remedy) => remedy !== null);
  },
});

/** Numbers in runs. @example runs([1, 2, 3, 7]) // "1 to 3 and 7" */
function runs(numbers: readonly number[]): string {
  const sorted = [...numbers].sort((a, b) => a - b);
  const found: [number, number][] = [];
  for (const number of sorted) {
    const last = found.at(-1);
    if (last && number === last[1] + 1) last[1] = number;
    else found.push([number, number]);
  }
  return list(found.map(([from, to]) => (from === to ? `${from}` : `${from} to ${to}`)));
}

/** Gives one output the next free address. */
export function giveFreeAddress(
  record: Parameters<typeof freeAddress>[0],
  output: OutputAddress,
  addresses: readonly OutputAddress[],
): Remedy | null {
  const free = freeAddress(
    record,
    addresses,
    Math.max(...addresses.filter((each) => each.packet).map((each) => each.address), 0) + 1,
  );
  const address = free ?? freeAddress(record, addresses);
  if (address === null) return null;
  const draft = new Draft(record);
  setAddress(draft, output.deviceId, output.way, address);
  return {
    label: `Give ${output.label} address ${address}`,
    group: draft.group(`${output.label} has address ${address}`),
  };
}

/** Gives all outputs of the board a run of free addresses, when more than one of them clashes. */
function renumberBoard(
  record: Parameters<typeof freeAddress>[0],
  output: OutputAddress,
  addresses: readonly OutputAddress[],
): Remedy | null {
  const board = addresses.filter((each) => each.deviceId === output.deviceId);
  if (board.filter((each) => each.sharedWith.length > 0).length < 2) return null;
  const others = addresses.filter((each) => each.deviceId !== output.deviceId && each.packet);
  const start = Math.max(0, ...others.map((each) => each.address)) + 1;
  if (
    freeAddress(record, others, start) !== start ||
    freeAddress(record, others, start + board.length - 1) !== start + board.length - 1
  ) {
    return null;
  }
  const draft = new Draft(record);
  for (const [index, each] of board.entries()) setAddress(draft, each.deviceId, each.way, start + index);
  const name = deviceOf(record, output.deviceId).label;
  return {
    label: `Number ${name} from ${start} to ${start + board.length - 1}`,
    group: draft.group(`${name} has addresses ${start} to ${start + board.length - 1}`),
  };
}
