import { useHotkeys } from "react-hotkeys-hook";
import { COMMANDS, type Command, type CommandContext } from "./commands.ts";

/** Listens to the keys of all commands; keys typed into a field are the field's. */
export function CommandKeys({ context }: { context: CommandContext }) {
  return COMMANDS.map((command) => <Keys key={command.words} command={command} context={context} />);
}

/** Time within which the second key of a sequence must follow, milliseconds. */
const SEQUENCE_MILLISECONDS = 1500;

function Keys({ command: { keys, evenTyping = false, run }, context }: { command: Command; context: CommandContext }) {
  useHotkeys(
    keys ?? "",
    () => run(context),
    {
      enabled: keys !== undefined,
      preventDefault: true,
      useKey: true,
      sequenceTimeoutMs: SEQUENCE_MILLISECONDS,
      enableOnFormTags: evenTyping,
      enableOnContentEditable: evenTyping,
    },
    [context],
  );
  return null;
}
