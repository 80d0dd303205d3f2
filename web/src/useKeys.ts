import { useEffect } from "react";
import { useNavigate } from "react-router";
import { turnBack } from "./session/actions.ts";
import { shownRecord } from "./session/shownSession.ts";
import { useAppDispatch, useAppStore } from "./store/store.ts";
import { throwTo } from "./store/view.ts";

export type Panel = "history" | "keys" | "railway" | "commands";

/** Where `g` and a letter lead. */
export const PLACES: Record<string, { path: string; title: string }> = {
  e: { path: "equip", title: "Equip" },
  l: { path: "loom", title: "Loom" },
  n: { path: "numbers", title: "Numbers" },
  p: { path: "prove", title: "Prove" },
  f: { path: "findings", title: "Findings" },
  o: { path: "open-ends", title: "Open ends" },
  d: { path: "types", title: "Device types" },
};

/** Time within which the letter must follow `g`, milliseconds. */
const CHORD_MILLISECONDS = 1500;

/** The keys that work everywhere within a railway; keys typed into a field are the field's. */
export function useKeys(railwayId: string, open: (panel: Panel) => void): void {
  const navigate = useNavigate();
  const dispatch = useAppDispatch();
  const store = useAppStore();
  useEffect(() => {
    let goSince = 0;
    const onKey = (event: KeyboardEvent) => {
      const typing =
        event.target instanceof HTMLElement && event.target.closest("input, textarea, select, [contenteditable]");
      const command = event.ctrlKey || event.metaKey;
      const key = event.key.toLowerCase();
      const done = (act: () => void) => {
        event.preventDefault();
        act();
      };
      if (command && key === "k") return done(() => open("commands"));
      if (typing || event.altKey) return;
      if (command && key === "z") return done(() => void dispatch(turnBack(event.shiftKey ? "redo" : "undo")));
      if (command && key === "y") return done(() => void dispatch(turnBack("redo")));
      if (command) return;
      if (Date.now() - goSince < CHORD_MILLISECONDS) {
        goSince = 0;
        const place = PLACES[key];
        if (place) return done(() => void navigate(`/r/${railwayId}/${place.path}`));
        if (key === "r") return done(() => void navigate("/railways"));
        if (key === "q") return done(() => void navigate("/quick-sums"));
      }
      if (key === "g") goSince = Date.now();
      else if (key === "/") done(() => open("commands"));
      else if (key === "?") done(() => open("keys"));
      else if (key === "t") done(() => void navigate(`/r/${railwayId}/equip?view=thread`));
      else if (key === "n" || key === "v") {
        const state = store.getState();
        const { view } = state;
        const turnout = shownRecord(state)?.turnouts.find((each) => each.id === view.turnoutId);
        if (turnout)
          done(() =>
            dispatch(throwTo({ turnoutId: turnout.movesWith ?? turnout.id, position: key === "n" ? "N" : "R" })),
          );
      }
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [railwayId, open, navigate, dispatch, store]);
}
