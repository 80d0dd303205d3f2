import { moveOutput } from "@alderman/core";
import {
  DndContext,
  type DragEndEvent,
  DragOverlay,
  KeyboardSensor,
  MouseSensor,
  pointerWithin,
  rectIntersection,
  TouchSensor,
  useDraggable,
  useDroppable,
  useSensor,
  useSensors,
} from "@dnd-kit/core";
import { type ReactNode, useState } from "react";
import { shownRecord } from "../../session/shownSession.ts";
import { useEdit } from "../../session/useEdit.ts";
import { useAppStore } from "../../store/store.ts";

/** Where a turnout can be dropped: on a board, for its first free output, or on one output. */
interface Place {
  deviceId: string;
  way: number | null;
  /** What it is called, for those who listen. */
  name: string;
}

interface Dragged {
  leaderId: string;
  label: string;
}

/**
 * Lets turnouts be dragged to boards and outputs within: by mouse, by touch (hold first), and by keys (Space picks up and
 * drops, arrows move, Escape lets go). What happens is announced.
 */
export function TurnoutDragging({ children }: { children: ReactNode }) {
  const act = useEdit();
  // the record is asked for when something is dropped, so that nothing is drawn anew for every edit
  const store = useAppStore();
  const [dragged, setDragged] = useState<Dragged | null>(null);
  const sensors = useSensors(
    useSensor(MouseSensor, { activationConstraint: { distance: 6 } }),
    useSensor(TouchSensor, { activationConstraint: { delay: 250, tolerance: 6 } }),
    useSensor(KeyboardSensor),
  );
  const drop = ({ active, over }: DragEndEvent) => {
    setDragged(null);
    const { leaderId } = (active.data.current ?? {}) as Partial<Dragged>;
    const place = over?.data.current as Place | undefined;
    const record = shownRecord(store.getState());
    if (leaderId && place && record) act(() => moveOutput(record, leaderId, place.deviceId, place.way));
  };
  const nameOf = (data: { current?: object | undefined } | undefined, key: "label" | "name") =>
    (data?.current as Record<string, string> | undefined)?.[key] ?? "";
  return (
    <DndContext
      sensors={sensors}
      collisionDetection={(given) => {
        const under = pointerWithin(given);
        return under.length > 0 ? under : rectIntersection(given);
      }}
      accessibility={{
        announcements: {
          onDragStart: ({ active }) => `${nameOf(active.data, "label")} picked up.`,
          onDragOver: ({ active, over }) =>
            over ? `${nameOf(active.data, "label")} is over ${nameOf(over.data, "name")}.` : undefined,
          onDragEnd: ({ active, over }) =>
            over
              ? `${nameOf(active.data, "label")} dropped on ${nameOf(over.data, "name")}.`
              : `${nameOf(active.data, "label")} let go; nothing changed.`,
          onDragCancel: ({ active }) => `${nameOf(active.data, "label")} let go; nothing changed.`,
        },
        screenReaderInstructions: {
          draggable: "Space picks it up and drops it, the arrows move it, Escape lets it go.",
        },
      }}
      onDragStart={({ active }) => setDragged(active.data.current as Dragged)}
      onDragEnd={drop}
      onDragCancel={() => setDragged(null)}
    >
      {children}
      <DragOverlay dropAnimation={null}>
        {dragged && (
          <span className="inline-block rounded-[3px] border border-copper bg-copper-wash px-2 py-0.5 font-semibold">
            {dragged.label}
          </span>
        )}
      </DragOverlay>
    </DndContext>
  );
}

/** Makes an element one that a turnout is dragged by. @param where it stands, since one turnout may be dragged from several places */
export function useDragTurnout(leaderId: string, label: string, where: string) {
  const { setNodeRef, listeners, attributes } = useDraggable({
    id: `${where} ${leaderId}`,
    data: { leaderId, label } satisfies Dragged,
  });
  return { ref: setNodeRef, listeners: listeners ?? {}, attributes };
}

/** How a place looks over which something is held. */
export const DROP_HERE = "bg-copper-wash outline-2 -outline-offset-2 outline-dashed outline-copper";

/** Makes an element a place where a turnout can be dropped. */
export function useDropTurnout(place: Place, where: string) {
  const { setNodeRef, isOver } = useDroppable({ id: `${where} ${place.deviceId} ${place.way}`, data: place });
  return { ref: setNodeRef, over: isOver };
}
