import { X } from "lucide-react";
import { Dialog as Radix } from "radix-ui";
import { useNavigate, useParams } from "react-router";
import { useChosenThread } from "../derivation/hooks.ts";
import { Button, buttonClass } from "../kit/Button.tsx";
import { ThreadSheets } from "../stages/equip/ThreadSheets.tsx";

/**
 * The thread of the chosen turnout, slid up over the stage: work goes on beside it, the meter takes its terminals, and another
 * turnout that is chosen shows its own. Escape, or t once more, lets it down.
 */
export function ThreadSlide({ close }: { close: () => void }) {
  const thread = useChosenThread();
  const navigate = useNavigate();
  const { railwayId } = useParams();
  if (!thread) return null;
  return (
    <Radix.Root open modal={false} onOpenChange={(open) => !open && close()}>
      <Radix.Content
        aria-describedby={undefined}
        className="fixed right-50 bottom-0 left-31 z-30 flex h-[62vh] flex-col gap-2 border-t-2 border-ink bg-plaster p-2.5 max-[1099px]:right-0 max-[699px]:left-0"
        onInteractOutside={(event) => event.preventDefault()}
        onKeyDown={(event) => event.key === "t" && !(event.target instanceof HTMLInputElement) && close()}
      >
        <div className="flex items-center gap-2">
          <Radix.Title asChild>
            <h2 className="flex-1">{thread.label}, from finger to rail</h2>
          </Radix.Title>
          <Button
            size="small"
            onClick={() => {
              close();
              void navigate(`/r/${railwayId}/equip?view=thread`);
            }}
          >
            Open in Equip
          </Button>
          <Radix.Close className={buttonClass("plain", "small")}>
            <X size={13} aria-hidden="true" /> Let it down
          </Radix.Close>
        </div>
        <div className="min-h-0 flex-1 overflow-auto">
          <ThreadSheets thread={thread} />
        </div>
      </Radix.Content>
    </Radix.Root>
  );
}
