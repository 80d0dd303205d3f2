import { ownOf, type Thread } from "@alderman/core";
import { controlInWords, controlsAsking } from "../../drawing/thread/controlWords.ts";
import { Choice } from "../../kit/Choice.tsx";
import { useAppDispatch, useAppSelector } from "../../store/store.ts";
import { throwBy } from "../../store/view.ts";

/** Which of several controls is used; of those that can ask for the position that is looked at. */
export function BySelector({ thread }: { thread: Thread }) {
  const chosen = useAppSelector((state) => ownOf(state.view.by, thread.turnout.id));
  const dispatch = useAppDispatch();
  const position = useAppSelector((state) => ownOf(state.view.asked, thread.turnout.id) ?? "N");
  const controls = controlsAsking(thread, position);
  const [first] = controls;
  if (!first || controls.length < 2) return null;
  const current = controls.find(({ assignment }) => assignment.id === chosen) ?? first;
  return (
    <Choice
      label="Thrown by"
      value={current.assignment.id}
      options={controls.map((control) => ({ value: control.assignment.id, text: `by ${controlInWords(control)}` }))}
      onChange={(controlId) => dispatch(throwBy({ turnoutId: thread.turnout.id, controlId }))}
    />
  );
}
