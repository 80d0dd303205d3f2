import type { Joiner } from "../nets.ts";
import type { Fitted } from "../thread.ts";

/** The two terminals that a supply or a board has for power, plus first. */
export function powerTerminals({ type }: Fitted): [string, string] {
  if (type.model === "cdu" || type.model === "ac-supply") return ["~1", "~2"];
  if (type.model === "track-bus") return ["J", "K"];
  return ["+", "−"];
}

/** Two wires from a supply to a board: a discharge unit or a decoder. */
export function supplyToBoard(supply: Fitted, board: Fitted, joiner: Joiner): void {
  const [from, fromReturn] = powerTerminals(supply);
  const [to, toReturn] = powerTerminals(board);
  const ac = supply.type.model === "ac-supply";
  const wire = (terminal: string, toTerminal: string) => [
    { deviceId: supply.device.id, terminal },
    { deviceId: board.device.id, terminal: toTerminal },
  ];
  joiner.join(ac ? "ac-1" : "dc-plus", null, wire(from, to));
  joiner.join(ac ? "ac-2" : "dc-zero", null, wire(fromReturn, toReturn));
}

/** Two wires from the track bus to a decoder: they bring its commands, whatever feeds it. */
export function trackToDecoder(track: Fitted, decoder: Fitted, joiner: Joiner): void {
  for (const [purpose, terminal] of [
    ["track-j", "J"],
    ["track-k", "K"],
  ] as const) {
    joiner.join(purpose, null, [
      { deviceId: track.device.id, terminal },
      { deviceId: decoder.device.id, terminal },
    ]);
  }
}
