import { Toast } from "radix-ui";
import { closed } from "../store/notices.ts";
import { useAppDispatch, useAppSelector } from "../store/store.ts";

const SHOWN_MILLISECONDS = 6000;

/** Sentences for the owner that go by themselves. */
export function Notices() {
  const notices = useAppSelector((state) => state.notices);
  const dispatch = useAppDispatch();
  return (
    <Toast.Provider label="Notice">
      {notices.map(({ id, sentence, stays }) => (
        <Toast.Root
          key={id}
          className="toast"
          duration={stays ? Number.POSITIVE_INFINITY : SHOWN_MILLISECONDS}
          onOpenChange={(open) => !open && dispatch(closed(id))}
        >
          <Toast.Description>{sentence}</Toast.Description>
          <Toast.Close className="font-head font-semibold underline">Close</Toast.Close>
        </Toast.Root>
      ))}
      <Toast.Viewport className="toasts" />
    </Toast.Provider>
  );
}
