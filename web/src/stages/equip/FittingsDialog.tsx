import {
  type Assignment,
  controlSides,
  controlsOf,
  Draft,
  gate,
  LAMP_COLOURS,
  lockChoices,
  type Piece,
  type Position,
  pieceOf,
  possiblePieces,
  type RailwayRecord,
  setColours,
  setLock,
  setPiece,
  type Thread,
  type ThreadControl,
  type ThreadFrog,
  type ThreadLamp,
  type ThreadMotor,
  threadLedBy,
  traitsOf,
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
        <ControlPart key={control.assignment.id} record={record} thread={thread} control={control} put={put} />
      ))}
      {thread.frogs.map((frog) => (
        <FrogPart key={frog.assignment.id} frog={frog} put={put} />
      ))}
      {thread.lamps.map((lamp) => (
        <LampPart key={lamp.assignment.id} record={record} lamp={lamp} put={put} />
      ))}
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

function ControlPart({
  record,
  thread,
  control,
  put,
}: {
  record: RailwayRecord;
  thread: Thread;
  control: ThreadControl;
  put: Put;
}) {
  const { device, type, assignment } = control;
  const [motor] = thread.motors;
  const { N, R } = controlSides(control);
  // what asks for one position only has no sides that could be labelled the other way round
  const hasSides = N !== null && R !== null;
  const canFollow = control.reader !== null && (type.maintained === true || type.family !== "control");
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
      {canFollow && (
        <Tick
          label={`Followed as a level: ${thread.label} lies at ${assignment.inverse ? "N" : "R"} while it is made, at ${assignment.inverse ? "R" : "N"} while it is not`}
          on={assignment.follows}
          set={(follows) =>
            put(`${thread.label} ${follows ? "follows" : "does not follow"} ${controlLabel(control)}`, {
              ...assignment,
              follows,
              to: follows ? null : assignment.to,
            })
          }
        />
      )}
      <LockField record={record} thread={thread} control={control} />
    </Part>
  );
}

/** What locks a control out, chosen among what there is and what may be added. */
function LockField({ record, thread, control }: { record: RailwayRecord; thread: Thread; control: ThreadControl }) {
  const act = useEdit();
  const choices = lockChoices(record, thread, control);
  const { lock, assignment } = control;
  if (choices.length === 0) return null;
  const now = lock && (lock.way === null ? lock.device.id : `${lock.device.id} ${lock.way}`);
  const place = { controlId: assignment.deviceId, controlWay: assignment.way };
  return (
    <ChoiceField
      label="Locked out by"
      value={now}
      options={[
        { value: null, text: "nothing" },
        ...choices.map(({ key, text, hint }) => ({ value: key as string | null, text, hint })),
      ]}
      onChange={(key) => act(() => setLock(record, place, choices.find((each) => each.key === key)?.lock ?? null))}
    />
  );
}

function FrogPart({ frog, put }: { frog: ThreadFrog; put: Put }) {
  return (
    <Part title={`Frog ${frog.device.label}`}>
      <AtContact fitting={frog} what="Rails" where="at the contact" put={put} />
    </Part>
  );
}

function LampPart({ record, lamp, put }: { record: RailwayRecord; lamp: ThreadLamp; put: Put }) {
  const { device, type, from, assignment } = lamp;
  const { shows } = traitsOf(type);
  const atFrog = traitsOf(from.type).inTrack === "frog";
  return (
    <Part title={`Lamp ${device.label}`}>
      <DeviceFields device={device} type={type} gateOf={(each) => gate({ lamp: each, lampFrom: from.type })} />
      {type.colours && <Colours record={record} lamp={lamp} colours={type.colours} />}
      {shows === "leds" && !atFrog && <CommonResistor record={record} lamp={lamp} />}
      {assignment.coveredAt && (
        <ChoiceField
          label={`${from.device.label} covered at`}
          value={assignment.coveredAt}
          options={[
            { value: "N", text: "normal" },
            { value: "R", text: "reverse" },
          ]}
          onChange={(coveredAt) =>
            put(`${from.device.label} is covered at ${coveredAt}`, { ...assignment, coveredAt: coveredAt as Position })
          }
        />
      )}
      <AtContact
        fitting={lamp}
        what={shows === "box" ? "Aspects" : "Leads"}
        where={shows === "box" ? "in the box" : "at the lamp"}
        put={put}
      />
    </Part>
  );
}

const SIDES = ["normal", "reverse"] as const;

/** The two colours of a lamp: each chosen, or typed when it is another. */
function Colours({
  record,
  lamp: { device },
  colours,
}: {
  record: RailwayRecord;
  lamp: ThreadLamp;
  colours: readonly [string, string];
}) {
  const act = useEdit();
  return SIDES.map((side, index) => {
    const now = colours[index] ?? "";
    const offered = [...new Set([now, ...LAMP_COLOURS])];
    return (
      <ChoiceField
        key={side}
        label={`Colour at ${side}`}
        value={now}
        options={offered.map((colour) => ({ value: colour, text: colour }))}
        onChange={(colour) =>
          act(() => setColours(record, device.id, index === 0 ? [colour, colours[1]] : [colours[0], colour]))
        }
      />
    );
  });
}

/** A piece of a resistor board in the lamp's common lead. */
function CommonResistor({ record, lamp: { device } }: { record: RailwayRecord; lamp: ThreadLamp }) {
  const act = useEdit();
  const pieces = possiblePieces(record, device.id);
  const keyOf = ({ deviceId, way }: Piece) => `${deviceId} ${way}`;
  const now = pieceOf(record, device.id);
  if (pieces.length === 0) return null;
  return (
    <ChoiceField
      label="Resistor in its common"
      value={now && keyOf(now)}
      options={[
        { value: null, text: "none on a board" },
        ...pieces.map((piece) => ({ value: keyOf(piece) as string | null, text: piece.label })),
      ]}
      onChange={(key) => act(() => setPiece(record, device.id, pieces.find((each) => keyOf(each) === key) ?? null))}
    />
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
  what: "Rails" | "Leads" | "Aspects";
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
