import {
  addBoard,
  amps,
  type Device,
  type DeviceType,
  hangsOn,
  list,
  removeDevice,
  typesOfFamily,
} from "@alderman/core";
import { useState } from "react";
import { useOverview } from "../../derivation/hooks.ts";
import { Button } from "../../kit/Button.tsx";
import { AlertDialog, Dialog } from "../../kit/Dialog.tsx";
import { FormGrid } from "../../kit/Field.tsx";
import { useRecord } from "../../session/hooks.ts";
import { useEdit } from "../../session/useEdit.ts";
import { Blocks } from "./Blocks.tsx";
import { isBoard } from "./boardEntries.ts";
import { DeviceFields } from "./DeviceFields.tsx";
import { Feeds } from "./Feeds.tsx";
import { NotesAndPhotos } from "./NotesAndPhotos.tsx";
import { Outputs } from "./Outputs.tsx";
import { Terminals } from "./Terminals.tsx";

/** Kinds that are added by themselves, in this order. */
const FAMILIES = ["driver", "reader", "supply", "control", "lock", "wiring"] as const;

/** Most things that are named before a board is removed. */
const MOST_NAMED = 8;

/** One board or supply: its type, what feeds it, what it gives. */
export function BoardDialog({ device, type, close }: { device: Device; type: DeviceType; close: () => void }) {
  const record = useRecord();
  const overview = useOverview();
  const act = useEdit();
  const [asking, setAsking] = useState(false);
  if (!record) return null;
  const hanging = hangsOn(record, device.id);
  const more = hanging.length - MOST_NAMED;
  const named = more > 0 ? [...hanging.slice(0, MOST_NAMED), `${more} more`] : hanging;
  const remove = () => {
    act(removeDevice(record, device.id));
    close();
  };
  const load = overview?.loads.find(({ deviceId }) => deviceId === device.id);
  return (
    <Dialog title={`${device.label}, ${type.name}`} about={type.about} close={close}>
      <FormGrid narrow>
        <DeviceFields device={device} type={type} />
        <Feeds record={record} device={device} type={type} />
        {hanging.length > 0 && (
          <>
            <span>In use</span>
            <span>{list(named)}</span>
          </>
        )}
        {load && (
          <>
            <span>Gives</span>
            <span>
              {amps(load.rest)} at rest, {amps(load.moving)} while all move, at most {amps(load.worst)} {load.when}
            </span>
          </>
        )}
      </FormGrid>
      {type.family === "driver" && type.outputs > 0 && (
        <Outputs record={record} deviceId={device.id} label={device.label} />
      )}
      {(type.model === "detector" || type.model === "reverser") && (
        <Blocks record={record} device={device} type={type} />
      )}
      <Terminals device={device} type={type} />
      <NotesAndPhotos record={record} subject={{ kind: "device", of: device }} />
      {type.caution && <p className="mt-3 border-l-3 border-copper bg-copper-wash px-3 py-2">{type.caution}</p>}
      <Button className="mt-4" onClick={() => (hanging.length > 0 ? setAsking(true) : remove())}>
        Remove {device.label}
      </Button>
      {asking && (
        <AlertDialog
          title={`Remove ${device.label}?`}
          about={`It ${list(named)}. That is lost with it; undo brings it back.`}
          close={() => setAsking(false)}
          actions={<Button onClick={remove}>Remove it</Button>}
        />
      )}
    </Dialog>
  );
}

/** The types of boards and supplies, to add one of. */
export function AddBoardDialog({ close }: { close: () => void }) {
  const record = useRecord();
  const act = useEdit();
  if (!record) return null;
  return (
    <Dialog
      title="Add a board or supply"
      about="A board brings the supply that it needs, unless there is one already."
      close={close}
    >
      <ul>
        {FAMILIES.flatMap((family) => typesOfFamily(record, family).filter(isBoard)).map((type) => (
          <li key={type.id} className="flex items-center gap-3 border-t border-rule py-2">
            <div className="min-w-0 flex-1">
              <b>{type.name}</b>
              <p className="text-small text-ink-2">{type.about}</p>
            </div>
            <Button
              onClick={() => {
                act(addBoard(record, type.id));
                close();
              }}
            >
              Add
            </Button>
          </li>
        ))}
      </ul>
    </Dialog>
  );
}
