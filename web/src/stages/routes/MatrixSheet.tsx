import {
  type Construction,
  count,
  type Matrix,
  type RailwayRecord,
  type RoutePress,
  reachedFrom,
  setConstruction,
  sneakWay,
} from "@alderman/core";
import { useState } from "react";
import { BuildSegments } from "../../drawing/matrix/BuildSegments.tsx";
import { type Live, MatrixDrawing, type Sneak } from "../../drawing/matrix/MatrixDrawing.tsx";
import { SheetBody } from "../../kit/Sheet.tsx";
import type { useEdit } from "../../session/useEdit.ts";
import { asBuilt, nameOfJoin, wordsOf } from "./matrixOf.ts";

/** The matrix of one or more boards: a button pressed, where its current goes, and where it would go without diodes. */
export function MatrixSheet({
  record,
  matrix,
  pressed,
  setPressed,
  press,
  edit,
}: {
  record: RailwayRecord;
  matrix: Matrix;
  pressed: string | null;
  setPressed: (key: string) => void;
  press: RoutePress | null;
  edit: ReturnType<typeof useEdit>;
}) {
  const [hasDiodes, setDiodes] = useState(true);
  const { built, made } = asBuilt(matrix);
  // what controls of single turnouts reach stands in no row
  const wishes = matrix.rows.flatMap(({ key }) => matrix.wishes.filter(({ button }) => button === key));
  const own = wishes.find(({ button }) => button === pressed);
  const joins = hasDiodes ? built.joins : built.joins.map((join) => ({ ...join, with: "wire" as const }));
  const coils = new Set(matrix.coils.map(({ key }) => key));
  const live = new Map(
    [...(own ? reachedFrom(own.button, joins) : [])].map((name): [string, Live] => {
      const isAstray = coils.has(name)
        ? !own?.coils.includes(name)
        : !hasDiodes && name !== pressed && matrix.rows.some(({ key }) => key === name);
      return [name, isAstray ? "astray" : "wanted"];
    }),
  );
  const words = wordsOf(record, matrix, hasDiodes ? press : null);
  const steps = hasDiodes || !own ? [] : sneakWay(wishes, own.button);
  const nameOf = (key: string) => words.rows.get(key)?.name ?? key;
  const coilOf = (key: string) => {
    const coil = words.coils.get(key);
    return coil ? `${coil.turnout} ${coil.position}` : key;
  };
  return (
    <SheetBody label="The matrix" className="grid grid-rows-[auto_minmax(0,1fr)_auto_auto]">
      <div className="flex flex-wrap items-center gap-2 border-b border-rule px-3 py-1.5">
        <BuildSegments
          kind={record.railway.matrixBy}
          setKind={(kind) => edit(() => setConstruction(record, kind))}
          hasDiodes={hasDiodes}
          setDiodes={setDiodes}
        />
      </div>
      <div className="min-h-0 overflow-auto px-3 pt-2">
        <MatrixDrawing
          wishes={wishes}
          construction={{ ...built, joins }}
          pressed={pressed}
          live={live}
          press={setPressed}
          words={words}
          sneak={sneakOf(steps, own?.button)}
          isMade={(join) => made.has(nameOfJoin(join))}
        />
      </div>
      <Counts built={built} rows={matrix.rows.map(({ key }) => key)} made={made.size} />
      <div aria-live="polite" className="grid min-h-16 content-start gap-0.5 px-3 py-2">
        {steps.map(({ coils: from, buttons, besides }) => (
          <p key={besides.join()} className="text-small">
            From {from.map(coilOf).join(", ")} current goes back up the row{buttons.length > 1 ? "s" : ""} of{" "}
            {buttons.map(nameOf).join(", ")}, and on to {besides.map(coilOf).join(", ")}.
          </p>
        ))}
        {!hasDiodes && own && steps.length === 0 && (
          <p>{nameOf(own.button)} energises nothing besides, even without diodes.</p>
        )}
        {hasDiodes && own && <Why matrix={matrix} built={built} button={own.button} nameOf={nameOf} coilOf={coilOf} />}
      </div>
    </SheetBody>
  );
}

/** Links, diodes and plain wires of a board, and how many diodes each route has. */
function Counts({ built, rows, made }: { built: Construction; rows: readonly string[]; made: number }) {
  const each = rows.map((row) => built.joins.filter(({ from, with: by }) => from === row && by === "diode").length);
  return (
    <div className="flex flex-wrap items-baseline gap-x-5 border-y border-rule px-3 py-1.5">
      <span>
        <b className="mono text-[17px]">{built.joins.length}</b> links
      </span>
      <span>
        <b className="mono text-[17px]">{built.diodes}</b> {built.diodes === 1 ? "diode" : "diodes"}
      </span>
      <span>
        <b className="mono text-[17px]">{built.wires}</b> {built.wires === 1 ? "plain wire" : "plain wires"}
      </span>
      {rows.length <= 12 && <span className="text-ink-2">Diodes by route: {each.join(" ")}</span>}
      <span className="text-ink-2">{made === built.joins.length ? "all soldered" : `${made} soldered`}</span>
    </div>
  );
}

/** Why a link of the pressed row needs its diode, in the words of the rule. */
function Why({
  matrix,
  built,
  button,
  nameOf,
  coilOf,
}: {
  matrix: Matrix;
  built: Construction;
  button: string;
  nameOf: (key: string) => string;
  coilOf: (key: string) => string;
}) {
  const link = built.joins.find(({ from, with: by }) => from === button && by === "diode");
  const wants = (key: string) => matrix.wishes.find((wish) => wish.button === key)?.coils ?? [];
  const others = matrix.wishes.filter(
    ({ button: other, coils }) => other !== button && link && coils.includes(link.to),
  );
  const missing = wants(button).filter((coil) => others.some(({ coils }) => !coils.includes(coil)));
  if (!link || missing.length === 0)
    return (
      <p className="text-small text-ink-2">
        A link is a plain wire only where every button that reaches its coil also wants all the coils of its own button.
      </p>
    );
  const named = others.map(({ button: other }) => nameOf(other)).filter((name) => !name.startsWith("direct "));
  const who =
    named.length > 3 ? `${named.slice(0, 2).join(", ")} and ${count(named.length - 2, "other")}` : named.join(", ");
  return (
    <p className="text-small">
      <b>
        {nameOf(button)} to {coilOf(link.to)} needs a diode:
      </b>{" "}
      {who || "a control of its own"} also {named.length === 1 ? "reaches" : "reach"} {coilOf(link.to)}, and must not
      reach {missing.map(coilOf).join(", ")}. A link is a plain wire only where every button that reaches its coil wants
      all the coils of its own button.
    </p>
  );
}

function sneakOf(steps: ReturnType<typeof sneakWay>, button: string | undefined): Sneak | undefined {
  const [first] = steps;
  const [coil, row, besides] = [first?.coils[0], first?.buttons[0], first?.besides[0]];
  return button && coil && row && besides ? { coil, button: row, besides } : undefined;
}
