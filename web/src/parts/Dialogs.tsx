import { Dialog } from "radix-ui";
import type { ReactNode } from "react";

/** A dialog over the sheets; Escape and a click outside close it. */
export function SheetDialog({
  title,
  about,
  close,
  children,
}: {
  title: string;
  about?: string;
  close: () => void;
  children: ReactNode;
}) {
  return (
    <Dialog.Root open onOpenChange={(open) => !open && close()}>
      <Dialog.Portal>
        <Dialog.Overlay className="veil" />
        <Dialog.Content className="dialog" {...(about ? {} : { "aria-describedby": undefined })}>
          <div className="mb-3 flex items-start gap-3">
            <div>
              <Dialog.Title asChild>
                <h2>{title}</h2>
              </Dialog.Title>
              {about && <Dialog.Description className="quiet mt-1">{about}</Dialog.Description>}
            </div>
            <span className="grow" />
            <Dialog.Close className="btn">Close</Dialog.Close>
          </div>
          {children}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
