import { controlsOf, type Thread } from "@alderman/core";
import { controlInWords } from "../../drawing/thread/controlWords.ts";
import { Choice } from "../../kit/Choice.tsx";
import { useAppDispatch, useAppSelector } from "../../store/store.ts";
import { throwBy } from "../../store/view.ts";

/** Which of several controls is used. */
export function BySelector({ thread }: { thread: Thread }) {
  const chosen = useAppSelector((state) => state.view.by[thread.turnout.id]);
  const dispatch = useAppDispatch();
  const controls = controlsOf(thread);
  const [first] = controls;
  if (!first || controls.length < 2) return null;
  return (
    <Choice
      label="Thrown by"
      value={chosen ?? first.assignment.id}
      options={controls.map((control) => ({ value: control.assignment.id, text: `by ${controlInWords(control)}` }))}
      onChange={(controlId) => dispatch(throwBy({ turnoutId: thread.turnout.id, controlId }))}
    />
  );
}
