import type { RailwayRecord } from "@alderman/core";
import { Mark } from "../../drawing/Mark.tsx";
import { Button } from "../../kit/Button.tsx";
import { Dialog } from "../../kit/Dialog.tsx";
import { useEdit } from "../../session/useEdit.ts";

/** How the command station counts addresses, and the test that tells which of the two it is. */
export function CountingDialog({ record, close }: { record: RailwayRecord; close: () => void }) {
  const act = useEdit();
  const { railway } = record;
  const set = (addressShift: 0 | 4, words: string) => {
    if (railway.addressShift !== addressShift)
      act({ words, edits: [{ op: "railway", value: { ...railway, addressShift } }] });
    close();
  };
  const isStandard = railway.addressShift === 0;
  return (
    <Dialog
      title="How addresses are counted"
      about="Some command stations count from raw 0, and stand four off: what one calls 5 is 1 on the other (NMRA S-9.2.1, RCN-213)."
      close={close}
    >
      <ol className="grid list-decimal gap-1.5 pl-5 text-[15px]">
        <li>Take a board with its factory settings, alone on the track bus, with a motor or lamp at output 1.</li>
        <li>Throw address 1 both ways. Then throw address 5 both ways.</li>
        <li>Which of the two moved output 1?</li>
      </ol>
      <div className="mt-4 flex flex-wrap gap-2">
        <Button look="best" onClick={() => set(0, "Addresses are counted as the standard does")}>
          {isStandard && <Mark verdict="good" size={14} />} Address 1 did: as the standard
        </Button>
        <Button onClick={() => set(4, "Addresses are counted from raw 0")}>
          {!isStandard && <Mark verdict="good" size={14} />} Address 5 did: it counts from raw 0
        </Button>
      </div>
      <p className="mt-3 text-small text-ink-2">
        If neither did, the board has no factory settings any more: reset it, and say so in Programming. If both did,
        two boards answer: take one of them off.
      </p>
    </Dialog>
  );
}
