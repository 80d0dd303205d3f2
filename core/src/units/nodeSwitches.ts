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

/** What the switches of a node stand for, as far as one number that was read tells. */
export interface Calibration {
  onMeans: (0 | 1)[];
  offset: number;
}

/**
 * What switches stand for so that they say a number that was read: as they are known, all of them counting when on or all when
 * off, or each the other way; the offset that is smallest.
 * @param on for each switch whether it is on, bit 0 first
 * @param known what they were taken to stand for
 * @returns null when no such way says the number
 * @example calibrate([false, false, false, false], 16, [1, 1, 1, 1]) // { onMeans: [0, 0, 0, 0], offset: 1 }
 */
export function calibrate(on: readonly boolean[], observed: number, known: readonly (0 | 1)[]): Calibration | null {
  const as = (meaning: (bit: number) => 0 | 1) => on.map((_, bit) => meaning(bit));
  const ways = [as((bit) => known[bit] ?? 1), as(() => 1), as(() => 0), as((bit) => (known[bit] === 0 ? 1 : 0))];
  const found = ways.map((onMeans) => ({ onMeans, offset: observed - nodeNumber(on, onMeans, 0) }));
  const possible = found.filter(({ offset }) => offset >= 0);
  return possible.sort((a, b) => a.offset - b.offset)[0] ?? null;
}
