import { coilWords, rowWords } from "../diodes/words.ts";
import { setPart } from "../equip/diodeBoards.ts";
import { find } from "../record/find.ts";
import type { BoardPart } from "../record/routes.ts";
import type { Device } from "../record/schemas.ts";
import { reachesOf } from "../routes/asBuilt.ts";
import type { Thread } from "../schematic/thread.ts";
import { ofMatrices, threadsOfCoils } from "./ofMatrices.ts";
import { rule } from "./rule.ts";

interface Turned {
  board: Device;
  part: BoardPart;
  /** What it keeps from what, in words; "" where nothing is missed. */
  missed: string;
  threads: Thread[];
}

export const diodeTurned = rule<Turned>({
  id: "diode-turned",
  stage: "routes",
  column: null,
  severity: "stop",
  title: "A diode lies the wrong way round",
  about:
    "The band of a diode is its cathode, and belongs to the coil's side. Turned round it lets nothing through from its button to its coil, and lets current back from the coil into the button's row. A meter on its diode range shows some 0.6 V with the red probe at the button's side, and open the other way round.",
  look: (look) =>
    ofMatrices(look, (matrix) => {
      const reaches = reachesOf(matrix);
      return look.record.boardParts.flatMap((part): Turned[] => {
        const board = matrix.boards.find(({ id }) => id === part.deviceId);
        if (!board || part.with !== "diode" || !part.turned) return [];
        const coil = matrix.coils.find(({ boardId, terminal }) => boardId === board.id && terminal === part.to);
        const reach = reaches.find(
          ({ row, missed }) => row.terminals.get(board.id) === part.from && coil && missed.includes(coil),
        );
        const missed =
          reach && coil ? `${rowWords(look.record, reach.row)} does not reach ${coilWords(look.record, coil)}` : "";
        return [{ board, part, missed, threads: threadsOfCoils(look.threads, coil ? [coil] : []) }];
      });
    }),
  subject: ({ part }) => part.id,
  where: ({ board }) => board.label,
  terminals: ({ board, part }) => [`${board.label}-${part.from}`, `${board.label}-${part.to}`],
  turnouts: ({ threads }) => threads,
  why: ({ board, part, missed }) =>
    `The diode between ${part.from} and ${part.to} of ${board.label} has its band at ${part.from}${missed ? `: ${missed}` : ""}.`,
  remedies: ({ part }, { record }) => {
    if (!find(record, "device", part.deviceId)) return [];
    const group = setPart(record, part.deviceId, [part.from, part.to], {
      with: "diode",
      turned: false,
      madeAt: part.madeAt,
    });
    return [{ label: "Turn it round", group }];
  },
});
