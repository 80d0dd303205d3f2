import { Toast } from "radix-ui";
import { useEffect, useState } from "react";
import { onNotice } from "../store/railway.ts";

const SHOWN_MILLISECONDS = 6000;
let number = 0;

/** Sentences for the owner that go by themselves. */
export function Notices() {
  const [notices, setNotices] = useState<{ id: number; sentence: string }[]>([]);
  useEffect(() => onNotice((sentence) => setNotices((shown) => [...shown.slice(-2), { id: ++number, sentence }])), []);
  return (
    <Toast.Provider duration={SHOWN_MILLISECONDS} label="Notice">
      {notices.map(({ id, sentence }) => (
        <Toast.Root
          key={id}
          className="toast"
          onOpenChange={(open) => !open && setNotices((shown) => shown.filter((each) => each.id !== id))}
        >
          <Toast.Description>{sentence}</Toast.Description>
          <Toast.Close className="font-head font-semibold underline">Close</Toast.Close>
        </Toast.Root>
      ))}
      <Toast.Viewport className="toasts" />
    </Toast.Provider>
  );
}
