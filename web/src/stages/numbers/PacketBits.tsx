import { hexOf, type Packet, packetBits } from "@alderman/core";
import { DataTable } from "../../kit/DataTable.tsx";

/** A packet in hexadecimal, as its bits go over the track, and what each of them says. */
export function PacketBits({ packet }: { packet: Packet }) {
  return (
    <>
      <b className="mono text-[16px]" data-packet>
        {packet.bytes.map(hexOf).join(" ")}
      </b>
      <p className="mono mt-1 text-[12px] break-all text-ink-2">{packetBits(packet)}</p>
      <div className="mt-2 border-t border-rule">
        <DataTable
          flowing
          label="Bits of the packet"
          items={packet.fields.map((field, index) => ({ ...field, index }))}
          idOf={({ index }) => String(index)}
          columns={[
            { id: "byte", title: "Byte", width: 60, cell: ({ byte }) => `${byte + 1}` },
            { id: "bits", title: "Bits", width: 110, mono: true, cell: ({ bits }) => bits },
            { id: "about", title: "What they say", wraps: true, cell: ({ about }) => about },
          ]}
        />
      </div>
    </>
  );
}
