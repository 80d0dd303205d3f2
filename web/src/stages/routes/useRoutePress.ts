import type { RoutePress } from "@alderman/core";
import { useEffect, useState } from "react";
import { askRoutePress, useOverview } from "../../derivation/hooks.ts";
import { useAppDispatch } from "../../store/store.ts";

/** What a button of a board does when it is pressed, as the railway is built now; the last answer stands until the next is there. */
export function useRoutePress(boardId: string | null, key: string | null): RoutePress | null {
  const dispatch = useAppDispatch();
  const overview = useOverview();
  const [press, setPress] = useState<RoutePress | null>(null);
  // biome-ignore lint/correctness/useExhaustiveDependencies: another overview is another railway, which is solved anew
  useEffect(() => {
    if (boardId === null || key === null) return;
    let isWanted = true;
    void dispatch(askRoutePress(boardId, key)).then((found) => isWanted && setPress(found));
    return () => {
      isWanted = false;
    };
  }, [boardId, key, overview, dispatch]);
  return press?.key === key ? press : null;
}
