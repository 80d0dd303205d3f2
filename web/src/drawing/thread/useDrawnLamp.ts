import { ownOf, type Thread, type ThreadLamp } from "@alderman/core";
import { useAppSelector } from "../../store/store.ts";

/** The lamp of a thread that is drawn: the one that was chosen, else the first; null when it has none. */
export function useDrawnLamp(thread: Thread): ThreadLamp | null {
  const chosen = useAppSelector((state) => ownOf(state.view.lampOf, thread.turnout.id));
  return thread.lamps.find(({ device }) => device.id === chosen) ?? thread.lamps[0] ?? null;
}
