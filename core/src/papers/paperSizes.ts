/** Size of paper, millimetres. */
export interface PaperSize {
  width: number;
  height: number;
}

/** ISO 216 and ANSI/ASME Y14.1 (Letter is 8.5 by 11 in). */
export const PAPER_SIZES = {
  A4: { width: 210, height: 297 },
  A5: { width: 148, height: 210 },
  Letter: { width: 215.9, height: 279.4 },
} as const satisfies Record<string, PaperSize>;
export type PaperSizeName = keyof typeof PAPER_SIZES;
