import { createContext, useContext } from "react";
import { MarkShape } from "../Mark.tsx";
import type { Verdict } from "../verdict.ts";

/** Whether rules have still to look at what is drawn, so that what has no finding need not be in order. */
export const Unchecked = createContext(false);

/** A link's heading: its number in copper, its name, and the verdict where something was checked. */
export function Heading({
  x,
  y = 46,
  number,
  words,
  verdict,
}: {
  x: number;
  y?: number;
  number: number;
  words: string;
  verdict?: Verdict;
}) {
  const shown = useContext(Unchecked) && verdict === "good" ? "open" : verdict;
  // Archivo Narrow at 13 px runs to about six units a letter
  const width = words.length * 6.4;
  const indent = number > 9 ? 18 : 11;
  return (
    <g>
      <text className="tm" x={x} y={y} style={{ fill: "var(--copper)", fontWeight: 700 }}>
        {number}
      </text>
      <text className="th" x={x + indent} y={y}>
        {words}
      </text>
      {shown && (
        <g transform={`translate(${x + 11 + indent + width} ${y - 4.5}) scale(.8)`}>
          <MarkShape verdict={shown} />
        </g>
      )}
    </g>
  );
}

/** A place where something is still to be chosen. */
export function Missing({ x, y, words }: { x: number; y: number; words: string }) {
  return (
    <g>
      <circle cx={x + 26} cy={y} r="18" fill="none" stroke="var(--ink-2)" strokeWidth="1.2" strokeDasharray="4 3" />
      <text className="tq" x={x} y={y + 36}>
        {words}
      </text>
    </g>
  );
}
