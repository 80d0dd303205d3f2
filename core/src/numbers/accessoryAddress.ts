/**
 * Where an accessory address, as the owner says it, lands in the packets.
 *
 * Sources: NMRA S-9.2.1 and RCN-213: raw = user address + 3; decoder = raw div 4, pair = raw mod 4; decoder 511 is the
 * broadcast address. A command station that counts from raw 0 stands four off (`shift` 4).
 * @param address as the command station shows it
 * @param shift 0, or 4 for a station that counts from raw 0
 * @returns decoder, pair 0 to 3 and raw address
 * @throws {RangeError} when no decoder can have the address
 * @example accessoryAddress(117, 0) // { decoder: 30, pair: 0, raw: 120 }
 */
export function accessoryAddress(address: number, shift: 0 | 4): { decoder: number; pair: number; raw: number } {
  const raw = address + 3 - shift;
  const least = shift === 0 ? 1 : 0;
  const decoder = Math.floor(raw / 4);
  if (!Number.isInteger(address) || decoder < least || decoder > 510) {
    const { first, last } = addressRange(shift);
    throw new RangeError(`Address ${address} is not between ${first} and ${last}.`);
  }
  return { decoder, pair: raw % 4, raw };
}

/** First and last accessory address that a decoder can have. */
export function addressRange(shift: 0 | 4): { first: number; last: number } {
  return { first: 1, last: shift === 0 ? 2040 : 2044 };
}
