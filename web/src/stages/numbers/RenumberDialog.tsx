import {
  type AddressChange,
  applyRenumbering,
  count,
  type OutputAddress,
  programmingOrder,
  type RailwayRecord,
  renumber,
  type Scheme,
} from "@alderman/core";
import { useMemo, useState } from "react";
import { Mark } from "../../drawing/Mark.tsx";
import type { DataColumn } from "../../kit/BodyRow.tsx";
import { Button } from "../../kit/Button.tsx";
import { ChoiceField } from "../../kit/ChoiceField.tsx";
import { DataTable } from "../../kit/DataTable.tsx";
import { Dialog } from "../../kit/Dialog.tsx";
import { Field, FormGrid } from "../../kit/Field.tsx";
import { NumberField } from "../../kit/NumberField.tsx";
import { useRecord } from "../../session/hooks.ts";
import { useEdit } from "../../session/useEdit.ts";

type By = "turnout" | "board" | "ten" | "hundred";

const SCHEMES: { value: By; text: string; hint: string }[] = [
  { value: "turnout", text: "as the turnout's label", hint: "turnout 12 has 12" },
  { value: "board", text: "board after board", hint: "from a first number on" },
  { value: "hundred", text: "a hundred for each zone", hint: "101, 201, in the zones' order" },
  { value: "ten", text: "a ten for each zone", hint: "11, 21" },
];

const COLUMNS: DataColumn<AddressChange>[] = [
  { id: "output", title: "Output", mono: true, value: ({ label }) => label },
  { id: "throws", title: "Throws", value: ({ throws }) => throws, cell: ({ throws }) => throws ?? "free" },
  { id: "from", title: "Now", figures: true, value: ({ from }) => from },
  { id: "to", title: "New", figures: true, value: ({ to }) => to, cell: ({ to }) => <b>{to}</b> },
];

/** New addresses by a scheme for some outputs or all, seen before they are given. */
export function RenumberDialog({
  outputs,
  ticked,
  close,
}: {
  outputs: readonly OutputAddress[];
  /** Labels of the outputs that were chosen; none for all. */
  ticked: ReadonlySet<string>;
  close: () => void;
}) {
  const record = useRecord();
  const act = useEdit();
  const [by, setBy] = useState<By>("board");
  const [first, setFirst] = useState(1);
  const labels = useMemo(
    () => (ticked.size > 0 ? ticked : new Set(outputs.map(({ label }) => label))),
    [ticked, outputs],
  );
  const scheme = schemeOf(by, first);
  const plan = record && renumber(record, outputs, labels, scheme);
  if (!record || !plan) return null;
  const { changes, unchanged } = plan;
  const steps = orderAfter(record, outputs, changes);
  const between = steps.filter(({ isTemporary }) => isTemporary).length;
  return (
    <Dialog
      wide
      title={`Renumber ${ticked.size > 0 ? count(ticked.size, "output") : "all outputs"}`}
      about="What each output is to have. What it answers to stays until it is programmed; the order of that follows, so that no number is ever met twice."
      close={close}
    >
      <FormGrid>
        <ChoiceField label="Addresses go" value={by} options={SCHEMES} onChange={setBy} />
        {by === "board" && (
          <Field label="First number">
            {(ids) => (
              <NumberField
                ids={ids}
                value={first}
                save={(now) => {
                  if (now === null || !Number.isInteger(now) || now < 1) return "Type a whole number from 1 up.";
                  setFirst(now);
                  return null;
                }}
              />
            )}
          </Field>
        )}
      </FormGrid>
      {unchanged.map(({ label, why }) => (
        <p key={label} className="mt-1.5 text-small">
          <Mark verdict="doubtful" size={14} /> <b className="mono">{label}</b> stays as it is: {why}
        </p>
      ))}
      <div className="mt-3 border-t border-rule">
        <DataTable
          flowing
          label="New addresses"
          items={changes}
          columns={COLUMNS}
          idOf={({ label }) => label}
          empty={<p className="p-3 text-ink-2">All have these addresses already.</p>}
        />
      </div>
      {changes.length > 0 && (
        <p className="mt-2 text-small">
          Then {count(steps.length - between, "output or board", "outputs and boards")} are to be programmed,{" "}
          {steps[0]?.label} first
          {between > 0 && `; ${between} of them get a number in between, since they are in each other's way`}. What is
          written on the panel and on boards with their old numbers is to be written anew.
        </p>
      )}
      <Button
        look="best"
        className="mt-3"
        disabled={changes.length === 0}
        onClick={() => {
          act(() => applyRenumbering(record, changes));
          close();
        }}
      >
        {changes.length === 0 ? "Nothing changes" : `Give ${count(changes.length, "output")} new addresses`}
      </Button>
    </Dialog>
  );
}

/** The order of programming once the addresses are changed. */
function orderAfter(record: RailwayRecord, outputs: readonly OutputAddress[], changes: readonly AddressChange[]) {
  const to = new Map(changes.map((change) => [change.label, change.to]));
  return programmingOrder(
    record,
    outputs.map((output) => ({ ...output, address: to.get(output.label) ?? output.address })),
  );
}

function schemeOf(by: By, first: number): Scheme {
  if (by === "board") return { by, first };
  return by === "turnout" ? { by } : { by: "zone", size: by === "ten" ? 10 : 100 };
}
