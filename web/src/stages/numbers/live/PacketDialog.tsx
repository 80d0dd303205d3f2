import {
  accessoryPacket,
  addressRange,
  aspectPacket,
  onMainPacket,
  type Packet,
  type RailwayRecord,
  serviceModePacket,
  typeOf,
  type VariableAction,
} from "@alderman/core";
import { useId, useState } from "react";
import { Mark } from "../../../drawing/Mark.tsx";
import { Button } from "../../../kit/Button.tsx";
import { Choice } from "../../../kit/Choice.tsx";
import { Dialog } from "../../../kit/Dialog.tsx";
import { NumberField } from "../../../kit/NumberField.tsx";
import { Segmented } from "../../../kit/Segmented.tsx";
import { sendPacket } from "../../../live/liveServer.ts";
import { PacketBits } from "../PacketBits.tsx";

const KINDS = [
  { value: "turnout", text: "Turnout" },
  { value: "aspect", text: "Aspect" },
  { value: "main", text: "Variable, on the main" },
  { value: "service", text: "Variable, programming track" },
] as const;
type Kind = (typeof KINDS)[number]["value"];

const ACTIONS: { value: VariableAction; text: string }[] = [
  { value: "write", text: "Write" },
  { value: "verify", text: "Verify" },
];
const SIDES = [
  { value: "N", text: "to N" },
  { value: "R", text: "to R" },
] as const;

/** A packet made by hand, seen bit by bit, and sent to the command station. */
export function PacketDialog({
  railwayId,
  record,
  say,
  close,
}: {
  railwayId: string;
  record: RailwayRecord;
  /** An answer of the station in words. */
  say: (answer: string) => string;
  close: () => void;
}) {
  const shift = record.railway.addressShift;
  const decoders = record.devices.filter((device) => typeOf(record, device).figures.factoryAddress !== undefined);
  const [kind, setKind] = useState<Kind>("aspect");
  const [address, setAddress] = useState(1);
  const [to, setTo] = useState<"N" | "R">("R");
  const [aspect, setAspect] = useState(0);
  const [variable, setVariable] = useState(1);
  const [value, setValue] = useState(1);
  const [action, setAction] = useState<VariableAction>("write");
  const [onTrack, setOnTrack] = useState(decoders[0]?.label ?? "");
  const [seen, setSeen] = useState<{ good: boolean; words: string } | null>(null);
  const label = useId();
  const makers: Record<Kind, () => Packet> = {
    turnout: () => accessoryPacket(address, shift, to === "N" ? "straight" : "diverging", true),
    aspect: () => aspectPacket(address, shift, aspect),
    main: () => onMainPacket(address, shift, variable, value, action),
    service: () => serviceModePacket(variable, value, action),
  };
  const packet = makers[kind]();
  const { first, last } = addressRange(shift);
  const number = (words: string, held: number, hold: (value: number) => void, least: number, most: number) => (
    <div className="flex items-center gap-1.5">
      <span className="text-ink-2">{words}</span>
      <NumberField
        label={words}
        className="w-20! font-mono"
        value={held}
        save={(typed) => {
          if (typed === null || !Number.isInteger(typed) || typed < least || typed > most)
            return `${words}: a whole number from ${least} to ${most}.`;
          setSeen(null);
          hold(typed);
          return null;
        }}
      />
    </div>
  );
  const send = async () => {
    try {
      const { seen: answers } = await sendPacket(railwayId, packet.bytes, kind === "service" ? onTrack : null);
      const words = answers.map(say).join("; ");
      setSeen({ good: answers.length > 0, words: words || nothing(kind, action) });
    } catch (error) {
      setSeen({ good: false, words: error instanceof Error ? error.message : String(error) });
    }
  };
  const isOfVariable = kind === "main" || kind === "service";
  return (
    <Dialog wide title="Send a packet" about="what a command station would put on the track" close={close}>
      <Segmented
        size="small"
        label="Kind of packet"
        value={kind}
        segments={KINDS}
        onChange={(next) => {
          setSeen(null);
          setKind(next);
        }}
      />
      <div className="mt-3 flex flex-wrap items-center gap-x-4 gap-y-2">
        {kind !== "service" && number("Address", address, setAddress, first, last)}
        {kind === "turnout" && <Segmented size="small" label="Throws" value={to} segments={SIDES} onChange={setTo} />}
        {kind === "aspect" && number("Aspect", aspect, setAspect, 0, 255)}
        {kind === "service" && (
          <div className="flex items-center gap-1.5">
            <span className="text-ink-2" id={label}>
              On the programming track
            </span>
            <Choice
              label="On the programming track"
              size="small"
              value={onTrack}
              options={decoders.map((device) => ({ value: device.label, text: device.label }))}
              onChange={setOnTrack}
            />
          </div>
        )}
        {isOfVariable && number("Variable", variable, setVariable, 1, 1024)}
        {isOfVariable && number("Value", value, setValue, 0, 255)}
        {isOfVariable && <Segmented size="small" label="Do" value={action} segments={ACTIONS} onChange={setAction} />}
        <Button size="small" look="best" onClick={send}>
          Send
        </Button>
      </div>
      <p className="mt-2 min-h-6" aria-live="polite">
        {seen && (
          <>
            <Mark verdict={seen.good ? "good" : "doubtful"} size={14} /> {seen.words}
          </>
        )}
      </p>
      <PacketBits packet={packet} />
    </Dialog>
  );
}

/** What it means that nothing was seen of a packet. */
function nothing(kind: Kind, action: VariableAction): string {
  if (kind === "turnout") return "Nothing moved: no output answers to this address.";
  if (kind === "main" && action === "verify") return "Sent. On the main nothing comes back of a verification.";
  if (kind === "main") return "Sent, and nothing has this address.";
  return action === "verify" ? "No answer: the variable has another value." : "No answer.";
}
