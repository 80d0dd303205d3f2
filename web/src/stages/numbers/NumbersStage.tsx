import { addressRange, Draft, type OutputAddress, setAddress } from "@alderman/core";
import { useMemo } from "react";
import { useLeader, useOverview } from "../../derivation/hooks.ts";
import { Mark } from "../../drawing/Mark.tsx";
import type { Verdict } from "../../drawing/verdict.ts";
import { Checked } from "../../findings/Checked.tsx";
import { FindingCard } from "../../findings/FindingCard.tsx";
import { StageMain } from "../../frame/StageMain.tsx";
import type { DataColumn } from "../../kit/BodyRow.tsx";
import { DataTable } from "../../kit/DataTable.tsx";
import { NumberField } from "../../kit/NumberField.tsx";
import { Sheet, SheetBody } from "../../kit/Sheet.tsx";
import { Sheets } from "../../kit/Sheets.tsx";
import { useRecord } from "../../session/hooks.ts";
import { useTryEdit } from "../../session/useEdit.ts";
import { useAppDispatch } from "../../store/store.ts";
import { choose } from "../../store/view.ts";

/** The address list: which output answers to which number, and what it throws. */
export function NumbersStage() {
  const overview = useOverview();
  const shift = useRecord()?.railway.addressShift ?? 0;
  const leader = useLeader();
  const dispatch = useAppDispatch();
  const outputs = overview?.addresses ?? [];
  const findings = overview?.findings.filter(({ ruleId }) => ruleId.startsWith("address-")) ?? [];
  const { first, last } = addressRange(shift);
  const columns = useMemo(() => columnsFor(shift), [shift]);
  const used = outputs.filter(({ throws }) => throws).length;
  return (
    <StageMain title="Numbers" about="Accessory addresses of all outputs">
      <Sheets columns="minmax(0,1fr) 320px">
        <Sheet
          title="Address list"
          about={`${used} of ${outputs.length} outputs in use; type over an address to change it, Enter goes on to the next`}
        >
          <DataTable
            label="Address list"
            keptAs="addresses"
            items={outputs}
            columns={columns}
            idOf={({ label }) => label}
            chosen={outputs.find(({ turnoutIds }) => leader !== null && turnoutIds.includes(leader))?.label ?? null}
            onChoose={({ turnoutIds: [id] }) => id !== undefined && dispatch(choose({ kind: "turnout", id }))}
            empty={
              <p className="p-3 text-ink-2">
                <Checked>
                  No decoder yet. Addresses appear here as soon as a board with numbered outputs is added in Equip.
                </Checked>
              </p>
            }
          />
        </Sheet>
        <Sheets rows="auto minmax(0,1fr)">
          <Sheet title="How it is counted">
            <p className="p-3 text-small">
              Addresses {first} to {last} can be sent; four to a decoder (NMRA S-9.2.1, RCN-213).{" "}
              {shift === 0
                ? "A station that counts from raw 0 shows the number in the column From raw 0."
                : "This railway's station counts from raw 0."}{" "}
              To find out: throw 1 and 5, and see which of them moves the first output of a board with factory settings.
              It is set in the railway's settings, under its name.
            </p>
          </Sheet>
          <Sheet title="Findings" about="on addresses">
            <SheetBody>
              {findings.length === 0 && (
                <p className="p-3 text-ink-2">
                  <Checked>No two outputs share an address.</Checked>
                </p>
              )}
              {findings.map((finding) => (
                <FindingCard key={finding.key} finding={finding} />
              ))}
            </SheetBody>
          </Sheet>
        </Sheets>
      </Sheets>
    </StageMain>
  );
}

function columnsFor(shift: number): DataColumn<OutputAddress>[] {
  return [
    { id: "output", title: "Output", mono: true, value: ({ label }) => label },
    {
      ...{ id: "address", title: "Address", figures: true, value: ({ address }) => address },
      cell: (output) => <AddressField output={output} />,
    },
    {
      ...{ id: "other", spare: true, title: shift === 0 ? "From raw 0" : "By the standard", figures: true },
      value: ({ address, packet }) => (packet ? address + (shift === 0 ? 4 : -4) : null),
    },
    { id: "decoder", spare: true, title: "Decoder", figures: true, value: ({ packet }) => packet?.decoder ?? "none" },
    { id: "pair", spare: true, title: "Pair", figures: true, value: ({ packet }) => packet?.pair ?? null },
    {
      ...{ id: "throws", title: "Throws", value: ({ throws }) => throws },
      cell: ({ throws }) => (throws ? <b>{throws}</b> : <span className="text-ink-2">free</span>),
    },
    { id: "standing", title: "Standing", value: standing },
    {
      ...{ id: "mark", title: "Verdict", untitled: true, width: 34 },
      cell: (output) => <Mark verdict={verdictOf(output)} size={15} />,
    },
  ];
}

function verdictOf({ packet, sharedWith, throws }: OutputAddress): Verdict {
  if (!packet) return "wrong";
  if (sharedWith.length > 0) return throws ? "wrong" : "doubtful";
  return throws ? "good" : "open";
}

function standing({ factory, sharedWith, packet }: OutputAddress): string {
  if (!packet) return "no decoder can have it";
  if (sharedWith.length > 0) return `also ${sharedWith.slice(0, 3).join(", ")}`;
  return factory ? "factory setting" : "set";
}

function AddressField({ output }: { output: OutputAddress }) {
  const record = useRecord();
  const tryEdit = useTryEdit();
  const save = (address: number | null) =>
    tryEdit(() => {
      if (!record) return null;
      const draft = new Draft(record);
      setAddress(draft, output.deviceId, output.way, address);
      return draft.group(
        address === null ? `${output.label} has its factory address again` : `${output.label} has address ${address}`,
      );
    });
  return (
    <NumberField
      goesOn
      label={`Address of ${output.label}`}
      className="ml-auto min-h-6! w-18! text-right font-mono"
      value={output.address}
      empty="factory"
      save={save}
    />
  );
}
