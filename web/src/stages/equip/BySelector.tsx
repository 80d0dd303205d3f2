import { controlsOf, type Thread } from "@alderman/core";
import { Choice } from "../../kit/Choice.tsx";
import { useAppDispatch, useAppSelector } from "../../store/store.ts";
import { throwBy } from "../../store/view.ts";

/** Which of several controls is used. */
export function BySelector({ thread }: { thread: Thread }) {
  const chosen = useAppSelector((state) => state.view.by[thread.turnout.id]);
  const dispatch = useAppDispatch();
  const controls = [...new Map(controlsOf(thread).map((control) => [control.device.id, control])).values()];
  const [first] = controls;
  if (!first || controls.length < 2) return null;
  return (
    <Choice
      label="Thrown by"
      value={chosen ?? first.device.id}
      options={controls.map(({ device, assignment }) => ({
        value: device.id,
        text: `by ${device.label}${assignment.inverse ? " inverse" : ""}`,
      }))}
      onChange={(controlId) => dispatch(throwBy({ turnoutId: thread.turnout.id, controlId }))}
    />
  );
}
