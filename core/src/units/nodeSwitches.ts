/** A switch or jumper of a node, as it must be set. */
export interface NodeSwitch {
  bit: number;
  weight: number;
  position: "on" | "off";
}

/**
 * How the switches of a node must be set for its number: number = offset + sum of weight x bit, bit 0 weighing 1.
 * @param onMeans for each bit, what a switch that is on stands for: 1, or 0 where switches are inverted
 * @throws {RangeError} when the switches cannot say the number
 * @example nodeSwitches(16, [0, 0, 0, 0, 1, 1], 1).every(({ position }) => position === "off") // true
 */
export function nodeSwitches(number: number, onMeans: readonly (0 | 1)[], offset: number): NodeSwitch[] {
  const most = 2 ** onMeans.length - 1;
  const value = number - offset;
  if (!Number.isInteger(number) || value < 0 || value > most)
    throw new RangeError(`${onMeans.length} switches say numbers ${offset} to ${offset + most}, not ${number}.`);
  return onMeans.map((meaning, bit) => {
    const weight = 2 ** bit;
    const isSet = Math.floor(value / weight) % 2;
    return { bit, weight, position: isSet === meaning ? "on" : "off" };
  });
}

/** The number that switches say. @param on for each bit whether its switch is on */
export function nodeNumber(on: readonly boolean[], onMeans: readonly (0 | 1)[], offset: number): number {
  return onMeans.reduce<number>(
    (sum, meaning, bit) => sum + (Number(on[bit] ?? false) === meaning ? 2 ** bit : 0),
    offset,
  );
}
