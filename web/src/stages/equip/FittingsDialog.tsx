import {
  type Assignment,
  controlsOf,
  Draft,
  gate,
  type Thread,
  type ThreadControl,
  type ThreadFrog,
  type ThreadLamp,
  type ThreadMotor,
  threadLedBy,
} from "@alderman/core";
import type { ReactNode } from "react";
import { controlLabel } from "../../drawing/thread/controlWords.ts";
import { Checkbox } from "../../kit/Checkbox.tsx";
import { ChoiceField } from "../../kit/ChoiceField.tsx";
import { Dialog } from "../../kit/Dialog.tsx";
import { FormGrid } from "../../kit/Field.tsx";
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
  const put: Put = (words, assignment) => {
    const draft = new Draft(record);
    draft.put("assignment", assignment);
    act(draft.group(words));
  };
  return (
    <Dialog
      title={`Fittings of ${thread.label}`}
      about="Which way round each thing is. Each is saved when it is changed."
      close={close}
    >
      {thread.motors.length === 0 && <p className="text-ink-2">No motor yet. Choose one in the list.</p>}
      {thread.motors.map((motor) => (
        <MotorPart key={motor.device.id} thread={thread} motor={motor} put={put} />
      ))}
      {controlsOf(thread).map((control) => (
        <ControlPart key={control.assignment.id} thread={thread} control={control} put={put} />
      ))}
      {thread.frogs.map((frog) => (
        <FrogPart key={frog.assignment.id} frog={frog} put={put} />
      ))}
      {thread.lamp && <LampPart lamp={thread.lamp} put={put} />}
      {[thread.turnout, ...thread.followers].map((turnout) => (
        <NotesAndPhotos key={turnout.id} record={record} subject={{ kind: "turnout", of: turnout }} />
      ))}
    </Dialog>
  );
}

type Put = (words: string, assignment: Assignment) => void;

function MotorPart({ thread, motor, put }: { thread: Thread; motor: ThreadMotor; put: Put }) {
  const { device, type, assignment, driver } = motor;
  return (
    <Part title={`Motor ${device.label}`}>
      <DeviceFields
        device={device}
        type={type}
        gateOf={(each) => gate({ motor: each, driver: driver?.type, control: thread.control?.type })}
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
          put(`${device.label} mounted ${opposite ? "the other way round" : "as drawn"}`, { ...assignment, opposite })
        }
      />
    </Part>
  );
}

function ControlPart({ thread, control, put }: { thread: Thread; control: ThreadControl; put: Put }) {
  const { device, type, assignment } = control;
  const [motor] = thread.motors;
  return (
    <Part title={`Control ${controlLabel(control)}`}>
      {type.family === "control" && (
        <DeviceFields
          device={device}
          type={type}
          gateOf={(each) => gate({ control: each, driver: motor?.driver?.type, motor: motor?.type })}
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
  );
}

function FrogPart({ frog: { device, assignment, from }, put }: { frog: ThreadFrog; put: Put }) {
  return (
    <Part title={`Frog ${device.label}`}>
      {from && assignment.way !== null && (
        <ContactField
          label={`Contact of ${from.device.label}`}
          sets={from.type.contactSets}
          way={assignment.way}
          set={(way) => put(`${device.label} is on contact ${way}`, { ...assignment, way })}
        />
      )}
      <Tick
        label="Rails exchanged at the contact"
        on={assignment.crossed}
        set={(crossed) =>
          put(`Rails of ${device.label} ${crossed ? "exchanged" : "as drawn"}`, { ...assignment, crossed })
        }
      />
    </Part>
  );
}

function LampPart({ lamp: { device, type, assignment, from }, put }: { lamp: ThreadLamp; put: Put }) {
  return (
    <Part title={`Lamp ${device.label}`}>
      <DeviceFields device={device} type={type} gateOf={(each) => gate({ lamp: each, lampFrom: from.type })} />
      {from.type.contactSets > 0 && assignment.way !== null && (
        <ContactField
          label={`Contact of ${from.device.label}`}
          sets={from.type.contactSets}
          way={assignment.way}
          set={(way) => put(`${device.label} is on contact ${way}`, { ...assignment, way })}
        />
      )}
      <Tick
        label="Leads exchanged at the lamp"
        on={assignment.crossed}
        set={(crossed) =>
          put(`Leads of ${device.label} ${crossed ? "exchanged" : "as drawn"}`, { ...assignment, crossed })
        }
      />
    </Part>
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
    <ChoiceField
      label={label}
      value={String(way)}
      options={contacts.map((value) => ({ value, text: `S${value}` }))}
      onChange={(value) => set(Number(value))}
    />
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
