import { type Assignment, Draft, threadLedBy } from "@alderman/core";
import type { ReactNode } from "react";
import { SheetDialog } from "../../parts/Dialogs.tsx";
import { useEdit } from "../../parts/FindingCard.tsx";
import { useAppSelector } from "../../store/store.ts";
import { DeviceFields } from "./DeviceFields.tsx";

/** How the motors, control and lamp of one thread are fitted: which way round, by which contact. */
export function FittingsDialog({ turnoutId, close }: { turnoutId: string; close: () => void }) {
  const record = useAppSelector((state) => state.railway.record);
  const act = useEdit();
  // from the record, not from the worker, so that a tick shows at once
  const thread = record && threadLedBy(record, turnoutId);
  if (!record || !thread) return null;
  const put = (words: string, assignment: Assignment) => {
    const draft = new Draft(record);
    draft.put("assignment", assignment);
    act(draft.group(words));
  };
  const { control, lamp } = thread;
  const source = lamp && thread.motors.find(({ device }) => device.id === lamp.assignment.motorId);
  const contacts = Array.from(
    { length: Math.max(source?.type.contactSets ?? 0, lamp?.assignment.way ?? 0) },
    (_, index) => index + 1,
  );
  return (
    <SheetDialog
      title={`Fittings of ${thread.label}`}
      about="Which way round each thing is. Each is saved when it is changed."
      close={close}
    >
      {thread.motors.length === 0 && <p className="quiet">No motor yet. Choose one in the list.</p>}
      {thread.motors.map(({ device, type, assignment }) => (
        <Part key={device.id} title={`Motor ${device.label}`}>
          <DeviceFields device={device} type={type} />
          <Tick
            label="Leads exchanged at the motor"
            on={assignment.crossed}
            set={(crossed) =>
              put(`Leads of ${device.label} ${crossed ? "exchanged" : "as drawn"}`, { ...assignment, crossed })
            }
          />
          <Tick
            label="Mounted the other way round"
            on={assignment.opposite}
            set={(opposite) =>
              put(`${device.label} mounted ${opposite ? "the other way round" : "as drawn"}`, {
                ...assignment,
                opposite,
              })
            }
          />
        </Part>
      ))}
      {control && (
        <Part title={`Control ${control.device.label}`}>
          <DeviceFields device={control.device} type={control.type} />
        </Part>
      )}
      {lamp && (
        <Part title={`Lamp ${lamp.device.label}`}>
          <DeviceFields device={lamp.device} type={lamp.type} />
          <label htmlFor="lamp-contact">Contact of {source?.device.label}</label>
          <select
            id="lamp-contact"
            className="field"
            value={lamp.assignment.way}
            onChange={(event) =>
              put(`${lamp.device.label} is on contact ${event.target.value}`, {
                ...lamp.assignment,
                way: Number(event.target.value),
              })
            }
          >
            {contacts.map((set) => (
              <option key={set} value={set}>
                S{set}
              </option>
            ))}
          </select>
          <Tick
            label="Leads exchanged at the lamp"
            on={lamp.assignment.crossed}
            set={(crossed) =>
              put(`Leads of ${lamp.device.label} ${crossed ? "exchanged" : "as drawn"}`, {
                ...lamp.assignment,
                crossed,
              })
            }
          />
        </Part>
      )}
    </SheetDialog>
  );
}

function Part({ title, children }: { title: string; children: ReactNode }) {
  return (
    <fieldset className="mt-3 border-t border-rule pt-2">
      <legend className="font-head text-[14px] font-semibold">{title}</legend>
      <div className="grid grid-cols-[150px_1fr] items-center gap-x-4 gap-y-2">{children}</div>
    </fieldset>
  );
}

function Tick({ label, on, set }: { label: string; on: boolean; set: (on: boolean) => void }) {
  return (
    <label className="col-span-2 flex items-center gap-2">
      <input
        type="checkbox"
        className="size-4 accent-[var(--copper)]"
        checked={on}
        onChange={(event) => set(event.target.checked)}
      />
      {label}
    </label>
  );
}
