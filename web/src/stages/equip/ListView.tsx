import { Sheets } from "../../kit/Sheets.tsx";
import { useTurnoutCount } from "../../session/hooks.ts";
import { BoardsSheet } from "./BoardsSheet.tsx";
import { TurnoutDragging } from "./dragging.tsx";
import { TurnoutGrid } from "./TurnoutGrid.tsx";

/** The turnouts as a list to type into, with the boards and supplies below it. */
export function ListView() {
  const turnouts = useTurnoutCount();
  return (
    <TurnoutDragging>
      <Sheets rows="minmax(0,1fr) auto">
        <TurnoutGrid />
        {turnouts > 0 && <BoardsSheet />}
      </Sheets>
    </TurnoutDragging>
  );
}
