import type { Position, ThreadControl } from "@alderman/core";
import type { Verdict } from "../verdict.ts";
import { ControlGlyph } from "./controlGlyphs.tsx";
import { controlName, controlWords, lockWords } from "./controlWords.ts";
import { Heading } from "./Heading.tsx";

/** The control with which a thread begins: what it is, how it stands, and at most two more things to be said of it. */
export function ControlFace({
  control,
  made,
  verdict,
  notes,
}: {
  control: ThreadControl;
  /** The side on which it is made. */
  made: Position | null;
  verdict: Verdict;
  notes: readonly string[];
}) {
  const [how, manner] = controlWords(control, made);
  const lock = lockWords(control);
  const said = lock ? [lock, ...notes] : notes;
  return (
    <>
      <Heading x={12} number={1} words={controlName(control)} verdict={verdict} />
      <ControlGlyph control={control} made={made} />
      <text className="tm" x="12" y="202">
        {how}
      </text>
      <text className="tq" x="12" y="218">
        {manner}
      </text>
      {said.slice(0, 2).map((words, index) => (
        <text key={words} className="tm" x="12" y={235 + index * 15}>
          {words}
        </text>
      ))}
    </>
  );
}
