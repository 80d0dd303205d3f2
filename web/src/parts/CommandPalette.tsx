import { turnoutsInOrder, typeOf } from "@alderman/core";
import { Command } from "cmdk";
import { useNavigate } from "react-router";
import { turnBack } from "../session/actions.ts";
import { useRecord } from "../session/hooks.ts";
import { useAppDispatch, useAppSelector } from "../store/store.ts";
import { choose, setTheme } from "../store/view.ts";
import { type Panel, PLACES } from "../useKeys.ts";
import { SheetDialog } from "./Dialogs.tsx";

/** All commands, and everything that has a label, behind one line of typing. */
export function CommandPalette({
  close,
  open,
  railwayId,
}: {
  close: () => void;
  open: (panel: Panel) => void;
  railwayId: string;
}) {
  const record = useRecord();
  const theme = useAppSelector((state) => state.view.theme);
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  const run = (act: () => void) => () => {
    close();
    act();
  };
  const go = (path: string) => run(() => void navigate(path));
  if (!record) return null;
  const leaderOf = new Map(
    record.assignments.flatMap((a) => ("turnoutId" in a ? [[a.deviceId, a.turnoutId] as const] : [])),
  );
  return (
    <SheetDialog title="Find or do" close={close}>
      <Command className="palette" label="Find or do">
        <Command.Input className="field mb-2" placeholder="A label, a name, or what to do" autoFocus />
        <Command.List>
          <Command.Empty className="quiet p-2">Nothing is called that.</Command.Empty>
          <Command.Group heading="Commands">
            {Object.entries(PLACES).map(([key, { path, title }]) => (
              <Command.Item key={path} value={`go to ${title}`} onSelect={go(`/r/${railwayId}/${path}`)}>
                Go to {title} <span className="mono quiet">g {key}</span>
              </Command.Item>
            ))}
            <Command.Item value="undo" onSelect={run(() => void dispatch(turnBack("undo")))}>
              Undo <span className="mono quiet">Ctrl+Z</span>
            </Command.Item>
            <Command.Item value="redo" onSelect={run(() => void dispatch(turnBack("redo")))}>
              Redo <span className="mono quiet">Ctrl+Shift+Z</span>
            </Command.Item>
            <Command.Item value="history" onSelect={run(() => open("history"))}>
              History
            </Command.Item>
            <Command.Item value="settings of the railway, wire gauge" onSelect={run(() => open("railway"))}>
              Settings of the railway
            </Command.Item>
            <Command.Item value="list of turnouts grid" onSelect={go(`/r/${railwayId}/equip?view=list`)}>
              Turnouts as a list
            </Command.Item>
            <Command.Item
              value="theme bench shed dark light"
              onSelect={run(() => dispatch(setTheme(theme === "bench" ? "shed" : "bench")))}
            >
              Change to {theme === "bench" ? "shed (dark)" : "bench (light)"}
            </Command.Item>
            <Command.Item value="quick sums" onSelect={go("/quick-sums")}>
              Quick sums <span className="mono quiet">g q</span>
            </Command.Item>
            <Command.Item value="keys" onSelect={run(() => open("keys"))}>
              Keys <span className="mono quiet">?</span>
            </Command.Item>
          </Command.Group>
          <Command.Group heading="Turnouts">
            {turnoutsInOrder(record).map((turnout) => (
              <Command.Item
                key={turnout.id}
                value={`turnout ${turnout.label} ${turnout.name}`}
                onSelect={run(() => dispatch(choose(turnout.id)))}
              >
                <b>{turnout.label}</b> <span className="quiet">{turnout.name}</span>
              </Command.Item>
            ))}
          </Command.Group>
          <Command.Group heading="Devices">
            {record.devices.map((device) => (
              <Command.Item
                key={device.id}
                value={`device ${device.label}`}
                onSelect={run(() => {
                  const turnoutId = leaderOf.get(device.id);
                  if (turnoutId) dispatch(choose(turnoutId));
                  void navigate(`/r/${railwayId}/equip`);
                })}
              >
                <b className="mono">{device.label}</b> <span className="quiet">{typeOf(record, device).name}</span>
              </Command.Item>
            ))}
          </Command.Group>
        </Command.List>
      </Command>
    </SheetDialog>
  );
}
