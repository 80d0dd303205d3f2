import type { Thread } from "@alderman/core";
import type { ComponentProps, ReactNode } from "react";
import { Boards } from "./Boards.tsx";
import type { BoardEntry } from "./boardEntries.ts";
import { DROP_HERE, TurnoutDragging, useDragTurnout, useDropTurnout } from "./dragging.tsx";
import { Roster } from "./Roster.tsx";

/** The roster from which turnouts are dragged to the boards below it. */
export function DraggedRoster() {
  return (
    <TurnoutDragging>
      <Roster row={DraggedRow} />
      <Boards place={BoardPlace} />
    </TurnoutDragging>
  );
}

/** Dragged by mouse or finger only: keys choose rows here, and move outputs in the list and in a board's own window. */
function DraggedRow({ item: { turnout, label }, ...rest }: { item: Thread } & ComponentProps<"tr">) {
  const { ref, listeners } = useDragTurnout(turnout.id, label, "roster");
  const { onMouseDown, onTouchStart } = listeners as Pick<ComponentProps<"tr">, "onMouseDown" | "onTouchStart">;
  return <tr {...rest} ref={ref} onMouseDown={onMouseDown} onTouchStart={onTouchStart} />;
}

function BoardPlace({ entry: { device }, children }: { entry: BoardEntry; children: ReactNode }) {
  const { ref, over } = useDropTurnout({ deviceId: device.id, way: null, name: device.label }, "roster");
  return (
    <div ref={ref} className={over ? DROP_HERE : ""}>
      {children}
    </div>
  );
}
