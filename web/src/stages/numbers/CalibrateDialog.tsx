import { type BusNode, calibrateNode, type RailwayRecord, typeOf } from "@alderman/core";
import { useState } from "react";
import { Button } from "../../kit/Button.tsx";
import { Checkbox } from "../../kit/Checkbox.tsx";
import { Dialog } from "../../kit/Dialog.tsx";
import { Field } from "../../kit/Field.tsx";
import { NumberField } from "../../kit/NumberField.tsx";
import { useTryEdit } from "../../session/useEdit.ts";

/** How the switches of a node stand and the number that was read: what they stand for follows, and becomes a type of the owner's own. */
export function CalibrateDialog({
  record,
  node: { line },
  close,
}: {
  record: RailwayRecord;
  node: BusNode;
  close: () => void;
}) {
  const tryEdit = useTryEdit();
  const names = typeOf(record, line.device).numberSwitches?.names ?? [];
  const [on, setOn] = useState<boolean[]>(names.map(() => false));
  const [observed, setObserved] = useState<number | null>(line.read === null ? null : Number(line.read));
  const [problem, setProblem] = useState<string | null>(null);
  return (
    <Dialog
      title={`Switches of ${line.of}`}
      about="Say how they stand, and which number the node gave after power came on: which of them count when on, and from where they count, follows from that."
      close={close}
    >
      <fieldset className="flex flex-wrap gap-x-4 gap-y-1">
        <legend className="mb-1 text-ink-2">On, or fitted</legend>
        {names.map((name, bit) => (
          <Checkbox
            key={name}
            checked={on[bit] ?? false}
            onChange={(is) => setOn(on.map((each, index) => (index === bit ? is : each)))}
          >
            {name}
          </Checkbox>
        ))}
      </fieldset>
      <div className="mt-3 grid max-w-60 gap-3">
        <Field stacked label="It was read as" problem={problem}>
          {(ids) => (
            <NumberField
              ids={ids}
              className="font-mono"
              value={observed}
              empty="not yet"
              save={(value) => {
                setObserved(value);
                setProblem(null);
                return null;
              }}
            />
          )}
        </Field>
        <Button
          look="best"
          disabled={observed === null}
          onClick={() => {
            const wrong = tryEdit(() =>
              calibrateNode(record, line.device.id, on, observed ?? 0, new Date().toISOString()),
            );
            setProblem(wrong);
            if (wrong === null) close();
          }}
        >
          Take it as a type of my own
        </Button>
      </div>
    </Dialog>
  );
}
