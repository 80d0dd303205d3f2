import { Popover as Radix } from "radix-ui";
import type { ReactNode, RefObject } from "react";

/** Something that opens beside what it is about, over the rest, so that nothing moves under the hand; Escape closes it. */
export function Popover({
  open,
  setOpen,
  anchor,
  children,
  label,
  grabsFocus = true,
}: {
  open: boolean;
  setOpen: (open: boolean) => void;
  /** What it is about, and beside which it opens. */
  anchor: RefObject<HTMLElement | null>;
  children: ReactNode;
  label: string;
  /** It is opened to act in it, not only to look at it. */
  grabsFocus?: boolean;
}) {
  return (
    <Radix.Root open={open} onOpenChange={setOpen}>
      <Radix.Anchor virtualRef={anchor as RefObject<HTMLElement>} />
      <Radix.Portal>
        <Radix.Content
          aria-label={label}
          side="bottom"
          align="start"
          sideOffset={5}
          collisionPadding={8}
          className="z-50 max-w-[min(520px,calc(100vw-16px))] rounded-[3px] border border-ink bg-sheet"
          onOpenAutoFocus={(event) => !grabsFocus && event.preventDefault()}
          onCloseAutoFocus={(event) => !grabsFocus && event.preventDefault()}
        >
          {children}
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  );
}
