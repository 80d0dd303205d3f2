import { coilWords, rowWords } from "../diodes/words.ts";
import { joinRows, rowsMissing } from "../equip/diodeBoards.ts";
import { Draft } from "../equip/draft.ts";
import { deviceOf, find } from "../record/find.ts";
import { reachesOf } from "../routes/asBuilt.ts";
import { type BoardJoin, type MatrixCoil, type MatrixRow, rowKey } from "../routes/boards.ts";
import { wayName } from "../schematic/nets.ts";
import type { Thread } from "../schematic/thread.ts";
import { list } from "../units/format.ts";
import { ofMatrices, threadsOfCoils } from "./ofMatrices.ts";
import { rule } from "./rule.ts";

interface Unreached {
  key: string;
  where: string;
  why: string;
  /** The button has no terminal on a board of its route. */
  unwired: boolean;
  threads: Thread[];
}

export const routeUnreached = rule<Unreached>({
  id: "route-unreached",
  stage: "routes",
  column: null,
  severity: "stop",
  title: "A route's button does not reach a coil",
  about:
    "Each coil that a route asks for hangs on its button by a wire or a diode of a board. The rule follows the button's current over the boards as they were made; and where turnouts of one route hang on several boards, the button's wire has to lead to all of them.",
  look: (look) => {
    const { record, threads } = look;
    const missed = ofMatrices(look, (matrix) =>
      reachesOf(matrix).flatMap(({ row, missed: all }): Unreached[] => {
        const coils = all.filter((coil) => !isTurned(matrix.joins, row, coil));
        if (coils.length === 0) return [];
        const names = list(coils.map((coil) => coilWords(record, coil)));
        const where = rowWords(record, row);
        const why = `As the board was made, ${where} does not reach ${names}.`;
        return [
          { key: row.key.replace(" ", "-"), where, why, unwired: false, threads: threadsOfCoils(threads, coils) },
        ];
      }),
    );
    const apart = rowsMissing(record).map(({ boardId, deviceId, way, routeId }): Unreached => {
      const board = deviceOf(record, boardId).label;
      const where = wayName(deviceOf(record, deviceId).label, way);
      const route = find(record, "route", routeId)?.label ?? routeId;
      return {
        ...{ key: `${rowKey(deviceId, way).replace(" ", "-")} ${boardId}`, where, unwired: true },
        why: `${where} asks for ${route} and has no terminal on ${board}, where turnouts of it hang.`,
        threads: threads.filter(({ motors }) => motors.some(({ driver }) => driver?.device.id === boardId)),
      };
    });
    return [...missed, ...apart];
  },
  subject: ({ key }) => key,
  where: ({ where }) => where,
  turnouts: ({ threads }) => threads,
  why: ({ why }) => why,
  remedies: ({ unwired }, { record }) => {
    if (!unwired) return [];
    const draft = new Draft(record);
    joinRows(draft);
    return [{ label: "Join it to the board", group: draft.group("Joined buttons to the boards of their routes") }];
  },
});

/** Whether a diode lies the wrong way round between a row and a coil: that is a finding of its own. */
function isTurned(joins: readonly BoardJoin[], row: MatrixRow, coil: MatrixCoil): boolean {
  return joins.some(
    ({ boardId, from, to, turned }) =>
      turned && boardId === coil.boardId && row.terminals.get(boardId) === from && to === coil.terminal,
  );
}
