/** Which list of the loom is shown below the drawing. */
export type LoomList = "wires" | "things" | "parts" | "colours";

export const LOOM_LISTS: readonly { value: LoomList; text: string }[] = [
  { value: "wires", text: "Wires" },
  { value: "things", text: "Strips and cables" },
  { value: "parts", text: "Parts" },
  { value: "colours", text: "Colours" },
];
