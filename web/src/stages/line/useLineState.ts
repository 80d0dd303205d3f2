import { type LineState, lineLayout, ownOf, type RailwayRecord, type SignalShown, signalsOn } from "@alderman/core";
import { useMemo } from "react";
import { useAppSelector } from "../../store/store.ts";

/** How the line stands for this look: trains in blocks, signals held, blades as asked, and what the signals show then. */
export function useLineState(record: RailwayRecord): LineState & { signals: SignalShown[] } {
  const { occupied, held, asked } = useAppSelector((state) => state.view);
  return useMemo(() => {
    const leaders = new Map(
      lineLayout(record).junctions.map(({ id, turnout }) => [id, turnout ? (turnout.movesWith ?? turnout.id) : id]),
    );
    const state: LineState = {
      occupied: new Set(occupied),
      held: new Set(held),
      lies: (id) => (ownOf(asked, leaders.get(id) ?? id) === "R" ? "reverse" : "normal"),
    };
    return { ...state, signals: signalsOn(record, state) };
  }, [record, occupied, held, asked]);
}
