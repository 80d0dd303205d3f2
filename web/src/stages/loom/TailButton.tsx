import { giveTail, list, motorsWithoutTail } from "@alderman/core";
import { Plus } from "lucide-react";
import { useRef, useState } from "react";
import { useOverview } from "../../derivation/hooks.ts";
import { Button } from "../../kit/Button.tsx";
import { Checkbox } from "../../kit/Checkbox.tsx";
import { Popover } from "../../kit/Popover.tsx";
import { useRecord } from "../../session/hooks.ts";
import { useEdit } from "../../session/useEdit.ts";

/** Gives a motor, or two, a tail of its own. */
export function TailButton() {
  const button = useRef<HTMLButtonElement>(null);
  const [open, setOpen] = useState(false);
  return (
    <>
      <Button ref={button} size="small" aria-expanded={open} onClick={() => setOpen(true)}>
        <Plus size={13} aria-hidden="true" /> Tail
      </Button>
      <Popover open={open} setOpen={setOpen} anchor={button} label="A tail for a motor">
        <MotorsForTail close={() => setOpen(false)} />
      </Popover>
    </>
  );
}

function MotorsForTail({ close }: { close: () => void }) {
  const record = useRecord();
  const overview = useOverview();
  const act = useEdit();
  const [ids, setIds] = useState<readonly string[]>([]);
  if (!record || !overview) return null;
  const motors = motorsWithoutTail(record, overview.loom);
  const chosen = motors.filter(({ id }) => ids.includes(id));
  return (
    <div className="grid w-64 gap-2 p-3">
      <p className="text-small text-ink-2">
        A tail is a cable that is joined to its motor at the bench. Choose one motor, or two that share it.
      </p>
      {motors.length === 0 && <p className="text-small">No motor has single wires that are still to be made.</p>}
      <div className="grid max-h-60 grid-cols-2 gap-1 overflow-y-auto">
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
        disabled={chosen.length === 0 || chosen.length > 2}
        onClick={() => {
          act(() => giveTail(record, overview.loom, ids));
          close();
        }}
      >
        {chosen.length === 0
          ? "Choose a motor"
          : chosen.length > 2
            ? "At most two share a tail"
            : `Tail for ${list(chosen.map(({ label }) => label))}`}
      </Button>
    </div>
  );
}
