import { type RailwayRecord, readSetting, type SettingLine, wantSetting } from "@alderman/core";
import { useState } from "react";
import { Button } from "../../kit/Button.tsx";
import { Dialog } from "../../kit/Dialog.tsx";
import { useEdit } from "../../session/useEdit.ts";

/**
 * A force is raised step by step until the blades close both ways, then once more: the least that does it, with something
 * in hand.
 */
export function ForceDialog({ record, line, close }: { record: RailwayRecord; line: SettingLine; close: () => void }) {
  const act = useEdit();
  const values = line.setting.values ?? [];
  const [at, setAt] = useState(0);
  const [closes, setCloses] = useState(false);
  const least = values[at] ?? "";
  const chosen = values[Math.min(at + 1, values.length - 1)] ?? least;
  const isMost = at >= values.length - 1;
  const keep = () => {
    act(() => wantSetting(record, line, chosen === line.setting.factory ? null : chosen));
    close();
  };
  return (
    <Dialog
      title={`Force of ${line.of}`}
      about="From the least on: the smallest force that closes the blades both ways, and one more. Too much wears gears and bends blades."
      close={close}
    >
      {closes ? (
        <>
          <p className="text-[22px]">
            {least} closes them both ways. Set it to <b>{chosen}</b>, and read it back.
          </p>
          <div className="mt-4 flex gap-2">
            <Button look="best" className="min-h-[60px]! px-6 text-[18px]" onClick={keep}>
              Want {chosen}
            </Button>
            <Button
              className="min-h-[60px]!"
              onClick={() => {
                keep();
                act(() => readSetting(record, { ...line, wanted: chosen }, chosen, new Date().toISOString()));
              }}
            >
              It is set, and gives {chosen} back
            </Button>
          </div>
        </>
      ) : (
        <>
          <p className="text-[22px]">
            Set the force to <b>{least}</b>, throw to normal and to reverse. Do the blades close both ways?
          </p>
          <div className="mt-4 flex gap-2">
            <Button look="best" className="min-h-[60px]! px-6 text-[18px]" onClick={() => setCloses(true)}>
              They close
            </Button>
            <Button className="min-h-[60px]!" disabled={isMost} onClick={() => setAt(at + 1)}>
              Not yet
            </Button>
          </div>
          {isMost && (
            <p className="mt-2">
              That is the most. Look for what binds: the linkage, ballast, a blade out of line. More force is no cure.
            </p>
          )}
        </>
      )}
    </Dialog>
  );
}
