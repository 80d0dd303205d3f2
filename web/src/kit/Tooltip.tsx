import { Tooltip } from "radix-ui";
import type { ReactElement, ReactNode } from "react";

/** Surrounds everything that has tips: the second one shows without waiting. */
export function TipsProvider({ children }: { children: ReactNode }) {
  return <Tooltip.Provider delayDuration={350}>{children}</Tooltip.Provider>;
}

/** Says more about something that can be pointed at or focused; nothing when there is nothing to say. */
export function Tip({ text, children }: { text: ReactNode; children: ReactElement }) {
  if (!text) return children;
  return (
    <Tooltip.Root>
      <Tooltip.Trigger asChild>{children}</Tooltip.Trigger>
      <Tooltip.Portal>
        <Tooltip.Content
          sideOffset={4}
          collisionPadding={8}
          className="z-60 max-w-80 rounded-[3px] bg-ink px-2 py-1 text-small text-sheet"
        >
          {text}
        </Tooltip.Content>
      </Tooltip.Portal>
    </Tooltip.Root>
  );
}
