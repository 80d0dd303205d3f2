import type { CommandContext, Panel } from "../frame/commands.ts";
import { PapersDialog } from "../papers/PapersDialog.tsx";
import { CommandPalette } from "./CommandPalette.tsx";
import { HistoryDialog } from "./HistoryDialog.tsx";
import { KeysDialog } from "./KeysDialog.tsx";
import { RailwayDialog } from "./RailwayDialog.tsx";

/** The dialogs of the frame, of which one is open. */
export function Panels({ panel, close, context }: { panel: Panel; close: () => void; context: CommandContext }) {
  switch (panel) {
    case "history":
      return <HistoryDialog close={close} />;
    case "keys":
      return <KeysDialog close={close} />;
    case "railway":
      return <RailwayDialog close={close} />;
    case "papers":
      return <PapersDialog close={close} />;
    case "commands":
      return <CommandPalette close={close} context={context} />;
  }
}
