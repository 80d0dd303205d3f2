/** Wire colours by their codes, IEC 60757; two codes together are a wire of two colours, here white with a stripe. */
export const WIRE_COLOURS = {
  BK: "black",
  BN: "brown",
  RD: "red",
  OG: "orange",
  YE: "yellow",
  GN: "green",
  BU: "blue",
  VT: "violet",
  GY: "grey",
  WH: "white",
  PK: "pink",
  TQ: "turquoise",
  WHBU: "white and blue",
  WHOG: "white and orange",
  WHVT: "white and violet",
  WHRD: "white and red",
  WHYE: "white and yellow",
  WHGN: "white and green",
  WHBN: "white and brown",
  WHGY: "white and grey",
  WHBK: "white and black",
  WHPK: "white and pink",
  WHTQ: "white and turquoise",
  YEBK: "yellow and black",
} as const;

export type WireColour = keyof typeof WIRE_COLOURS;
export const WIRE_COLOUR_CODES = Object.keys(WIRE_COLOURS) as [WireColour, ...WireColour[]];
