import type { Choice } from "@alderman/core";
import { type KeyboardEvent, useEffect, useId, useMemo, useRef, useState } from "react";
import { Mark } from "../../parts/Mark.tsx";

interface Props {
  label: string;
  /** Text to begin with. */
  begin: string;
  choices: readonly Choice[];
  /** Takes the text; false when it cannot be taken and typing goes on. */
  done: (text: string, step: "down" | "right" | "stay") => boolean;
  cancel: () => void;
}

/** Most choices shown at once. */
const SHOWN = 30;

/** A cell being typed into, with what may be typed below it: arrows choose, Enter and Tab take. */
export function CellInput({ label, begin, choices, done, cancel }: Props) {
  const [text, setText] = useState(begin);
  const [typed, setTyped] = useState(false);
  const [at, setAt] = useState(-1);
  const input = useRef<HTMLInputElement>(null);
  const finished = useRef(false);
  const id = useId();
  useEffect(() => {
    input.current?.focus();
    if (begin.length > 1) input.current?.select();
  }, [begin]);
  const shown = useMemo(() => {
    const wanted = text.trim().toLowerCase();
    const fits = choices.filter(
      ({ text: each, hint }) =>
        (!typed && begin.length !== 1) || wanted === "" || `${each} ${hint}`.toLowerCase().includes(wanted),
    );
    // what begins with the letters typed comes before what only holds them
    return [...fits]
      .sort((a, b) => Number(b.text.toLowerCase().startsWith(wanted)) - Number(a.text.toLowerCase().startsWith(wanted)))
      .slice(0, SHOWN);
  }, [choices, text, typed, begin]);

  const finish = (step: "down" | "right" | "stay", chosen?: string) => {
    const wanted = text.trim().toLowerCase();
    const exact = choices.find((choice) => choice.text.toLowerCase() === wanted);
    const offered =
      at >= 0 ? shown[at] : exact ? undefined : (typed || begin.length === 1) && wanted !== "" ? shown[0] : undefined;
    finished.current = true;
    finished.current = done(chosen ?? offered?.text ?? text, step);
  };
  const onKeyDown = (event: KeyboardEvent) => {
    event.stopPropagation();
    if (event.key === "ArrowDown") setAt(Math.min(at + 1, shown.length - 1));
    else if (event.key === "ArrowUp") setAt(Math.max(at - 1, -1));
    else if (event.key === "Enter") finish("down");
    else if (event.key === "Tab" && !event.shiftKey) finish("right");
    else if (event.key === "Escape") {
      finished.current = true;
      cancel();
    } else return;
    event.preventDefault();
  };
  return (
    <>
      <input
        ref={input}
        role="combobox"
        aria-label={label}
        aria-expanded={shown.length > 0}
        aria-controls={id}
        aria-activedescendant={at >= 0 ? `${id}-${at}` : undefined}
        autoComplete="off"
        spellCheck={false}
        maxLength={80}
        value={text}
        onChange={(event) => {
          setText(event.target.value);
          setTyped(true);
          setAt(-1);
        }}
        onKeyDown={onKeyDown}
        onBlur={() => !finished.current && (text === begin && !typed && begin.length !== 1 ? cancel() : finish("stay"))}
      />
      {shown.length > 0 && (
        <div className="choices" id={id} role="listbox">
          {shown.map((choice, index) => (
            <div
              key={choice.text}
              id={`${id}-${index}`}
              role="option"
              aria-selected={index === at}
              tabIndex={-1}
              onMouseDown={(event) => {
                event.preventDefault();
                finish("down", choice.text);
              }}
            >
              {choice.fits && choice.fits !== "fits" && (
                <Mark verdict={choice.fits === "cannot" ? "wrong" : "doubtful"} size={13} />
              )}{" "}
              {choice.text} <span className="quiet text-[12px]">{choice.hint}</span>
            </div>
          ))}
        </div>
      )}
    </>
  );
}
