import { addressRange } from "../numbers/accessoryAddress.ts";
import type { OutputAddress } from "../numbers/addressList.ts";
import type { Thread } from "../schematic/thread.ts";
import { giveFreeAddress } from "./addressDuplicate.ts";
import { rule } from "./rule.ts";

interface Impossible {
  output: OutputAddress;
  threads: Thread[];
  first: number;
  last: number;
}

export const addressImpossible = rule<Impossible>({
  id: "address-impossible",
  stage: "numbers",
  column: "address",
  severity: "stop",
  title: "No decoder can have this address",
  about:
    "Basic accessory packets have room for decoders 1 to 510 with four outputs each; decoder 511 is the broadcast address (NMRA S-9.2.1, RCN-213). A number outside cannot be sent, or reaches something else.",
  look: ({ addresses, threads, record }) =>
    addresses
      .filter((output) => output.packet === null)
      .map((output) => ({
        output,
        threads: threads.filter((thread) => output.turnoutIds.includes(thread.turnout.id)),
        ...addressRange(record.railway.addressShift),
      })),
  subject: ({ output }) => `${output.deviceId}-${output.way}`,
  where: ({ output }) => output.label,
  terminals: ({ output }) => [output.label],
  turnouts: ({ threads }) => threads,
  why: ({ output, first, last }) =>
    `${output.label} is given address ${output.address}; a command station can send ${first} to ${last}.`,
  remedies: ({ output }, { record, addresses }) => {
    const remedy = giveFreeAddress(record, output, addresses);
    return remedy ? [remedy] : [];
  },
});
