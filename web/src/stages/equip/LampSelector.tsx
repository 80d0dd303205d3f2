import type { Thread } from "@alderman/core";
import { useDrawnLamp } from "../../drawing/thread/useDrawnLamp.ts";
import { Choice } from "../../kit/Choice.tsx";
import { useAppDispatch } from "../../store/store.ts";
import { showLamp } from "../../store/view.ts";

/** Which of several lamps is drawn and looked at. */
export function LampSelector({ thread }: { thread: Thread }) {
  const dispatch = useAppDispatch();
  const drawn = useDrawnLamp(thread);
  if (!drawn || thread.lamps.length < 2) return null;
  return (
    <Choice
      label="Lamp"
      value={drawn.device.id}
      options={thread.lamps.map(({ device, turnout }) => ({
        value: device.id,
        text: device.label,
        hint: thread.followers.length > 0 ? `of ${turnout.label}` : "",
      }))}
      onChange={(lampId) => dispatch(showLamp({ turnoutId: thread.turnout.id, lampId }))}
    />
  );
}
