import { Toasts } from "../kit/Toasts.tsx";
import { closed } from "../store/notices.ts";
import { useAppDispatch, useAppSelector } from "../store/store.ts";

/** Sentences for the owner. */
export function Notices() {
  const notices = useAppSelector((state) => state.notices);
  const dispatch = useAppDispatch();
  return <Toasts notices={notices} close={(id) => void dispatch(closed(id))} />;
}
