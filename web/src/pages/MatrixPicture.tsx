import {
  type ConstructionKind,
  constructionsOf,
  count,
  pressOf,
  reachedFrom,
  sneakWay,
  usualFiring,
  type Wish,
} from "@alderman/core";
import { useMemo, useState } from "react";
import { BoardSheet } from "../drawing/matrix/BoardSheet.tsx";
import { BuildSegments } from "../drawing/matrix/BuildSegments.tsx";
import { type Live, MatrixDrawing } from "../drawing/matrix/MatrixDrawing.tsx";
import { Button } from "../kit/Button.tsx";

/** What the picture of a press is worked out with. */
const USUAL = usualFiring();

/** The matrix of a table of buttons: how it is built, and where the current goes when a button is pressed. */
export function MatrixPicture({ input }: { input: Record<string, unknown> }) {
  const wishes = useMemo(() => wishesIn(input), [input]);
  const [kind, setKind] = useState<ConstructionKind>("fewest");
  const [hasDiodes, setDiodes] = useState(true);
  const [isBoard, setBoard] = useState(false);
  const [chosen, setPressed] = useState<string | null>(null);
  const builds = useMemo(() => constructionsOf(wishes), [wishes]);
  const construction = builds.find((each) => each.kind === kind);
  const pressed = wishes.some(({ button }) => button === chosen) ? chosen : (wishes[0]?.button ?? null);
  const own = wishes.find(({ button }) => button === pressed);
  const press = useMemo(
    () => (construction && own ? pressOf(construction, wishes, own, USUAL) : null),
    [construction, wishes, own],
  );
  if (!construction || !own || pressed === null) return null;
  const joins = hasDiodes ? construction.joins : construction.joins.map((join) => ({ ...join, with: "wire" as const }));
  const coils = new Set(wishes.flatMap((wish) => wish.coils));
  const live = new Map(
    [...reachedFrom(pressed, joins)].map((name): [string, Live] => {
      const isAstray = coils.has(name)
        ? !own.coils.includes(name)
        : wishes.some(({ button }) => button === name) && name !== pressed && !hasDiodes;
      return [name, isAstray ? "astray" : "wanted"];
    }),
  );
  const steps = hasDiodes ? [] : sneakWay(wishes, pressed);
  return (
    <section aria-label="The matrix" className="grid gap-3 border-t border-rule p-4">
      <div className="flex flex-wrap items-center gap-3">
        <BuildSegments kind={kind} setKind={setKind} hasDiodes={hasDiodes} setDiodes={setDiodes} />
        <span className="text-ink-2">
          <b className="mono text-ink">{construction.diodes}</b> {construction.diodes === 1 ? "diode" : "diodes"},{" "}
          <b className="mono text-ink">{construction.wires}</b> plain wires, at most{" "}
          {count(construction.mostDrops, "diode")} in a row
        </span>
      </div>
      <MatrixDrawing {...{ wishes, pressed, live }} construction={{ ...construction, joins }} press={setPressed} />
      <div aria-live="polite" className="grid gap-1">
        {steps.length > 0 && (
          <ol className="list-decimal pl-5">
            <li>
              {pressed} feeds {own.coils.join(", ")}.
            </li>
            {steps.map(({ coils: from, buttons, besides }) => (
              <li key={besides.join()}>
                From {from.join(", ")} current goes back up the wire{buttons.length > 1 ? "s" : ""} of{" "}
                {buttons.join(", ")}, and on to {besides.join(", ")}.
              </li>
            ))}
          </ol>
        )}
        {!hasDiodes && steps.length === 0 && <p>{pressed} energises nothing besides, even without diodes.</p>}
        {hasDiodes && press && (
          <p>
            {press.wanted
              .map(({ coil, joules, peakAmps }) => `${coil} ${joules.toFixed(2)} J, ${peakAmps.toFixed(1)} A`)
              .join("; ")}
            . {press.buttonAmps.toFixed(1)} A through the button, {press.diodeAmps.toFixed(1)} A at most through a
            diode.
            {press.wanted.some(({ joules }) => joules < USUAL.coil.leastJoules) && (
              <b className="text-red"> A firm throw takes {USUAL.coil.leastJoules} J: the unit is too small for it.</b>
            )}
          </p>
        )}
        {hasDiodes && (
          <p className="text-small text-ink-2">
            Solved with a usual unit of {USUAL.farads * 1e6} µF at {USUAL.volts} V and coils of {USUAL.coil.ohms} ohm;
            yours may differ. Build and test with the unit discharged: a charged one stores{" "}
            {(0.5 * USUAL.farads * USUAL.volts ** 2).toFixed(1)} J.
          </p>
        )}
      </div>
      <div>
        <Button size="small" onClick={() => setBoard(!isBoard)} aria-expanded={isBoard}>
          {isBoard ? "Put the build sheet away" : "Build sheet for a board between two terminal rows"}
        </Button>
      </div>
      {isBoard && <BoardSheet construction={construction} diode={USUAL.diode} />}
    </section>
  );
}

function wishesIn({ buttons }: Record<string, unknown>): Wish[] {
  if (typeof buttons !== "object" || buttons === null) return [];
  return Object.entries(buttons).map(([button, coils]) => ({
    button,
    coils: Array.isArray(coils) ? coils.map(String) : [],
  }));
}
