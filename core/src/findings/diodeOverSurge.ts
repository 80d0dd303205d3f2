import { rowWords } from "../diodes/words.ts";
import { Draft } from "../equip/draft.ts";
import { press } from "../readings/presses.ts";
import { AT_REST } from "../readings/threadReading.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { BoardJoin, Matrix, MatrixRow } from "../routes/boards.ts";
import { fitted, type Thread } from "../schematic/thread.ts";
import { amps, volts } from "../units/format.ts";
import { ofChargedMatrices, threadsOfCoils } from "./ofMatrices.ts";
import { fitWithFigures } from "./remedies.ts";
import { type Look, rule } from "./rule.ts";

interface Over {
  join: BoardJoin;
  board: string;
  /** Amps through it, or volts backwards across it, and what it bears of that. */
  flows: number;
  limit: number;
  unit: "A" | "V";
  row: MatrixRow;
  record: RailwayRecord;
  threads: Thread[];
}

export const diodeOverSurge = rule<Over>({
  id: "diode-over-surge",
  stage: "routes",
  column: null,
  severity: "stop",
  title: "A diode takes more than it bears",
  about:
    "A rectifier of one ampere bears some 30 A for the eight milliseconds of one half wave (from memory; the owner's data sheet counts). A coil of four ohms takes less; where one diode feeds a wire that several coils hang on, their currents add up. The rule presses every button and looks at each diode's first instant, in which the coils' inductance does not help yet. Backwards a diode sees at most what the unit is charged to.",
  look: (look) =>
    ofChargedMatrices(look, (matrix) => {
      const worst = new Map<string, Over>();
      for (const row of matrix.rows) {
        const pressed = press(look.circuitry, look.threads, matrix, row);
        for (const { join, amps: flows } of pressed?.parts ?? []) {
          const { device, type } = fitted(look.record, join.boardId);
          const limit = type.figures.surgeAmps?.value ?? Number.POSITIVE_INFINITY;
          if (join.with !== "diode" || flows <= limit || flows <= (worst.get(join.boardId)?.flows ?? 0)) continue;
          const coils = pressed?.coils.filter(({ isWanted }) => isWanted).map(({ coil }) => coil) ?? [];
          const threads = threadsOfCoils(look.threads, coils);
          const unit = "A" as const;
          worst.set(join.boardId, { join, board: device.label, flows, limit, unit, row, record: look.record, threads });
        }
      }
      return [...worst.values(), ...backwards(look, matrix)];
    }),
  subject: ({ join }) => join.boardId,
  where: ({ board }) => board,
  terminals: ({ board, join }) => [`${board}-${join.from}`, `${board}-${join.to}`],
  turnouts: ({ threads }) => threads,
  why: ({ board, join, flows, limit, unit, row, record }) =>
    unit === "V"
      ? `The diode from ${join.from} to ${join.to} of ${board} may see ${volts(flows)} backwards, all that its unit is charged to; it bears ${volts(limit)}.`
      : `With ${rowWords(record, row)} pressed, ${amps(flows)} go through the diode from ${join.from} to ${join.to} of ${board}; it bears ${amps(limit)}.`,
  remedies: ({ join, flows, unit }, { record }) => {
    const board = fitted(record, join.boardId);
    const { label: name } = board.device;
    if (unit === "V") {
      const bears = USUAL_REVERSE.find((each) => each >= flows * 2);
      if (bears === undefined) return [];
      const own = new Draft(record);
      fitWithFigures(own, board, `diodes of ${bears} V, ${name}`, { reverseVolts: bears });
      const label = `Take diodes of ${bears} V on ${name}`;
      return [{ label, group: own.group(label) }];
    }
    const limit = USUAL_SURGE.find((each) => each >= flows * 1.1);
    if (limit === undefined) return [];
    const draft = new Draft(record);
    fitWithFigures(draft, board, `diodes that bear ${limit} A, ${name}`, { surgeAmps: limit });
    const label = `Take diodes that bear ${limit} A on ${name}`;
    return [{ label, group: draft.group(label) }];
  },
});

/** What rectifiers of 1, 3 and 6 A bear for one half wave, amps (from memory). */
const USUAL_SURGE = [30, 200, 400];

/** What rectifiers bear backwards, volts (1 A series, from memory). */
const USUAL_REVERSE = [50, 100, 200, 400, 600, 1000];

/** Boards whose diodes bear less backwards than their unit is charged to: between two of its rows all of that may stand. */
function backwards({ record, circuitry, threads }: Look, matrix: Matrix): Over[] {
  const charged = matrix.unitIds.map((id) => Math.abs(circuitry.volts(`${id}:+`, `${id}:−`, AT_REST.N) ?? 0));
  const flows = Math.max(0, ...charged);
  return matrix.boards.flatMap((board): Over[] => {
    const { device, type } = fitted(record, board.id);
    const limit = type.figures.reverseVolts?.value ?? Number.POSITIVE_INFINITY;
    const row = matrix.rows[0];
    const join = row && press(circuitry, threads, matrix, row)?.parts.find(({ join }) => join.with === "diode")?.join;
    if (!join || flows <= limit) return [];
    return [{ join, board: device.label, flows, limit, unit: "V", row, record, threads: [] }];
  });
}
