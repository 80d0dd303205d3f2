import { reserveAddresses } from "@alderman/core";
import { X } from "lucide-react";
import { useState } from "react";
import { Button } from "../../kit/Button.tsx";
import { Dialog } from "../../kit/Dialog.tsx";
import { Field } from "../../kit/Field.tsx";
import { IconButton } from "../../kit/IconButton.tsx";
import { Input } from "../../kit/Input.tsx";
import { useRecord } from "../../session/hooks.ts";
import { useEdit, useTryEdit } from "../../session/useEdit.ts";

/** Ranges of addresses that no scheme gives away: those that there are, and a new one. */
export function ReservesDialog({ close }: { close: () => void }) {
  const record = useRecord();
  const act = useEdit();
  const tryEdit = useTryEdit();
  const [text, setText] = useState({ first: "", last: "", what: "" });
  const [problem, setProblem] = useState<string | null>(null);
  if (!record) return null;
  const add = () => {
    const [first, last] = [Number(text.first), Number(text.last || text.first)];
    if (!Number.isInteger(first) || !Number.isInteger(last) || text.first === "")
      return setProblem("Type the first and the last number of the range.");
    if (text.what.trim() === "") return setProblem("Say what the range is for.");
    const said = tryEdit(() => reserveAddresses(record, first, last, text.what.trim()));
    setProblem(said ?? null);
    if (!said) setText({ first: "", last: "", what: "" });
  };
  const field = (name: keyof typeof text, label: string) => (
    <Field label={label} stacked>
      {(ids) => (
        <Input {...ids} value={text[name]} onChange={(event) => setText({ ...text, [name]: event.target.value })} />
      )}
    </Field>
  );
  return (
    <Dialog
      title="Reserved addresses"
      about="Kept for what is not here yet, or is not of this railway: signals, a friend's modules. No scheme gives them away."
      close={close}
    >
      <ul>
        {[...record.reserves]
          .sort((a, b) => a.first - b.first)
          .map(({ id, first, last, what }) => (
            <li key={id} className="flex items-center gap-3 border-b border-rule py-1">
              <span className="mono w-28">
                {first} to {last}
              </span>
              <span className="flex-1">{what}</span>
              <IconButton
                icon={X}
                label={`Free ${first} to ${last}`}
                onClick={() =>
                  act({ words: `Freed ${first} to ${last}`, edits: [{ op: "remove", kind: "reserve", id }] })
                }
              />
            </li>
          ))}
      </ul>
      <form
        className="mt-3 grid grid-cols-[1fr_1fr_2fr_auto] items-end gap-2 max-sm:grid-cols-1"
        onSubmit={(event) => {
          event.preventDefault();
          add();
        }}
      >
        {field("first", "From")}
        {field("last", "To")}
        {field("what", "For")}
        <Button type="submit">Reserve</Button>
      </form>
      {problem && (
        <p role="alert" className="mt-1 text-small text-red">
          {problem}
        </p>
      )}
    </Dialog>
  );
}
