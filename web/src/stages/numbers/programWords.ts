import { findType, type OutputAddress, type ProgrammingStep, type RailwayRecord } from "@alderman/core";

/** The steps of a type's procedure with the numbers in hand; a plain one for a type that has none of its own. */
export function programWords(
  record: RailwayRecord,
  { deviceId, ways, address }: ProgrammingStep,
  outputs: readonly OutputAddress[],
): string[] {
  const device = record.devices.find(({ id }) => id === deviceId);
  const type = device && findType(record, device.typeId);
  const [way = 1] = ways;
  const thrown = outputs.find((output) => output.deviceId === deviceId && output.way === way)?.throws;
  const filled = (text: string) => text.replaceAll("{output}", String(way)).replaceAll("{address}", String(address));
  const tried = `Throw ${address} to diverging and back: ${thrown ? `${thrown} moves` : `output ${way} follows`}, and nothing else does.`;
  const procedure = type?.programming;
  if (!procedure)
    return [`Put ${device?.label ?? "the board"} into programming.`, `Send ${address} to output ${way}.`, tried];
  const { choose, enter, shows, send, leave } = procedure;
  return [...[choose, enter, shows, send, leave].map(filled), tried];
}
