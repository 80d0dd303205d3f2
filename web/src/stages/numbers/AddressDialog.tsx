import { type AddressPlace, accessoryAddress, accessoryPacket, type Direction } from "@alderman/core";
import { useState } from "react";
import { Dialog } from "../../kit/Dialog.tsx";
import { Segmented } from "../../kit/Segmented.tsx";
import { PacketBits } from "./PacketBits.tsx";
import { placeWords } from "./placeWords.ts";

const DIRECTIONS: { value: Direction; text: string }[] = [
  { value: "straight", text: "Straight" },
  { value: "diverging", text: "Diverging" },
];
const SWITCHED = [
  { value: "on", text: "On" },
  { value: "off", text: "Off" },
] as const;

/** What an address is, and the packet that throws what has it, bit by bit. */
export function AddressDialog({ place, shift, close }: { place: AddressPlace; shift: 0 | 4; close: () => void }) {
  const [direction, setDirection] = useState<Direction>("straight");
  const [switched, setSwitched] = useState<"on" | "off">("on");
  const packet = accessoryPacket(place.address, shift, direction, switched === "on");
  const { decoder, pair, raw } = accessoryAddress(place.address, shift);
  return (
    <Dialog title={`Address ${place.address}`} about={placeWords(place)} close={close}>
      <p>
        Decoder {decoder}, pair {pair}; raw address {raw} (NMRA S-9.2.1, RCN-213). A station that counts{" "}
        {shift === 0 ? "from raw 0 shows it as" : "as the standard does shows it as"}{" "}
        <b>{place.address + (shift === 0 ? 4 : -4)}</b>.
      </p>
      <div className="mt-3 flex flex-wrap items-center gap-2">
        <Segmented size="small" label="Direction" value={direction} segments={DIRECTIONS} onChange={setDirection} />
        <Segmented size="small" label="Switched" value={switched} segments={SWITCHED} onChange={setSwitched} />
      </div>
      <div className="mt-2">
        <PacketBits packet={packet} />
      </div>
    </Dialog>
  );
}
