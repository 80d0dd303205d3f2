import { type RailwayRecord, readingInputs, typeOf } from "@alderman/core";
import { type ReactNode, useState } from "react";
import { Mark } from "../../../drawing/Mark.tsx";
import { Accordion } from "../../../kit/Accordion.tsx";
import { Button } from "../../../kit/Button.tsx";
import { Checkbox } from "../../../kit/Checkbox.tsx";
import { Choice } from "../../../kit/Choice.tsx";
import { NumberField } from "../../../kit/NumberField.tsx";
import { Sheet, SheetBody } from "../../../kit/Sheet.tsx";
import type { LiveLine } from "../../../live/liveLine.ts";
import { GATEWAY_WORDS, type GatewayName, setFault, throwAddress, workInput } from "../../../live/liveServer.ts";
import { PacketDialog } from "./PacketDialog.tsx";

/** The stand-ins that run, what is amiss with each, and what hands do: throw an address, work an input. */
export function StandInsSheet({
  railwayId,
  record,
  line,
  say,
  attempt,
}: {
  railwayId: string;
  record: RailwayRecord;
  line: LiveLine;
  /** A message in words. */
  say: (message: string) => string;
  /** Does something, and says in its place what went wrong. */
  attempt: (work: () => Promise<unknown>) => Promise<void>;
}) {
  const { status } = line;
  const running = status?.gateways ?? [];
  return (
    <Sheet
      title="Stand-ins"
      about={status?.running ? `${running.length} running on this machine` : "simulated, on this machine"}
      actions={
        status?.running ? (
          <Button size="small" onClick={() => attempt(() => line.stop())}>
            Stop
          </Button>
        ) : (
          <Button size="small" look="best" onClick={() => attempt(() => line.start())}>
            Start
          </Button>
        )
      }
    >
      <SheetBody label="Stand-ins">
        {!status?.running && (
          <p className="p-3 text-ink-2">
            A command station, an event bus and a feedback bus that behave as your devices are known to: what was
            programmed, taught and read. Addresses, events and settings are tried on them before a real one is touched.
          </p>
        )}
        {status?.running && <Hands railwayId={railwayId} record={record} line={line} say={say} attempt={attempt} />}
        <Accordion
          items={running.map(({ name, faults }) => ({
            id: name,
            title: (
              <>
                <span className="flex-1">{GATEWAY_WORDS[name]}</span>
                <span className="font-normal">
                  <Mark verdict={faults.length > 0 ? "doubtful" : "good"} size={14} />{" "}
                  {faults.length > 0 ? `${faults.length} amiss` : "well"}
                </span>
              </>
            ),
            body: (
              <div className="grid gap-1.5">
                {Object.entries(status?.faults[name] ?? {}).map(([fault, words]) => (
                  <Checkbox
                    key={fault}
                    checked={faults.includes(fault)}
                    onChange={(is) =>
                      attempt(async () => {
                        const now = await setFault(railwayId, name, fault, is);
                        if (status) line.setStatus({ ...status, gateways: now.gateways });
                      })
                    }
                  >
                    {words}
                  </Checkbox>
                ))}
              </div>
            ),
          }))}
        />
      </SheetBody>
    </Sheet>
  );
}

function Hands({
  railwayId,
  record,
  line,
  say,
  attempt,
}: {
  railwayId: string;
  record: RailwayRecord;
  line: LiveLine;
  /** A message in words. */
  say: (message: string) => string;
  attempt: (work: () => Promise<unknown>) => Promise<void>;
}) {
  const [address, setAddress] = useState(1);
  const [input, setInput] = useState<string | null>(null);
  const [sending, setSending] = useState(false);
  const there = new Set(line.status?.gateways.map(({ name }) => name));
  const inputs = inputsOf(record).filter(({ on }) => there.has(on));
  const at = inputs.find(({ key }) => key === input) ?? inputs[0];
  const work = (made: boolean) => () => attempt(async () => at && workInput(railwayId, at.on, at.label, at.way, made));
  return (
    <div className="grid gap-2 border-b border-rule p-3">
      {there.has("station") && (
        <Row label="Throw address">
          <NumberField
            label="Address to throw"
            className="w-20! font-mono"
            value={address}
            save={(value) => {
              if (value === null) return "Type an address.";
              setAddress(value);
              return null;
            }}
          />
          {(["N", "R"] as const).map((to) => (
            <Button key={to} size="small" onClick={() => attempt(() => throwAddress(railwayId, address, to))}>
              to {to}
            </Button>
          ))}
          <Button size="small" onClick={() => setSending(true)}>
            Packet ...
          </Button>
          {sending && <PacketDialog railwayId={railwayId} record={record} say={say} close={() => setSending(false)} />}
        </Row>
      )}
      {at && (
        <Row label="Work input">
          <Choice
            label="Input to work"
            size="small"
            value={at.key}
            options={inputs.map(({ key, text }) => ({ value: key, text }))}
            onChange={setInput}
          />
          <Button size="small" onClick={work(true)}>
            make
          </Button>
          <Button size="small" onClick={work(false)}>
            let go
          </Button>
        </Row>
      )}
    </div>
  );
}

function Row({ label, children }: { label: string; children: ReactNode }) {
  return (
    <div className="flex flex-wrap items-center gap-1.5">
      <span className="w-full text-small text-ink-2">{label}</span>
      {children}
    </div>
  );
}

/** Inputs of nodes and encoders, those at which something is read first. */
function inputsOf(record: RailwayRecord) {
  const read = new Map(
    record.assignments.flatMap((a) => {
      if (a.role !== "input") return [];
      const control = record.devices.find(({ id }) => id === a.controlId)?.label ?? "";
      return [[`${a.deviceId} ${a.way}`, control] as const];
    }),
  );
  const inputs = record.devices.flatMap((device) => {
    const type = typeOf(record, device);
    const most = readingInputs(type);
    const on: GatewayName = type.hears === "bus" ? "bus" : "feedback";
    return Array.from({ length: most }, (_, index) => {
      const way = index + 1;
      const control = read.get(`${device.id} ${way}`);
      const text = `${device.label}-${way}${control ? ` (${control})` : ""}`;
      return { key: `${device.id} ${way}`, text, label: device.label, way, on };
    });
  });
  // what goes over the bus moves something
  return [...inputs.filter(({ on }) => on === "bus"), ...inputs.filter(({ on }) => on !== "bus")];
}
