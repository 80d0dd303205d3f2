import { type Assignment, controlsOf, Draft, gate, threadLedBy } from "@alderman/core";
import type { ReactNode } from "react";
import { Checkbox } from "../../kit/Checkbox.tsx";
import { Choice } from "../../kit/Choice.tsx";
import { Dialog } from "../../kit/Dialog.tsx";
import { Field, FormGrid } from "../../kit/Field.tsx";
import { useRecord } from "../../session/hooks.ts";
import { useEdit } from "../../session/useEdit.ts";
import { DeviceFields } from "./DeviceFields.tsx";
import { NotesAndPhotos } from "./NotesAndPhotos.tsx";

/** How the motors, control and lamp of one thread are fitted: which way round, by which contact. */
export function FittingsDialog({ turnoutId, close }: { turnoutId: string; close: () => void }) {
  const record = useRecord();
  const act = useEdit();
  // from the record, not from the worker, so that a tick shows at once
  const thread = record && threadLedBy(record, turnoutId);
  if (!record || !thread) return null;
  const put = (words: string, assignment: Assignment) => {
    const draft = new Draft(record);
    draft.put("assignment", assignment);
    act(draft.group(words));
  };
  const { lamp, frogs } = thread;
  return (
    <Dialog
      title={`Fittings of ${thread.label}`}
      about="Which way round each thing is. Each is saved when it is changed."
      close={close}
    >
      {thread.motors.length === 0 && <p className="text-ink-2">No motor yet. Choose one in the list.</p>}
      {thread.motors.map(({ device, type, assignment, driver }) => (
        <Part key={device.id} title={`Motor ${device.label}`}>
          <DeviceFields
            device={device}
            type={type}
            gateOf={(motor) => gate({ motor, driver: driver?.type, control: thread.control?.type })}
          />
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
      {controlsOf(thread).map(({ device, type, assignment }) => (
        <Part key={assignment.id} title={`Control ${device.label}`}>
          {type.family === "control" && (
            <DeviceFields
              device={device}
              type={type}
              gateOf={(control) =>
                gate({ control, driver: thread.motors[0]?.driver?.type, motor: thread.motors[0]?.type })
              }
            />
          )}
          <Tick
            label="Labelled for the other line: its normal asks for reverse"
            on={assignment.inverse}
            set={(inverse) =>
              put(`${device.label} ${inverse ? "is labelled for the other line" : "asks as labelled"}`, {
                ...assignment,
                inverse,
              })
            }
          />
        </Part>
      ))}
      {frogs.map((frog) => (
        <Part key={frog.assignment.id} title={`Frog ${frog.device.label}`}>
          {frog.from && frog.assignment.way !== null && (
            <ContactField
              label={`Contact of ${frog.from.device.label}`}
              sets={frog.from.type.contactSets}
              way={frog.assignment.way}
              set={(way) => put(`${frog.device.label} is on contact ${way}`, { ...frog.assignment, way })}
            />
          )}
          <Tick
            label="Rails exchanged at the contact"
            on={frog.assignment.crossed}
            set={(crossed) =>
              put(`Rails of ${frog.device.label} ${crossed ? "exchanged" : "as drawn"}`, {
                ...frog.assignment,
                crossed,
              })
            }
          />
        </Part>
      ))}
      {lamp && (
        <Part title={`Lamp ${lamp.device.label}`}>
          <DeviceFields
            device={lamp.device}
            type={lamp.type}
            gateOf={(each) => gate({ lamp: each, lampFrom: lamp.from.type })}
          />
          {lamp.from.type.contactSets > 0 && lamp.assignment.way !== null && (
            <ContactField
              label={`Contact of ${lamp.from.device.label}`}
              sets={lamp.from.type.contactSets}
              way={lamp.assignment.way}
              set={(way) => put(`${lamp.device.label} is on contact ${way}`, { ...lamp.assignment, way })}
            />
          )}
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
      {[thread.turnout, ...thread.followers].map((turnout) => (
        <NotesAndPhotos key={turnout.id} record={record} subject={{ kind: "turnout", of: turnout }} />
      ))}
    </Dialog>
  );
}

/** Which contact set is used. */
function ContactField({
  label,
  sets,
  way,
  set,
}: {
  label: string;
  sets: number;
  way: number;
  set: (way: number) => void;
}) {
  const contacts = Array.from({ length: Math.max(sets, way) }, (_, index) => String(index + 1));
  return (
    <Field label={label}>
      {({ id }) => (
        <Choice
          id={id}
          className="w-full"
          value={String(way)}
          options={contacts.map((value) => ({ value, text: `S${value}` }))}
          onChange={(value) => set(Number(value))}
        />
      )}
    </Field>
  );
}

function Part({ title, children }: { title: string; children: ReactNode }) {
  return (
    <fieldset className="mt-3 border-t border-rule pt-2">
      <legend className="font-head text-h3 font-semibold">{title}</legend>
      <FormGrid>{children}</FormGrid>
    </fieldset>
  );
}

function Tick({ label, on, set }: { label: string; on: boolean; set: (on: boolean) => void }) {
  return (
    <Checkbox className="col-span-full" checked={on} onChange={set}>
      {label}
    </Checkbox>
  );
}
