import { turnoutsInOrder, typeOf } from "@alderman/core";
import { Command } from "cmdk";
import { COMMANDS, type CommandContext } from "../frame/commands.ts";
import { Dialog } from "../kit/Dialog.tsx";
import { inputClass } from "../kit/Input.tsx";
import { useRecord } from "../session/hooks.ts";
import { useAppDispatch } from "../store/store.ts";
import { choose } from "../store/view.ts";
import { paletteScore } from "./paletteScore.ts";

const ITEM =
  "flex cursor-pointer justify-between gap-3 px-2.5 py-1.5 data-[selected=true]:bg-copper-wash data-[selected=true]:shadow-[inset_3px_0_0_var(--copper)]";
const GROUP =
  "[&_[cmdk-group-heading]]:px-2.5 [&_[cmdk-group-heading]]:pt-2.5 [&_[cmdk-group-heading]]:pb-1 [&_[cmdk-group-heading]]:font-head [&_[cmdk-group-heading]]:text-label [&_[cmdk-group-heading]]:font-semibold [&_[cmdk-group-heading]]:text-ink-2";

/** All commands, and everything that has a label, behind one line of typing. */
export function CommandPalette({ close, context }: { close: () => void; context: CommandContext }) {
  const record = useRecord();
  const dispatch = useAppDispatch();
  if (!record) return null;
  const run = (act: () => void) => () => {
    close();
    act();
  };
  return (
    <Dialog title="Find or do" close={close}>
      <Command label="Find or do" filter={(words, typed, [label = ""] = []) => paletteScore(words, typed, label)}>
        <Command.Input className={inputClass("mb-2")} placeholder="A label, a name, or what to do" autoFocus />
        <Command.List className="max-h-[50vh] overflow-auto">
          <Command.Empty className="p-2 text-ink-2">Nothing is called that.</Command.Empty>
          <Command.Group heading="Commands" className={GROUP}>
            {COMMANDS.map((command) => (
              <Command.Item
                key={command.words}
                className={ITEM}
                value={`${command.words} ${command.also ?? ""}`}
                keywords={[command.words]}
                onSelect={run(() => command.run(context))}
              >
                {command.words} <span className="mono text-ink-2">{command.written}</span>
              </Command.Item>
            ))}
          </Command.Group>
          <Command.Group heading="Turnouts" className={GROUP}>
            {turnoutsInOrder(record).map(({ id, label, name }) => (
              <Command.Item
                key={id}
                className={ITEM}
                value={`turnout ${label} ${name}`}
                keywords={[label]}
                onSelect={run(() => dispatch(choose({ kind: "turnout", id })))}
              >
                <b>{label}</b> <span className="text-ink-2">{name}</span>
              </Command.Item>
            ))}
          </Command.Group>
          <Command.Group heading="Devices" className={GROUP}>
            {record.devices.map((device) => (
              <Command.Item
                key={device.id}
                className={ITEM}
                value={`device ${device.label} ${typeOf(record, device).name}`}
                keywords={[device.label]}
                onSelect={run(() => {
                  dispatch(choose({ kind: "device", id: device.id }));
                  context.goTo("equip?view=thread");
                })}
              >
                <b className="mono">{device.label}</b> <span className="text-ink-2">{typeOf(record, device).name}</span>
              </Command.Item>
            ))}
          </Command.Group>
        </Command.List>
      </Command>
    </Dialog>
  );
}
