import type { KeyboardEvent } from "react";
import { useAppDispatch, useAppSelector } from "../store/store.ts";
import { type ProbedEnd, probe } from "../store/view.ts";

interface Props extends ProbedEnd {
  x: number;
  y: number;
  /** Text beside the ring; none on a strip, which has its own numbers. */
  label?: string;
  labelAt?: keyof typeof LABEL;
  radius?: number;
}

const LABEL = {
  above: { dx: 0, dy: -9, anchor: "middle" },
  below: { dx: 0, dy: 16, anchor: "middle" },
  left: { dx: -9, dy: 4, anchor: "end" },
  right: { dx: 9, dy: 4, anchor: "start" },
  closeLeft: { dx: -5.5, dy: 3.5, anchor: "end" },
  closeRight: { dx: 5.5, dy: 3.5, anchor: "start" },
  aboveLeft: { dx: -7, dy: -7, anchor: "end" },
  aboveRight: { dx: 7, dy: -7, anchor: "start" },
} as const;

/** A terminal as a screw that can take a probe: click for the next one, r and b for red and black. */
export function Terminal({
  end,
  name,
  x,
  y,
  label,
  labelAt = "above",
  radius = 5,
}: Omit<Props, "key"> & { end: string }) {
  const dispatch = useAppDispatch();
  const red = useAppSelector((state) => state.view.red?.key === end);
  const black = useAppSelector((state) => state.view.black?.key === end);
  const place = (which: "red" | "black" | "next") => dispatch(probe({ probe: which, end: { key: end, name } }));
  const onKeyDown = (event: KeyboardEvent) => {
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    if (event.key === "r" || event.key === "b") place(event.key === "r" ? "red" : "black");
    else if (event.key === "Enter" || event.key === " ") place("next");
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  const tilt = [...end].reduce((sum, letter) => sum + letter.charCodeAt(0) * 37, 0) % 180;
  const { dx, dy, anchor } = LABEL[labelAt];
  return (
    <g
      className="terminal"
      role="button"
      tabIndex={0}
      aria-label={`Terminal ${name}${red ? ", red probe" : ""}${black ? ", black probe" : ""}`}
      data-end={end}
      data-name={name}
      onClick={() => place("next")}
      onKeyDown={onKeyDown}
    >
      <title>{name}</title>
      <circle className="halo" cx={x} cy={y} r={radius + 3} />
      <g transform={`translate(${x} ${y}) rotate(${tilt})`}>
        <circle r={radius} fill="var(--sheet)" stroke="var(--ink)" strokeWidth="1.2" />
        <path d={`M${-radius + 1.2} 0H${radius - 1.2}`} stroke="var(--ink)" strokeWidth="1.3" />
      </g>
      {red && <ProbeTip x={x} y={y} colour="RD" />}
      {black && <ProbeTip x={x} y={y} colour="BK" flip />}
      {label && (
        <text className="tm" x={x + dx} y={y + dy} textAnchor={anchor}>
          {label}
        </text>
      )}
    </g>
  );
}

function ProbeTip({ x, y, colour, flip = false }: { x: number; y: number; colour: "RD" | "BK"; flip?: boolean }) {
  const angle = flip ? 60 : -60;
  return (
    <g transform={`translate(${x} ${y}) rotate(${angle})`}>
      <path d="M0 0H7" stroke="var(--wire-line)" strokeWidth="1.8" />
      <path d="M7 -3H20V3H7Z" fill={`var(--w-${colour})`} stroke="var(--wire-line)" strokeWidth="1.2" />
    </g>
  );
}
