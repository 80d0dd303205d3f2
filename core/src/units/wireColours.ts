/** Wire colours by their two-letter codes, IEC 60757. */
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
} as const;

export type WireColour = keyof typeof WIRE_COLOURS;
