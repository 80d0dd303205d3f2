import { useMemo } from "react";
import { useNavigate } from "react-router";
import { leaderOf } from "../derivation/focus.ts";
import { turnBack } from "../session/actions.ts";
import { useAppDispatch, useAppStore } from "../store/store.ts";
import { setTheme, throwTo } from "../store/view.ts";
import type { CommandContext, Panel } from "./commands.ts";

/** What commands can do in a railway. */
export function useCommandContext(railwayId: string, open: (panel: Panel) => void): CommandContext {
  const navigate = useNavigate();
  const dispatch = useAppDispatch();
  const store = useAppStore();
  return useMemo(
    (): CommandContext => ({
      goTo: (path) => void navigate(`/r/${railwayId}/${path}`),
      goOut: (path) => void navigate(path),
      open,
      showThread: () => {
        const isInEquip = window.location.pathname.endsWith("/equip");
        if (isInEquip || !leaderOf(store.getState())) void navigate(`/r/${railwayId}/equip?view=thread`);
        else open("thread");
      },
      undo: () => void dispatch(turnBack("undo")),
      redo: () => void dispatch(turnBack("redo")),
      throwTo: (position) => {
        const turnoutId = leaderOf(store.getState());
        if (turnoutId) dispatch(throwTo({ turnoutId, position }));
      },
      changeTheme: () => void dispatch(setTheme(store.getState().view.theme === "bench" ? "shed" : "bench")),
    }),
    [railwayId, open, navigate, dispatch, store],
  );
}
