import { STAGES } from "./stages.ts";

/** The dialogs that can be opened from anywhere in a railway. */
export type Panel = "history" | "keys" | "railway" | "papers" | "commands" | "thread";

/** What a command can do. */
export interface CommandContext {
  /** Goes to a view of the railway that is open. */
  goTo: (path: string) => void;
  /** Goes to a page that belongs to no railway. */
  goOut: (path: string) => void;
  open: (panel: Panel) => void;
  /** Lets the thread of the chosen turnout slide up over the stage; in Equip it has its own place. */
  showThread: () => void;
  undo: () => void;
  redo: () => void;
  throwTo: (position: "N" | "R") => void;
  changeTheme: () => void;
}

/** Something that can be done from anywhere: by keys, from the palette, and explained on the page of keys. */
export interface Command {
  words: string;
  /** Keys as the keyboard's package writes them: `mod+z`, `g>e` for one after the other; several ways apart by commas. */
  keys?: string;
  /** The keys as people read them. */
  written?: string;
  /** Also while a field is typed into. */
  evenTyping?: boolean;
  /** More words to find it by. */
  also?: string;
  run: (context: CommandContext) => void;
}

/** Every command; the handlers of keys, the page of keys and the palette are made from this list. */
export const COMMANDS: readonly Command[] = [
  ...STAGES.map(
    ({ path, title, key }): Command => ({
      words: `Go to ${title}`,
      ...{ keys: `g>${key}`, written: `g ${key}` },
      run: ({ goTo }) => goTo(path),
    }),
  ),
  { words: "Go to the railways", keys: "g>r", written: "g r", run: ({ goOut }) => goOut("/railways") },
  { words: "Go to Quick sums", keys: "g>q", written: "g q", run: ({ goOut }) => goOut("/quick-sums") },
  { words: "Show the thread", keys: "t", written: "t", run: ({ showThread }) => showThread() },
  { words: "Show the turnouts as a list", also: "grid table", run: ({ goTo }) => goTo("equip?view=list") },
  { words: "Throw the chosen turnout normal", keys: "n", written: "n", run: ({ throwTo }) => throwTo("N") },
  { words: "Throw the chosen turnout reverse", keys: "v", written: "v", run: ({ throwTo }) => throwTo("R") },
  {
    ...{ words: "Find a label, or do something", keys: "mod+k", written: "Ctrl+K", evenTyping: true },
    run: ({ open }) => open("commands"),
  },
  { words: "Find anything by its label", keys: "/", written: "/", run: ({ open }) => open("commands") },
  { words: "Undo", keys: "mod+z", written: "Ctrl+Z", run: ({ undo }) => undo() },
  { words: "Redo", keys: "mod+shift+z,mod+y", written: "Ctrl+Shift+Z", run: ({ redo }) => redo() },
  { words: "History", also: "undo what was done", run: ({ open }) => open("history") },
  { words: "Settings of the railway", also: "wire gauge name address", run: ({ open }) => open("railway") },
  {
    ...{
      words: "Papers: labels, lists and sheets for the work",
      also: "print pdf xlsx csv cut list buy list test sheet card",
    },
    run: ({ open }) => open("papers"),
  },
  { words: "Change between bench (light) and shed (dark)", also: "theme", run: ({ changeTheme }) => changeTheme() },
  { words: "Show the keys", keys: "?", written: "?", run: ({ open }) => open("keys") },
];

/** Keys that work in one place only, for the page of keys. */
export const LOCAL_KEYS: readonly { place: string; keys: readonly [written: string, words: string][] }[] = [
  {
    place: "In the list of turnouts",
    keys: [
      ["arrows", "go from cell to cell; with Shift choose several"],
      ["Enter, F2", "edit the cell; so does a letter, in every column but the label"],
      ["Enter, Tab", "keep what was typed and go down, or right"],
      ["Escape", "leave the cell as it was"],
      ["Delete", "empty what is chosen"],
      ["Ctrl+D", "fill down"],
      ["Ctrl+C, Ctrl+V", "copy and paste a block, also from a spreadsheet"],
      ["Alt+up, Alt+down", "in the Driver column: move to the next output that is free"],
    ],
  },
  {
    place: "On the line",
    keys: [
      ["arrows, Home, End, Page up, Page down", "move the cursor, slantwise with the last four"],
      ["Shift+arrows", "lay track; of chosen track, move it"],
      [
        "Enter",
        "end what is laid; choose what is at the cursor; with Gap or Mark, part or mark the step that it last went over",
      ],
      ["l, s, i, k", "lay track, choose, part rails, mark blocks, signals, feeders and boards"],
      ["3", "make three legs from one toe a three-way turnout"],
      [
        "m, q, c, Delete",
        "mirror chosen track, turn it by a quarter, copy it, take it up; with none, the step last gone over",
      ],
      ["+, -, 0, Ctrl+arrows", "larger, smaller, all of it, to the side"],
      ["Space or middle button, drag", "move the paper"],
    ],
  },
  {
    place: "On a terminal",
    keys: [
      ["r", "put the red probe on it"],
      ["b", "put the black probe on it"],
      ["Enter", "put the next probe on it"],
    ],
  },
  {
    place: "Among findings",
    keys: [["], [", "go to the next finding, or the one before"]],
  },
];
