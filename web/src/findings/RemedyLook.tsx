import type { EditGroup } from "@alderman/core";
import type { RefObject } from "react";
import { Button } from "../kit/Button.tsx";
import { Popover } from "../kit/Popover.tsx";
import { RemedyPreview } from "./RemedyPreview.tsx";

/** What a remedy changes, beside its button; by touch it asks before the change is made. */
export function RemedyLook({
  anchor,
  label,
  group,
  make,
  close,
}: {
  anchor: RefObject<HTMLElement | null>;
  label: string;
  group: EditGroup;
  /** Makes the change; null while it is only looked at. */
  make: (() => void) | null;
  close: () => void;
}) {
  return (
    <Popover
      label={`What "${label}" changes`}
      open
      setOpen={(open) => !open && close()}
      grabsFocus={make !== null}
      anchor={anchor}
    >
      <RemedyPreview group={group} />
      {make && (
        <div className="flex gap-2 border-t border-rule p-2">
          <Button look="best" onClick={make}>
            Make the change
          </Button>
          <Button onClick={close}>Leave it</Button>
        </div>
      )}
    </Popover>
  );
}
