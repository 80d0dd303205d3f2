import { PLACES } from "../useKeys.ts";
import { SheetDialog } from "./Dialogs.tsx";

const KEYS: [string, string][] = [
  ...Object.entries(PLACES).map(([key, { title }]): [string, string] => [`g ${key}`, `go to ${title}`]),
  ["g q", "go to Quick sums"],
  ["g r", "go to Railways"],
  ["Ctrl+K", "all commands"],
  ["/", "find anything by its label"],
  ["n, v", "throw the chosen turnout normal, reverse"],
  ["t", "thread of the chosen turnout"],
  ["r, b", "red, black probe on the focused terminal"],
  ["Ctrl+Z", "undo"],
  ["Ctrl+Shift+Z", "redo"],
  ["arrows", "move in the list of turnouts; with Shift, choose several cells"],
  ["Enter, F2", "type into the cell"],
  ["Delete", "empty the cell, or all that are chosen"],
  ["Ctrl+D", "fill the first chosen row down"],
  ["Ctrl+C, Ctrl+V", "copy and paste cells, also from a spreadsheet"],
  ["Alt+arrows", "move a turnout to the next output of its board"],
  ["[, ]", "finding before, next finding"],
  ["?", "these keys"],
];

/** The keys that work here. */
export function KeysDialog({ close }: { close: () => void }) {
  return (
    <SheetDialog title="Keys" close={close}>
      <table className="list">
        <tbody>
          {KEYS.map(([key, what]) => (
            <tr key={key}>
              <td className="mono w-32">{key}</td>
              <td>{what}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </SheetDialog>
  );
}
