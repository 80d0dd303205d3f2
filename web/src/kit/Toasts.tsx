import { X } from "lucide-react";
import { Toast } from "radix-ui";

const SHOWN_MILLISECONDS = 6000;

/** Sentences for the owner at the foot of the page; they go by themselves, or stay until they are closed. */
export function Toasts({
  notices,
  close,
  act,
}: {
  notices: readonly { id: string; sentence: string; stays: boolean; choice?: string | undefined }[];
  close: (id: string) => void;
  /** Does what a notice offers. */
  act: (id: string) => void;
}) {
  return (
    <Toast.Provider label="Notice">
      {notices.map(({ id, sentence, stays, choice }) => (
        <Toast.Root
          key={id}
          duration={stays ? Number.POSITIVE_INFINITY : SHOWN_MILLISECONDS}
          onOpenChange={(open) => !open && close(id)}
          className="flex max-w-130 items-start gap-3.5 rounded-[3px] bg-ink px-3.5 py-2.5 text-sheet"
        >
          <Toast.Description className="flex-1">{sentence}</Toast.Description>
          {choice && (
            <Toast.Action altText={choice} className="flex-none underline underline-offset-3" onClick={() => act(id)}>
              {choice}
            </Toast.Action>
          )}
          <Toast.Close aria-label="Close" className="flex-none">
            <X size={15} aria-hidden="true" />
          </Toast.Close>
        </Toast.Root>
      ))}
      <Toast.Viewport className="fixed bottom-3.5 left-33.5 z-60 grid list-none gap-2 max-sm:inset-x-3 max-sm:left-3" />
    </Toast.Provider>
  );
}
