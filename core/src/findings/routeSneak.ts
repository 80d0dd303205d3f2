import { coilWords, rowWords } from "../diodes/words.ts";
import { Draft } from "../equip/draft.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import { type Reach, reachesOf, type Step } from "../routes/asBuilt.ts";
import { type Matrix, placeOf } from "../routes/boards.ts";
import { constructionOf } from "../routes/constructions.ts";
import type { Thread } from "../schematic/thread.ts";
import { list } from "../units/format.ts";
import { ofMatrices, threadsOfCoils } from "./ofMatrices.ts";
import { type Remedy, rule } from "./rule.ts";

interface Sneak {
  matrix: Matrix;
  reach: Reach;
  record: RailwayRecord;
  threads: Thread[];
}

export const routeSneak = rule<Sneak>({
  id: "route-sneak",
  stage: "routes",
  column: null,
  severity: "stop",
  title: "Current goes astray through the diode board",
  about:
    "A plain wire lets current back up from a coil into another button's row, and on to all that hangs there: turnouts move that nobody asked, or get both coils at once. A link may be a plain wire only where every button that reaches its coil wants all the coils of its own button. What lies on the boards as it was made is followed from each button.",
  look: (look) =>
    ofMatrices(look, (matrix) =>
      reachesOf(matrix).flatMap((reach): Sneak[] =>
        // a diode that lies the wrong way round has a finding of its own
        reach.astray.every(({ way }) => way.some((step) => isTurned(matrix, step)))
          ? []
          : [
              {
                matrix,
                reach,
                record: look.record,
                threads: threadsOfCoils(
                  look.threads,
                  reach.astray.map(({ coil }) => coil),
                ),
              },
            ],
      ),
    ),
  subject: ({ reach }) => reach.row.key.replace(" ", "-"),
  where: ({ record, reach }) => rowWords(record, reach.row),
  turnouts: ({ threads }) => threads,
  terminals: ({ matrix, reach }) => [
    ...new Set(
      (reach.astray[0]?.way ?? []).flatMap(({ boardId, from, to }) => {
        const label = matrix.boards.find(({ id }) => id === boardId)?.label ?? boardId;
        return [`${label}-${from}`, `${label}-${to}`];
      }),
    ),
  ],
  why: ({ record, reach }) => {
    const [first] = reach.astray;
    const others = reach.astray.slice(1).map(({ coil }) => coilWords(record, coil));
    const more = others.length > 0 ? ` So it comes to ${list(others)} as well.` : "";
    return `${rowWords(record, reach.row)} energises ${first ? coilWords(record, first.coil) : ""}, which it does not ask: ${wayWords(first?.way ?? [])}.${more}`;
  },
  remedies: ({ matrix }, { record }) => [...diodesInPlace(record, matrix), ...withoutStrays(record, matrix)],
});

/** The way of current over the boards, in words. */
function wayWords(way: readonly Step[]): string {
  return way
    .map(({ from, to, with: by }, index) => {
      const back = to.startsWith("I") ? " back up" : "";
      return `${index === 0 ? `from ${from}` : ""} ${by === "wire" ? `by the plain wire${back}` : `by the diode${back}`} to ${to}`.trim();
    })
    .join(", ");
}

/** Diodes where plain wires were put that need one. */
function diodesInPlace(record: RailwayRecord, matrix: Matrix): Remedy[] {
  const { joins } = constructionOf("fewest", matrix.wishes);
  const places = placesOf(
    matrix,
    joins.filter((join) => join.with === "diode"),
  );
  const draft = new Draft(record);
  const changed = record.boardParts.filter((part) => part.with === "wire" && places.has(placeOf(part.deviceId, part)));
  for (const part of changed) {
    const [from, to] = part.to.startsWith("I") ? [part.to, part.from] : [part.from, part.to];
    draft.put("boardPart", { ...part, from, to, with: "diode", turned: false, madeAt: null });
  }
  const [only] = changed;
  if (!only) return [];
  const label =
    changed.length === 1
      ? `Put a diode in place of the wire ${only.from} to ${only.to}`
      : `Put diodes in place of ${changed.length} plain wires`;
  return [{ label, group: draft.group(label) }];
}

/** Takes out what no route asks for. */
function withoutStrays(record: RailwayRecord, matrix: Matrix): Remedy[] {
  const places = placesOf(matrix, [...constructionOf("full", matrix.wishes).joins, ...matrix.construction.joins]);
  const ids = new Set(matrix.boards.map(({ id }) => id));
  const strays = record.boardParts.filter(
    (part) => ids.has(part.deviceId) && !places.has(placeOf(part.deviceId, part)),
  );
  if (strays.length === 0) return [];
  const draft = new Draft(record);
  for (const { id } of strays) draft.remove("boardPart", id);
  const [only] = strays;
  const label =
    strays.length === 1
      ? `Take out what lies between ${only?.from} and ${only?.to}`
      : `Take out ${strays.length} parts that no route asks for`;
  return [{ label, group: draft.group(label) }];
}

function placesOf({ rows, coils }: Matrix, joins: readonly { from: string; to: string }[]): Set<string> {
  const rowOf = new Map(rows.map((row) => [row.key, row]));
  const coilOf = new Map(coils.map((coil) => [coil.key, coil]));
  return new Set(
    joins.flatMap(({ from, to }) => {
      const coil = coilOf.get(to);
      const terminal = coil && rowOf.get(from)?.terminals.get(coil.boardId);
      return coil && terminal ? [placeOf(coil.boardId, { from: terminal, to: coil.terminal })] : [];
    }),
  );
}

/** Whether a step goes through a diode that lies the wrong way round. */
function isTurned({ joins }: Matrix, { boardId, from, to }: Step): boolean {
  return joins.some((join) => join.turned && join.boardId === boardId && join.from === to && join.to === from);
}
