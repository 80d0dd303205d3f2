import {
  type FeedbackInput,
  faultOf,
  feedbackInputs,
  list,
  type RailwayRecord,
  settingLines,
  type Thread,
  wantSetting,
} from "@alderman/core";
import { useMemo, useState } from "react";
import { Mark } from "../../drawing/Mark.tsx";
import type { DataColumn } from "../../kit/BodyRow.tsx";
import { Choice } from "../../kit/Choice.tsx";
import { DataTable } from "../../kit/DataTable.tsx";
import { Field } from "../../kit/Field.tsx";
import { NumberField } from "../../kit/NumberField.tsx";
import { Segmented } from "../../kit/Segmented.tsx";
import { Sheet, SheetBody } from "../../kit/Sheet.tsx";
import { useTryEdit } from "../../session/useEdit.ts";
import { useAppDispatch } from "../../store/store.ts";
import { choose } from "../../store/view.ts";
import { InputDialog } from "./InputDialog.tsx";

const COLUMNS: DataColumn<FeedbackInput>[] = [
  { id: "number", title: "Number", figures: true, width: 74, value: ({ number }) => number },
  { id: "input", title: "Input", mono: true, width: 84, value: ({ label }) => label },
  {
    ...{ id: "on", title: "At it", value: ({ on }) => list(on) },
    cell: ({ on }) => (on.length > 0 ? <b>{list(on)}</b> : <span className="text-ink-2">nothing</span>),
  },
  { id: "does", title: "Throws, tells", value: ({ does }) => list(does), wraps: true },
  {
    id: "by",
    title: "By",
    value: ({ byStation, does }) => (does.length === 0 ? "" : byStation ? "station" : "computer"),
  },
  { id: "level", title: "Level", value: ({ inverted }) => (inverted ? "turned" : "closed is on") },
  {
    ...{ id: "mark", title: "Verdict", untitled: true, width: 34 },
    cell: ({ sharedWith, on }) => (
      <Mark verdict={sharedWith.length > 0 ? "wrong" : on.length > 0 ? "good" : "open"} size={15} />
    ),
  },
];

const SHOWN = [
  { value: "all", text: "All" },
  { value: "used", text: "Used" },
  { value: "free", text: "Free" },
] as const;

/** Every input of the feedback encoders with the number that its messages carry. */
export function FeedbackSheet({ record, threads }: { record: RailwayRecord; threads: readonly Thread[] }) {
  const dispatch = useAppDispatch();
  const [shown, setShown] = useState<(typeof SHOWN)[number]["value"]>("all");
  const [open, setOpen] = useState<string | null>(null);
  const inputs = useMemo(() => feedbackInputs(record, threads), [record, threads]);
  const opened = inputs.find(({ label }) => label === open);
  const used = inputs.filter(({ on }) => on.length > 0);
  const rows = inputs.filter(({ on }) => shown === "all" || (shown === "used") === on.length > 0);
  return (
    <Sheet title="Feedback" about={`${used.length} of ${inputs.length} inputs used`}>
      <DataTable
        label="Feedback"
        keptAs="feedback"
        bar={<Segmented size="small" label="Which inputs" value={shown} segments={SHOWN} onChange={setShown} />}
        items={rows}
        columns={COLUMNS}
        idOf={({ label }) => label}
        onChoose={({ turnoutIds: [id], label }) =>
          id === undefined ? setOpen(label) : dispatch(choose({ kind: "turnout", id }))
        }
        empty={<p className="p-3 text-ink-2">None of them.</p>}
      />
      {opened && <InputDialog record={record} input={opened} close={() => setOpen(null)} />}
    </Sheet>
  );
}

/** Each encoder: its start number, and who acts on its messages. */
export function EncodersSheet({ record }: { record: RailwayRecord }) {
  const tryEdit = useTryEdit();
  const lines = settingLines(record);
  const starts = lines.filter(({ setting }) => setting.isStart);
  return (
    <Sheet title="Encoders" about="set in the box; read back under Settings">
      <SheetBody label="Encoders">
        {starts.map((start) => {
          const actor = lines.find(({ device, setting }) => device.id === start.device.id && setting.isActor);
          return (
            <section key={start.id} aria-label={start.of} className="grid gap-2 border-b border-rule p-3">
              <h3 className="mono">{start.of}</h3>
              <Field label="Start number" stacked>
                {(ids) => (
                  <NumberField
                    ids={ids}
                    value={Number(start.wanted)}
                    save={(value) =>
                      faultOf(start, String(value ?? "")) ?? tryEdit(() => wantSetting(record, start, String(value)))
                    }
                  />
                )}
              </Field>
              {actor && (
                <Field label="Its messages are acted on by" stacked>
                  {({ id }) => (
                    <Choice
                      id={id}
                      className="w-full"
                      value={actor.wanted}
                      options={(actor.setting.values ?? []).map((value) => ({ value, text: value }))}
                      onChange={(value) => tryEdit(() => wantSetting(record, actor, value))}
                    />
                  )}
                </Field>
              )}
              <p className="text-small text-ink-2">
                With a computer the panel is dead when that is off; the power-up table says so.
              </p>
            </section>
          );
        })}
      </SheetBody>
    </Sheet>
  );
}
