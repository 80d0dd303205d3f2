import { type FeedbackInput, plainSources, type RailwayRecord, setPlainInput } from "@alderman/core";
import { ChoiceField } from "../../kit/ChoiceField.tsx";
import { Dialog } from "../../kit/Dialog.tsx";
import { FormGrid } from "../../kit/Field.tsx";
import { useEdit } from "../../session/useEdit.ts";

/** What is read at an input that throws no turnout: a block, or how the blades of a turnout lie. */
export function InputDialog({
  record,
  input: { deviceId, way, label, number, on, does, plain },
  close,
}: {
  record: RailwayRecord;
  input: FeedbackInput;
  close: () => void;
}) {
  const act = useEdit();
  const sources = plainSources(record);
  const [now = "", tells = ""] = plain ? [on[0], does[0]] : [];
  const options = [
    { value: null, text: "nothing" },
    ...(plain ? [{ value: now as string | null, text: now, hint: tells }] : []),
    ...sources.map((source) => ({ value: source.label as string | null, text: source.label, hint: source.tells })),
  ];
  return (
    <Dialog
      title={`Input ${label}`}
      about={`Its messages carry ${number}. Buttons are read here by what they throw: say so at their turnout. A zone or a contact tells others: a computer, the command station.`}
      close={close}
    >
      <FormGrid narrow>
        <ChoiceField
          label="At it"
          value={plain ? now : null}
          options={options}
          onChange={(value) => {
            if (value === now) return;
            const source = sources.find((each) => each.label === value);
            act(() => setPlainInput(record, deviceId, way, source ?? null));
          }}
        />
      </FormGrid>
    </Dialog>
  );
}
