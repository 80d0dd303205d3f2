import type { RailwayRecord } from "../record/kinds.ts";
import { addressRange } from "./accessoryAddress.ts";
import { isDue, type OutputAddress } from "./addressList.ts";

/**
 * What an address is. taken: one output has it. due: one has it and does not answer to it yet. clash: several have it, or one
 * is to have it while another answers to it. reserved: kept for something else. free.
 */
export type AddressState = "taken" | "due" | "clash" | "reserved" | "free";

export interface AddressPlace {
  address: number;
  state: AddressState;
  /** Outputs that are to have it, and those that answer to it although they are to have another. */
  outputs: OutputAddress[];
  still: OutputAddress[];
  /** What it is reserved for. */
  reserved: string | null;
}

/** Every address that can be sent, with what it is; the whole range in one go. */
export function addressMap(record: RailwayRecord, all: readonly OutputAddress[]): AddressPlace[] {
  const { first, last } = addressRange(record.railway.addressShift);
  const wanted = groupedBy(all, ({ address }) => address);
  const still = groupedBy(all.filter(isDue), ({ now }) => now);
  const reserved = new Map<number, string>();
  for (const { first: from, last: to, what } of record.reserves)
    for (let address = Math.max(from, first); address <= Math.min(to, last); address++) reserved.set(address, what);
  return Array.from({ length: last - first + 1 }, (_, index): AddressPlace => {
    const address = first + index;
    const place = {
      address,
      outputs: wanted.get(address) ?? [],
      still: still.get(address) ?? [],
      reserved: reserved.get(address) ?? null,
    };
    return { ...place, state: stateOf(place) };
  });
}

function stateOf({ outputs, still, reserved }: Omit<AddressPlace, "state">): AddressState {
  const [first, ...more] = outputs;
  if (more.length > 0 || (first && still.length > 0 && still.some((output) => output !== first))) return "clash";
  if (first) return isDue(first) ? "due" : "taken";
  return reserved === null ? "free" : "reserved";
}

/** Free addresses between the first and the last that outputs have, in runs. */
export function gapsIn(places: readonly AddressPlace[]): [first: number, last: number][] {
  const used = places.filter(({ outputs }) => outputs.length > 0).map(({ address }) => address);
  const last = used.at(-1) ?? 0;
  const gaps: [number, number][] = [];
  for (const { address, state } of places) {
    if (address < (used[0] ?? 0) || address > last || state !== "free") continue;
    const open = gaps.at(-1);
    if (open && open[1] === address - 1) open[1] = address;
    else gaps.push([address, address]);
  }
  return gaps;
}

function groupedBy(all: readonly OutputAddress[], numberOf: (output: OutputAddress) => number) {
  const groups = new Map<number, OutputAddress[]>();
  for (const output of all) groups.set(numberOf(output), [...(groups.get(numberOf(output)) ?? []), output]);
  return groups;
}
