import {
  type AddressPlace,
  addressMap,
  Draft,
  gapsIn,
  isDue,
  type OutputAddress,
  type RailwayRecord,
  setAddress,
  setAnswer,
} from "@alderman/core";
import { useMemo, useState } from "react";
import { useLeader } from "../../derivation/hooks.ts";
import { Mark } from "../../drawing/Mark.tsx";
import type { Verdict } from "../../drawing/verdict.ts";
import { Checked } from "../../findings/Checked.tsx";
import type { DataColumn } from "../../kit/BodyRow.tsx";
import { Button } from "../../kit/Button.tsx";
import { DataTable } from "../../kit/DataTable.tsx";
import { NumberField } from "../../kit/NumberField.tsx";
import { Sheet } from "../../kit/Sheet.tsx";
import { Sheets } from "../../kit/Sheets.tsx";
import { useRecord } from "../../session/hooks.ts";
import { useTryEdit } from "../../session/useEdit.ts";
import { useAppDispatch } from "../../store/store.ts";
import { choose } from "../../store/view.ts";
import { shortDateAndTime } from "../../tools/when.ts";
import { AddressDialog } from "./AddressDialog.tsx";
import { AddressMap } from "./AddressMap.tsx";
import { CountingDialog } from "./CountingDialog.tsx";
import { RenumberDialog } from "./RenumberDialog.tsx";
import { ReservesDialog } from "./ReservesDialog.tsx";

/** What outputs are to have and what they answer to: at a glance, as a picture of the whole range, and as a list. */
export function Addresses({ record, outputs }: { record: RailwayRecord; outputs: readonly OutputAddress[] }) {
  const shift = record.railway.addressShift;
  const leader = useLeader();
  const dispatch = useAppDispatch();
  const [ticked, setTicked] = useState<ReadonlySet<string>>(new Set());
  const [dialog, setDialog] = useState<"renumber" | "reserves" | "counting" | null>(null);
  const [opened, setOpened] = useState<number | null>(null);
  const columns = useMemo(() => columnsFor(shift, setOpened, zonesIn(record)), [shift, record]);
  const places = useMemo(() => addressMap(record, outputs), [record, outputs]);
  const place = places.find(({ address }) => address === opened);
  return (
    <>
      <Sheets rows="auto auto minmax(0,1fr)">
        <Strip outputs={outputs} places={places} />
        <Sheet
          title="All addresses"
          about={shift === 0 ? "as the standard counts" : "counted from raw 0"}
          actions={
            <>
              <Button size="small" onClick={() => setDialog("counting")}>
                How counted ...
              </Button>
              <Button size="small" onClick={() => setDialog("reserves")}>
                Reserve ...
              </Button>
              <Button size="small" disabled={outputs.length === 0} onClick={() => setDialog("renumber")}>
                Renumber {ticked.size > 0 ? `${ticked.size} ...` : "..."}
              </Button>
            </>
          }
        >
          <AddressMap places={places} open={setOpened} />
        </Sheet>
        <Sheet title="Address list" about="type over an address to change it, Enter goes on to the next">
          <DataTable
            label="Address list"
            keptAs="addresses"
            items={outputs}
            columns={columns}
            idOf={({ label }) => label}
            chosen={outputs.find(({ turnoutIds }) => leader !== null && turnoutIds.includes(leader))?.label ?? null}
            onChoose={({ turnoutIds: [id] }) => id !== undefined && dispatch(choose({ kind: "turnout", id }))}
            ticks={{ ticked, onTick: setTicked, nameOf: ({ label }) => label }}
            empty={
              <p className="p-3 text-ink-2">
                <Checked>
                  No decoder yet. Addresses appear here as soon as a board with numbered outputs is added in Equip.
                </Checked>
              </p>
            }
          />
        </Sheet>
      </Sheets>
      {dialog === "renumber" && <RenumberDialog outputs={outputs} ticked={ticked} close={() => setDialog(null)} />}
      {dialog === "counting" && <CountingDialog record={record} close={() => setDialog(null)} />}
      {dialog === "reserves" && <ReservesDialog close={() => setDialog(null)} />}
      {place && <AddressDialog place={place} shift={shift} close={() => setOpened(null)} />}
    </>
  );
}

/** What is not right yet, at a glance. */
function Strip({ outputs, places }: { outputs: readonly OutputAddress[]; places: readonly AddressPlace[] }) {
  const used = outputs.filter(({ throws }) => throws !== null);
  const answering = used.filter((output) => !isDue(output)).length;
  const clashes = places.filter(({ state }) => state === "clash").length;
  const gaps = gapsIn(places);
  const free = places.filter(({ state }) => state === "free").length;
  const due = used.find(isDue);
  const cells = [
    {
      count: answering,
      of: used.length,
      words: "in use answer",
      next: due ? `next: ${due.label}` : "all of them",
    },
    {
      count: clashes,
      words: clashes === 1 ? "address clashes" : "addresses clash",
      next: clashes ? "see the findings" : "none",
    },
    {
      count: gaps.length,
      words: gaps.length === 1 ? "gap in between" : "gaps in between",
      next: gaps[0]
        ? gaps[0][0] === gaps[0][1]
          ? `first: ${gaps[0][0]}`
          : `first: ${gaps[0][0]} to ${gaps[0][1]}`
        : "none",
    },
    { count: free, words: "free", next: `of ${places.length} addresses` },
  ];
  return (
    <section
      aria-label="What is not right yet"
      className="grid grid-cols-4 border border-rule bg-sheet max-sm:grid-cols-2"
    >
      {cells.map(({ count, of, words, next }) => (
        <div key={words} className="border-l border-rule px-3 py-1.5 first:border-l-0">
          <div>
            <b className="text-[17px]">{count}</b>
            {of !== undefined && ` of ${of}`} {words}
          </div>
          <div className="text-small text-ink-2">{next}</div>
        </div>
      ))}
    </section>
  );
}

/** The zone of each turnout, by what it is called. */
function zonesIn({ turnouts, zones }: RailwayRecord): ReadonlyMap<string, string> {
  const labels = new Map(zones.map(({ id, label }) => [id, label]));
  return new Map(turnouts.map(({ id, zoneId }) => [id, zoneId === null ? "" : (labels.get(zoneId) ?? "")]));
}

function columnsFor(
  shift: number,
  open: (address: number) => void,
  zones: ReadonlyMap<string, string>,
): DataColumn<OutputAddress>[] {
  return [
    {
      ...{ id: "output", title: "Output", value: ({ label }) => label },
      cell: ({ label, address, packet }) =>
        packet ? (
          <button
            type="button"
            className="cursor-pointer font-mono underline"
            onClick={(event) => {
              event.stopPropagation();
              open(address);
            }}
          >
            {label}
          </button>
        ) : (
          <span className="font-mono">{label}</span>
        ),
    },
    {
      ...{ id: "address", title: "Address", figures: true, value: ({ address }) => address },
      cell: (output) => <AddressField output={output} />,
    },
    {
      ...{ id: "now", title: "Answers to", figures: true, value: ({ now }) => now },
      cell: (output) => <AnswerField output={output} />,
    },
    {
      ...{
        id: "other",
        spare: true,
        hidden: true,
        title: shift === 0 ? "From raw 0" : "By the standard",
        figures: true,
      },
      value: ({ address, packet }) => (packet ? address + (shift === 0 ? 4 : -4) : null),
    },
    {
      id: "decoder",
      spare: true,
      hidden: true,
      title: "Decoder",
      figures: true,
      value: ({ packet }) => packet?.decoder ?? "none",
    },
    {
      id: "pair",
      spare: true,
      hidden: true,
      title: "Pair",
      figures: true,
      value: ({ packet }) => packet?.pair ?? null,
    },
    {
      ...{ id: "throws", title: "Throws", value: ({ throws }) => throws },
      cell: ({ throws }) => (throws ? <b>{throws}</b> : <span className="text-ink-2">free</span>),
    },
    {
      ...{ id: "zone", title: "Zone", hidden: true },
      value: ({ turnoutIds: [id] }) => (id === undefined ? "" : (zones.get(id) ?? "")),
    },
    { id: "standing", title: "Standing", value: standing },
    {
      ...{ id: "mark", title: "Verdict", untitled: true, width: 34 },
      cell: (output) => <Mark verdict={verdictOf(output)} size={15} />,
    },
  ];
}

function verdictOf(output: OutputAddress): Verdict {
  const { packet, sharedWith, throws } = output;
  if (!packet) return "wrong";
  if (sharedWith.length > 0) return throws ? "wrong" : "doubtful";
  if (isDue(output)) return output.answer ? "doubtful" : "open";
  return throws ? "good" : "open";
}

function standing(output: OutputAddress): string {
  const { sharedWith, packet, answer } = output;
  if (!packet) return "no decoder can have it";
  if (sharedWith.length > 0) return `also ${sharedWith.slice(0, 3).join(", ")}`;
  if (isDue(output)) return "to be programmed";
  return answer ? `${answer.how} ${shortDateAndTime(answer.at)}` : "as bought";
}

/** What the output was found to answer to, typed in as it was read from the board. */
function AnswerField({ output }: { output: OutputAddress }) {
  const record = useRecord();
  const tryEdit = useTryEdit();
  const save = (address: number | null) => {
    if (address === null || !Number.isInteger(address)) return "Type the number that it answers to.";
    return tryEdit(() =>
      record
        ? setAnswer(record, output.deviceId, output.way, address, {
            ...{ how: "read", seen: "", at: new Date().toISOString() },
          })
        : null,
    );
  };
  return (
    <NumberField
      goesOn
      label={`${output.label} answers to`}
      className="ml-auto min-h-6! w-18! text-right font-mono"
      value={output.now}
      save={save}
    />
  );
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
