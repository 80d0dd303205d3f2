import { giveTail, list, motorsWithoutTail } from "@alderman/core";
import { useState } from "react";
import { useLoom } from "../../derivation/hooks.ts";
import { Button } from "../../kit/Button.tsx";
import { Checkbox } from "../../kit/Checkbox.tsx";
import { Dialog } from "../../kit/Dialog.tsx";
import { useRecord } from "../../session/hooks.ts";
import { useEdit } from "../../session/useEdit.ts";

/** Gives a motor, or two, a tail of its own. */
export function TailDialog({ close }: { close: () => void }) {
  const record = useRecord();
  const loom = useLoom();
  const act = useEdit();
  const [ids, setIds] = useState<readonly string[]>([]);
  if (!record || !loom) return null;
  const motors = motorsWithoutTail(record, loom);
  const chosen = motors.filter(({ id }) => ids.includes(id));
  return (
    <Dialog
      title="A tail for a motor"
      about="A tail is a cable from a strip or board that is joined to its motor at the bench, before this is fitted. Choose one motor, or two that share it; their wires that are not made yet become its cores."
      close={close}
    >
      {motors.length === 0 && <p>No motor has single wires that are still to be made.</p>}
      <div className="grid grid-cols-4 gap-1.5 max-sm:grid-cols-2">
        {motors.map(({ id, label }) => (
          <Checkbox
            key={id}
            checked={ids.includes(id)}
            onChange={(on) => setIds(on ? [...ids, id] : ids.filter((each) => each !== id))}
          >
            {label}
          </Checkbox>
        ))}
      </div>
      <Button
        look="best"
        className="mt-4"
        disabled={chosen.length === 0 || chosen.length > 2}
        onClick={() => {
          act(() => giveTail(record, loom, ids));
          close();
        }}
      >
        {chosen.length === 0
          ? "Choose a motor"
          : chosen.length > 2
            ? "At most two share a tail"
            : `A tail for ${list(chosen.map(({ label }) => label))}`}
      </Button>
    </Dialog>
  );
}
