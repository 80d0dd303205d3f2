import type { Column, Turnout } from "@alderman/core";
import { type RefObject, useEffect, useRef, useState } from "react";
import { flushSync } from "react-dom";
import { useAppDispatch, useAppSelector } from "../../store/store.ts";
import { choose } from "../../store/view.ts";
import type { Begin } from "./CellInput.tsx";
import { type Place, rangeOf } from "./range.ts";

/** The cell that is typed into, and how that began. */
type Editing = Place & { begin: Begin | null };

export type Selection = ReturnType<typeof useSelection>;

/** Where one is in the grid, what is chosen around it, and whether a cell is being typed into. */
export function useSelection(
  turnouts: readonly Turnout[],
  columns: readonly Column[],
  cells: RefObject<HTMLTableElement | null>,
) {
  const dispatch = useAppDispatch();
  const chosen = useAppSelector(({ view }) => (view.chosen?.kind === "turnout" ? view.chosen.id : null));
  const [here, setHere] = useState<Place>(() => ({
    row: Math.max(
      0,
      turnouts.findIndex(({ id }) => id === chosen),
    ),
    column: 0,
  }));
  /** The corner of what is chosen that stays; the other is where one is. */
  const [anchor, setAnchor] = useState<Place | null>(null);
  const [editing, setEditing] = useState<Editing | null>(null);
  const range = rangeOf(anchor ?? here, here, turnouts.length);
  const several = range.bottom > range.top || range.right > range.left;
  // a turnout that was chosen elsewhere, as by its label, is the current one here as well
  const latest = useRef(turnouts);
  latest.current = turnouts;
  useEffect(() => {
    const row = latest.current.findIndex(({ id }) => id === chosen);
    if (row >= 0) setHere((now) => (now.row === row ? now : { ...now, row }));
  }, [chosen]);

  /** Makes a cell the current one, at once: the next key typed must find it. */
  const goTo = (place: Place, keep = false) => {
    flushSync(() => {
      setAnchor(keep ? (anchor ?? here) : null);
      setHere(place);
      setEditing(null);
    });
    cells.current?.querySelector<HTMLElement>(`[data-cell="${place.row}:${place.column}"]`)?.focus();
  };
  return {
    ...{ here, range, several, editing, goTo },
    edit: setEditing,
    enter: setHere,
    letGo: () => setAnchor(null),
    /** Goes to a cell, kept within the list; what is chosen by Shift ends with the last turnout, below it is the row that adds. */
    move: (place: Place, keep = false) => {
      const last = keep ? turnouts.length - 1 : turnouts.length;
      const row = Math.max(0, Math.min(last, place.row));
      const column = row === turnouts.length ? 0 : Math.max(0, Math.min(columns.length - 1, place.column));
      goTo({ row, column }, keep);
    },
    all: () => {
      flushSync(() => setAnchor({ row: 0, column: 0 }));
      setHere({ row: turnouts.length - 1, column: columns.length - 1 });
    },
    /** A cell has the focus. */
    focused: (place: Place, turnoutId: string) => {
      if (place.row !== here.row || place.column !== here.column) {
        setHere(place);
        setAnchor(null);
      }
      dispatch(choose({ kind: "turnout", id: turnoutId }));
    },
    toHeading: (column: number) =>
      cells.current?.querySelector<HTMLElement>(`[data-head="${columns[column]?.id}"]`)?.focus(),
  };
}
