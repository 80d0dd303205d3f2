import { Draft } from "../equip/draft.ts";
import { setAddress } from "../equip/equipment.ts";
import { freeAddress, type OutputAddress } from "../numbers/addressList.ts";
import { deviceOf } from "../record/find.ts";
import type { Thread } from "../schematic/thread.ts";
import { list } from "../units/format.ts";
import { type Remedy, rule } from "./rule.ts";

interface Clash {
  address: number;
  outputs: OutputAddress[];
  threads: Thread[];
}

export const addressDuplicate = rule<Clash>({
  id: "address-duplicate",
  stage: "numbers",
  column: "address",
  severity: ({ outputs }) => (outputs.filter((output) => output.throws !== null).length > 1 ? "stop" : "look"),
  title: "Two outputs answer to one address",
  about:
    "One command then moves two things. New boards come with the same factory addresses, so a second board must be given its own before both are connected. Two motors on one output are no clash; they are meant to move together.",
  look: ({ addresses, threads }) => {
    const clashes = new Map<number, Clash>();
    for (const output of addresses) {
      if (output.sharedWith.length === 0) continue;
      const clash = clashes.get(output.address) ?? { address: output.address, outputs: [], threads: [] };
      clash.outputs.push(output);
      clash.threads.push(...threads.filter((thread) => output.turnoutIds.includes(thread.turnout.id)));
      clashes.set(output.address, clash);
    }
    return [...clashes.values()];
  },
  subject: ({ address }) => `address-${address}`,
  where: ({ address }) => `Address ${address}`,
  terminals: ({ outputs }) => outputs.map(({ label }) => label),
  turnouts: ({ threads }) => threads,
  why: ({ address, outputs }) => {
    const named = outputs.map(
      ({ label, throws, factory }) => `${label} (${throws ?? "free"}${factory ? ", factory setting" : ""})`,
    );
    return `A command to ${address} reaches ${list(named)}.`;
  },
  remedies: ({ outputs }, { record, addresses }) => {
    const last = outputs.findLast((output) => output.throws === null) ?? outputs.at(-1);
    if (!last) return [];
    return [giveFreeAddress(record, last, addresses), renumberBoard(record, last, addresses)].filter(
      (remedy) => remedy !== null,
    );
  },
});

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
