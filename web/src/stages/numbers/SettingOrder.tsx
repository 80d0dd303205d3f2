import { find, type RailwayRecord, readSetting, resetBoard, type SettingLine, settingSteps } from "@alderman/core";
import { useMemo, useState } from "react";
import { Mark } from "../../drawing/Mark.tsx";
import { Button } from "../../kit/Button.tsx";
import { Sheet, SheetBody } from "../../kit/Sheet.tsx";
import { useEdit } from "../../session/useEdit.ts";
import { ForceDialog } from "./ForceDialog.tsx";

/** The settings of one device in the order in which they are written, ticked off by what is read back. */
export function SettingOrder({ record, device }: { record: RailwayRecord; device: string | null }) {
  const act = useEdit();
  const [force, setForce] = useState<SettingLine | null>(null);
  const steps = useMemo(() => (device === null ? [] : settingSteps(record, device)), [record, device]);
  const label = device === null ? "" : (find(record, "device", device)?.label ?? "");
  const raised = steps.flatMap(({ line }) => (line?.setting.name === "force" ? [line] : []))[0];
  return (
    <Sheet title="Order of setting" about={label}>
      <SheetBody label="Order of setting">
        {device === null && <p className="p-3 text-ink-2">Choose a setting: the order for its device is shown here.</p>}
        {device !== null && steps.length === 0 && (
          <p className="p-3 text-ink-2">
            <Mark verdict="good" /> Nothing of {label} is left to be set.
          </p>
        )}
        <ol>
          {steps.map(({ text, line, done }) => (
            <li key={text} className="flex items-start gap-2 border-b border-rule px-3 py-1.5">
              <Mark verdict={done ? "good" : "open"} size={15} />
              <span className={`flex-1 ${line ? "" : "text-ink-2"}`}>{text}</span>
              {line && !done && (
                <Button
                  size="small"
                  aria-label={`${line.setting.name} of ${line.of} was read back as ${line.wanted}`}
                  onClick={() => act(() => readSetting(record, line, line.wanted, new Date().toISOString()))}
                >
                  Read {line.wanted}
                </Button>
              )}
            </li>
          ))}
        </ol>
        {device !== null && (
          <div className="flex flex-wrap gap-2 p-3">
            {raised && (
              <Button size="small" onClick={() => setForce(raised)}>
                Find its force ...
              </Button>
            )}
            <Button
              size="small"
              onClick={() => act(() => resetBoard(record, device, "reset or exchanged", new Date().toISOString()))}
            >
              {label} was reset, or exchanged
            </Button>
          </div>
        )}
      </SheetBody>
      {force && <ForceDialog record={record} line={force} close={() => setForce(null)} />}
    </Sheet>
  );
}
