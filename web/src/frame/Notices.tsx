import { Toasts } from "../kit/Toasts.tsx";
import { setAsMine } from "../session/actions.ts";
import { closed } from "../store/notices.ts";
import { useAppDispatch, useAppSelector } from "../store/store.ts";

/** Sentences for the owner. */
export function Notices() {
  const notices = useAppSelector((state) => state.notices);
  const dispatch = useAppDispatch();
  const shown = notices.map((notice) => ({ ...notice, choice: notice.mine && (notice.choice ?? "Take mine") }));
  const takeMine = (id: string) => {
    const mine = notices.find((notice) => notice.id === id)?.mine;
    if (mine) dispatch(setAsMine(mine));
  };
  return <Toasts notices={shown} close={(id) => void dispatch(closed(id))} act={takeMine} />;
}
