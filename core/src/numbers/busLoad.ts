/** Bits of identifier and control that may be stuffed: 34 with an 11-bit identifier, 54 with 29 (Davis and others, 2007). */
const STUFFED = { 11: 34, 29: 54 };

/**
 * Worst-case length of a CAN data frame with stuffing and inter-frame space, bits: g + 8 s + 13 + floor((g + 8 s - 1) / 4)
 * (ISO 11898; R. Davis, A. Burns, R. Bril, J. Lukkien: Controller Area Network (CAN) schedulability analysis, 2007).
 * @param dataBytes 0 to 8
 * @example frameBits(29, 8) // 160
 */
export function frameBits(identifierBits: 11 | 29, dataBytes: number): number {
  const stuffed = STUFFED[identifierBits] + 8 * dataBytes;
  return stuffed + 13 + Math.floor((stuffed - 1) / 4);
}
