import type { AddressPlace, AddressState } from "@alderman/core";
import { type KeyboardEvent, memo, type PointerEvent, useState } from "react";
import { placeWords } from "./placeWords.ts";

/** Addresses in a row of the picture, and the size of one. */
const ACROSS = 100;
const CELL = { width: 8, height: 12 };
const LEFT = 46;
/** Rows from one number at the left to the next. */
const LABELLED = 5;

/** What the marks of the picture mean, by their shapes. */
const MARKS: { state: AddressState; words: string }[] = [
  { state: "taken", words: "answers" },
  { state: "due", words: "to be programmed" },
  { state: "clash", words: "clashes" },
  { state: "reserved", words: "reserved" },
  { state: "free", words: "free" },
];

/** Every address that can be sent, a hundred to a row; arrows move, Enter opens what is pointed at. */
export function AddressMap({ places, open }: { places: readonly AddressPlace[]; open: (address: number) => void }) {
  const [at, setAt] = useState<number | null>(null);
  const rows = Math.ceil(((places.at(-1)?.address ?? 0) + 1) / ACROSS);
  const width = LEFT + ACROSS * CELL.width + 2;
  const place = places.find(({ address }) => address === at);
  const addressAt = (event: PointerEvent<SVGSVGElement>) => {
    const { left, width: wide } = event.currentTarget.getBoundingClientRect();
    const scale = wide / width;
    const { top } = event.currentTarget.getBoundingClientRect();
    const column = Math.floor(((event.clientX - left) / scale - LEFT) / CELL.width);
    const row = Math.floor((event.clientY - top) / scale / CELL.height);
    const address = row * ACROSS + column;
    return column >= 0 && column < ACROSS && places.some((each) => each.address === address) ? address : null;
  };
  const onKeyDown = (event: KeyboardEvent) => {
    const step = { ArrowLeft: -1, ArrowRight: 1, ArrowUp: -ACROSS, ArrowDown: ACROSS }[event.key];
    if (step === undefined && event.key !== "Enter") return;
    event.preventDefault();
    const [first, last] = [places[0]?.address ?? 1, places.at(-1)?.address ?? 1];
    if (step === undefined) return at !== null && open(at);
    setAt(Math.min(last, Math.max(first, (at ?? first - step) + step)));
  };
  return (
    <div className="px-3 py-2">
      <div
        role="slider"
        aria-label="All addresses: arrows move, Enter opens"
        aria-valuemin={places[0]?.address ?? 1}
        aria-valuemax={places.at(-1)?.address ?? 1}
        aria-valuenow={at ?? places[0]?.address ?? 1}
        aria-valuetext={place ? placeWords(place) : "none chosen"}
        tabIndex={0}
        className="cursor-pointer"
        onClick={() => at !== null && open(at)}
        onKeyDown={onKeyDown}
      >
        <svg
          className="draw block w-full"
          viewBox={`0 0 ${width} ${rows * CELL.height + 4}`}
          aria-hidden="true"
          onPointerMove={(event) => setAt(addressAt(event))}
          onPointerLeave={() => setAt(null)}
        >
          <Marks places={places} />
          {at !== null && (
            <rect {...cornerOf(at)} {...CELL} fill="none" stroke="var(--focus)" strokeWidth="2" data-address={at} />
          )}
        </svg>
      </div>
      <p className="flex min-h-5 flex-wrap items-center gap-x-4 text-small" aria-live="polite">
        {place ? (
          <b>{placeWords(place)}</b>
        ) : (
          MARKS.map(({ state, words }) => (
            <span key={state} className="inline-flex items-center gap-1.5">
              <svg viewBox="0 0 8 12" width="9" height="13" aria-hidden="true">
                <path {...markOf(state, 0, 0)} />
              </svg>
              {words}
            </span>
          ))
        )}
      </p>
    </div>
  );
}

/** The marks themselves, which stay as they are while the pointer moves. */
const Marks = memo(function Marks({ places }: { places: readonly AddressPlace[] }) {
  const rows = [...new Set(places.map(({ address }) => Math.floor(address / ACROSS)))];
  const byState = new Map<AddressState, string[]>();
  for (const { address, state } of places) {
    const { x, y } = cornerOf(address);
    byState.set(state, [...(byState.get(state) ?? []), markOf(state, x, y).d]);
  }
  return (
    <>
      {rows
        .filter((row) => row % LABELLED === 0)
        .map((row) => (
          <text
            key={row}
            className="tq"
            style={{ fontSize: "16px" }}
            x={LEFT - 6}
            y={row * CELL.height + 13}
            textAnchor="end"
          >
            {row * ACROSS}
          </text>
        ))}
      {[...byState].map(([state, paths]) => (
        <path key={state} {...markOf(state, 0, 0)} d={paths.join("")} />
      ))}
    </>
  );
});

function cornerOf(address: number): { x: number; y: number } {
  return { x: LEFT + (address % ACROSS) * CELL.width, y: Math.floor(address / ACROSS) * CELL.height };
}

/** The mark of a state, as a path that begins at the corner of its cell. */
function markOf(state: AddressState, x: number, y: number) {
  const box = `M${x + 1} ${y + 2}h6v8h-6Z`;
  switch (state) {
    case "taken":
      return { d: box, fill: "var(--ink)" };
    case "due":
      return { d: box, fill: "none", stroke: "var(--copper)", strokeWidth: 1.6 };
    case "clash":
      return {
        d: `M${x + 1} ${y + 2}l6 8M${x + 7} ${y + 2}l-6 8`,
        fill: "none",
        stroke: "var(--red)",
        strokeWidth: 2.2,
      };
    case "reserved":
      return {
        d: `M${x + 1} ${y + 10}l6 -8M${x + 1} ${y + 6}l3 -4M${x + 4} ${y + 10}l3 -4`,
        fill: "none",
        stroke: "var(--ink-2)",
        strokeWidth: 0.9,
      };
    case "free":
      return { d: `M${x + 3.4} ${y + 5.4}h1.2v1.2h-1.2Z`, fill: "var(--rule-2)" };
  }
}
