import {
  type Assignment,
  controlSides,
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
  const { N, R } = controlSides(control);
  // what asks for one position only has no sides that could be labelled the other way round
  const hasSides = N !== null && R !== null;
  if (!hasSides && type.family !== "control") return null;
  return (
    <Part title={`Control ${controlLabel(control)}`}>
      {type.family === "control" && (
        <DeviceFields
          device={device}
          type={type}
          gateOf={(each) => gate({ control: each, driver: motor?.driver?.type, motor: motor?.type })}
        />
      )}
      {hasSides && (
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
      )}
    </Part>
  );
}

function FrogPart({ frog, put }: { frog: ThreadFrog; put: Put }) {
  return (
    <Part title={`Frog ${frog.device.label}`}>
      <AtContact fitting={frog} what="Rails" where="at the contact" put={put} />
    </Part>
  );
}

function LampPart({ lamp, put }: { lamp: ThreadLamp; put: Put }) {
  const { device, type, from } = lamp;
  return (
    <Part title={`Lamp ${device.label}`}>
      <DeviceFields device={device} type={type} gateOf={(each) => gate({ lamp: each, lampFrom: from.type })} />
      <AtContact fitting={lamp} what="Leads" where="at the lamp" put={put} />
    </Part>
  );
}

/** Which contact set feeds something, where there is one to choose, and which way round. */
function AtContact({
  fitting: { device, assignment, from },
  what,
  where,
  put,
}: {
  fitting: ThreadFrog | ThreadLamp;
  /** What can be exchanged, and where that is done. */
  what: "Rails" | "Leads";
  where: string;
  put: Put;
}) {
  const { way, crossed } = assignment;
  const sets = from?.type.contactSets ?? 0;
  const contacts = Array.from({ length: Math.max(sets, way ?? 0) }, (_, index) => String(index + 1));
  return (
    <>
      {sets > 0 && way !== null && (
        <ChoiceField
          label={`Contact of ${from?.device.label}`}
          value={String(way)}
          options={contacts.map((set) => ({ value: set, text: `S${set}` }))}
          onChange={(set) => put(`${device.label} is on contact ${set}`, { ...assignment, way: Number(set) })}
        />
      )}
      <Tick
        label={`${what} exchanged ${where}`}
        on={crossed}
        set={(now) =>
          put(`${what} of ${device.label} ${now ? "exchanged" : "as drawn"}`, { ...assignment, crossed: now })
        }
      />
    </>
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
