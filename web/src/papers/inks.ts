import type { WireColour } from "@alderman/core";

/** The colours of wires as they are printed, by the first or last two letters of their codes; as the drawing has them by day. */
const INKS: Record<string, string> = {
  BK: "#24262b",
  BN: "#7b4a25",
  RD: "#c9281e",
  OG: "#e67e1f",
  YE: "#f4d22c",
  GN: "#2e8b43",
  BU: "#2c66bc",
  VT: "#7c4ba0",
  GY: "#8f949b",
  WH: "#ffffff",
  PK: "#f2a3b8",
  TQ: "#2aa7a1",
};

/** A wire's own colour and that of its stripe, the same for a plain one. */
export function inkPair(colour: WireColour): [body: string, stripe: string] {
  return [INKS[colour.slice(0, 2)] ?? "#ffffff", INKS[colour.slice(-2)] ?? "#ffffff"];
}
