import { rowWords } from "../diodes/words.ts";
import { Draft } from "../equip/draft.ts";
import { press } from "../readings/presses.ts";
import type { RailwayRecord } from "../record/kinds.ts";
import type { BoardJoin, MatrixRow } from "../routes/boards.ts";
import { fitted, type Thread } from "../schematic/thread.ts";
import { amps } from "../units/format.ts";
import { ofChargedMatrices, threadsOfCoils } from "./ofMatrices.ts";
import { fitWithFigures } from "./remedies.ts";
import { rule } from "./rule.ts";

interface Over {
  join: BoardJoin;
  board: string;
  flows: number;
  limit: number;
  row: MatrixRow;
  record: RailwayRecord;
  threads: Thread[];
}

export const diodeOverSurge = rule<Over>({
  id: "diode-over-surge",
  stage: "routes",
  column: null,
  severity: "stop",
  title: "A diode takes more than it bears in a pulse",
  about:
    "A rectifier of one ampere bears some 30 A for the eight milliseconds of one half wave (from memory; the owner's data sheet counts). A coil of four ohms takes less; where one diode feeds a wire that several coils hang on, their currents add up. The rule presses every button and looks at each diode's first instant, in which the coils' inductance does not help yet.",
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
          worst.set(join.boardId, { join, board: device.label, flows, limit, row, record: look.record, threads });
        }
      }
      return [...worst.values()];
    }),
  subject: ({ join }) => join.boardId,
  where: ({ board }) => board,
  terminals: ({ board, join }) => [`${board}-${join.from}`, `${board}-${join.to}`],
  turnouts: ({ threads }) => threads,
  why: ({ board, join, flows, limit, row, record }) =>
    `With ${rowWords(record, row)} pressed, ${amps(flows)} go through the diode from ${join.from} to ${join.to} of ${board}; it bears ${amps(limit)}.`,
  remedies: ({ join, flows }, { record }) => {
    const board = fitted(record, join.boardId);
    const { label: name } = board.device;
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
