import { X } from "lucide-react";
import { AlertDialog as Alert, Dialog as Radix } from "radix-ui";
import { type ReactNode, useState } from "react";
import { Button, buttonClass } from "./Button.tsx";

const VEIL = "fixed inset-0 z-40 bg-[color-mix(in_srgb,var(--bottle)_45%,transparent)]";
const NORMAL = "w-[min(600px,calc(100vw-24px))]";
const WIDE = "w-[min(820px,calc(100vw-24px))]";
const BOX =
  "fixed left-1/2 top-[10vh] z-41 max-h-[80vh] -translate-x-1/2 overflow-auto rounded-[3px] border border-ink bg-sheet";

/** Gives the focus back to what had it before; dialogs here are not opened by a trigger that the package knows. */
function useFocusBack() {
  const [before] = useState(() => document.activeElement);
  return (event: Event) => {
    event.preventDefault();
    if (before instanceof HTMLElement && before.isConnected) before.focus();
  };
}

/** Whether a field holds text that is not kept yet: Escape gives back what is kept there first. */
const isChanged = (field: Element | null) => field?.hasAttribute("data-changed") ?? false;

/** A dialog over the sheets; Escape and a click outside close it. */
export function Dialog({
  title,
  about,
  wide = false,
  close,
  children,
}: {
  title: string;
  about?: ReactNode;
  /** It holds a table. */
  wide?: boolean;
  close: () => void;
  children: ReactNode;
}) {
  const focusBack = useFocusBack();
  return (
    <Radix.Root open onOpenChange={(open) => !open && close()}>
      <Radix.Portal>
        <Radix.Overlay className={VEIL} />
        <Radix.Content
          className={`${BOX} ${wide ? WIDE : NORMAL}`}
          onCloseAutoFocus={focusBack}
          onEscapeKeyDown={(event) => isChanged(document.activeElement) && event.preventDefault()}
          {...(about ? {} : { "aria-describedby": undefined })}
        >
          {/* room within what scrolls, so that a table's headings stand at its very edge */}
          <div className="p-4">
            <div className="mb-3 flex items-start gap-3">
              <div className="min-w-0 flex-1">
                <Radix.Title asChild>
                  <h2>{title}</h2>
                </Radix.Title>
                {about && <Radix.Description className="mt-1 text-ink-2">{about}</Radix.Description>}
              </div>
              <Radix.Close className={buttonClass()}>
                <X size={14} aria-hidden="true" /> Close
              </Radix.Close>
            </div>
            {children}
          </div>
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  );
}

/** A question that must be answered before anything else: it is not closed by a click beside it. */
export function AlertDialog({
  title,
  about,
  close,
  children,
  actions,
}: {
  title: string;
  about: ReactNode;
  /** Does nothing but close; without it, one of the actions has to be chosen. */
  close?: () => void;
  children?: ReactNode;
  actions: ReactNode;
}) {
  const focusBack = useFocusBack();
  return (
    <Alert.Root open onOpenChange={(open) => !open && close?.()}>
      <Alert.Portal>
        <Alert.Overlay className={VEIL} />
        <Alert.Content
          className={`${BOX} ${NORMAL} grid gap-3 p-4`}
          onCloseAutoFocus={focusBack}
          onEscapeKeyDown={(event) => !close && event.preventDefault()}
        >
          <Alert.Title asChild>
            <h2>{title}</h2>
          </Alert.Title>
          <Alert.Description asChild>
            <p>{about}</p>
          </Alert.Description>
          {children}
          <div className="flex flex-wrap gap-2">
            {actions}
            {close && (
              <Alert.Cancel asChild>
                <Button>Cancel</Button>
              </Alert.Cancel>
            )}
          </div>
        </Alert.Content>
      </Alert.Portal>
    </Alert.Root>
  );
}
