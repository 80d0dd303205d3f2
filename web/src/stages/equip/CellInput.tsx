import type { Choice } from "@alderman/core";
import { useCombobox } from "downshift";
import { type ChangeEvent, type KeyboardEvent, useEffect, useMemo, useRef, useState } from "react";
import { Mark } from "../../drawing/Mark.tsx";
import { useDropped } from "../../kit/useDropped.ts";

/** How editing began: with the text that was there, or with a letter in place of it. */
export interface Begin {
  text: string;
  letter: boolean;
}

interface Props {
  label: string;
  begin: Begin;
  choices: readonly Choice[];
  /** Takes the text; false when it cannot be taken and typing goes on. */
  done: (text: string, step: "down" | "right" | "stay") => boolean;
  cancel: () => void;
}

/** Most choices shown at once. */
const SHOWN = 30;

/**
 * A cell being typed into, with what may be typed below it: the arrows highlight, Enter and Tab take what is highlighted, or
 * else the text as it is typed. Leaving the cell takes the typed text too, but not a single letter that only began it.
 */
export function CellInput({ label, begin: given, choices, done, cancel }: Props) {
  // how it began stays, however often the cell is drawn meanwhile: results that come must not select what is being typed
  const [begin] = useState(given);
  const [text, setText] = useState(begin.text);
  const typed = text !== begin.text || begin.letter;
  const finished = useRef(false);
  const items = useMemo(
    () => (typed ? shownOf(choices, text) : firstOfAll(choices, begin.text)),
    [choices, text, typed, begin.text],
  );
  const finish = (step: "down" | "right" | "stay", wanted = text) => {
    if (finished.current) return;
    finished.current = true;
    finished.current = done(wanted, step);
  };
  const { isOpen, highlightedIndex, getInputProps, getMenuProps, getItemProps } = useCombobox({
    items,
    inputValue: text,
    defaultIsOpen: true,
    itemToString: (item) => item?.text ?? "",
    // the first one that the typed letters begin is highlighted, so that it is seen what Enter takes
    defaultHighlightedIndex: typed ? firstFor(choices, text) : -1,
    stateReducer: (_state, { type, changes }) =>
      // it stays open while one types; what a key takes is decided below
      type === useCombobox.stateChangeTypes.InputChange
        ? { ...changes, highlightedIndex: firstFor(choices, changes.inputValue ?? "") }
        : changes,
    onSelectedItemChange: ({ selectedItem, type }) => {
      if (selectedItem && type === useCombobox.stateChangeTypes.ItemClick) finish("down", selectedItem.text);
    },
  });
  const input = useRef<HTMLInputElement>(null);
  useEffect(() => {
    input.current?.focus();
    if (!begin.letter) input.current?.select();
  }, [begin]);
  const onKeyDown = (
    event: KeyboardEvent<HTMLInputElement> & { nativeEvent: { preventDownshiftDefault?: boolean } },
  ) => {
    event.stopPropagation();
    if (!["Enter", "Tab", "Escape"].includes(event.key) || (event.key === "Tab" && event.shiftKey)) return;
    event.nativeEvent.preventDownshiftDefault = true;
    event.preventDefault();
    if (event.key === "Escape") {
      finished.current = true;
      cancel();
    } else finish(event.key === "Enter" ? "down" : "right", isOpen ? (items[highlightedIndex]?.text ?? text) : text);
  };
  const leave = () => {
    if (finished.current) return;
    if (text === begin.text) {
      finished.current = true;
      cancel();
    } else finish("stay");
  };
  const open = isOpen && items.length > 0;
  const { setField, setList, style } = useDropped(open);
  return (
    <>
      <input
        {...getInputProps({
          ref: (element: HTMLInputElement | null) => {
            input.current = element;
            setField(element);
          },
          "aria-label": label,
          autoComplete: "off",
          spellCheck: false,
          // at once: letters typed fast are lost when the text is set from the combobox's own state, a moment later
          onChange: (event: ChangeEvent<HTMLInputElement>) => setText(event.currentTarget.value),
          onKeyDown,
          onBlur: (event) => {
            (event.nativeEvent as { preventDownshiftDefault?: boolean }).preventDownshiftDefault = true;
            leave();
          },
        })}
        className="block h-7 w-full bg-sheet px-1.5 outline-3 -outline-offset-3 outline-copper"
      />
      <ul
        {...getMenuProps({ "aria-label": `${label}: what may be typed`, ref: setList, style })}
        className={`z-20 w-65 overflow-auto rounded-[3px] border border-ink bg-sheet text-left ${open ? "" : "hidden"}`}
      >
        {open &&
          items.map((choice, index) => (
            <li
              key={choice.text}
              {...getItemProps({ item: choice, index, onMouseDown: (event) => event.preventDefault() })}
              className={`cursor-pointer px-2 py-1 whitespace-normal ${index === highlightedIndex ? "bg-copper-wash shadow-[inset_3px_0_0_var(--copper)]" : ""}`}
            >
              {choice.fits && choice.fits !== "fits" && (
                <Mark verdict={choice.fits === "cannot" ? "wrong" : "doubtful"} size={13} />
              )}{" "}
              {choice.text} <span className="text-small text-ink-2">{choice.hint}</span>
            </li>
          ))}
      </ul>
    </>
  );
}

const exactly = (choices: readonly Choice[], text: string) =>
  choices.some((choice) => choice.text.toLowerCase() === text.trim().toLowerCase());

/**
 * Which of the choices shown for a text is highlighted: the first that its name fits, unless the text is a choice itself.
 * What cannot go together with the turnout is never taken by itself.
 */
function firstFor(choices: readonly Choice[], text: string): number {
  if (text.trim() === "" || exactly(choices, text)) return -1;
  return shownOf(choices, text).findIndex((choice) => choice.fits !== "cannot" && named(choice, text));
}

const named = ({ text: name }: Choice, text: string) => name.toLowerCase().includes(text.trim().toLowerCase());

/** All choices, what the cell holds before the others. */
const firstOfAll = (choices: readonly Choice[], held: string) =>
  shownOf(
    [...choices].sort((a, b) => Number(b.text === held) - Number(a.text === held)),
    "",
  );

/** The choices that a text fits: those whose name begins with it, whose name holds it, whose explanation does; what cannot be last. */
function shownOf(choices: readonly Choice[], text: string): Choice[] {
  const wanted = text.trim().toLowerCase();
  const rank = (choice: Choice) => {
    const name = choice.text.toLowerCase();
    const place = name.startsWith(wanted) ? 0 : name.includes(wanted) ? 1 : 2;
    return place + (choice.fits === "cannot" ? 3 : 0);
  };
  return choices
    .filter((choice) => `${choice.text} ${choice.hint}`.toLowerCase().includes(wanted))
    .sort((a, b) => rank(a) - rank(b))
    .slice(0, SHOWN);
}
