/** Which list of the loom is shown below the drawing. */
export type LoomList = "wires" | "tasks" | "things" | "parts" | "colours";

export const LOOM_LISTS: readonly { value: LoomList; text: string }[] = [
  { value: "wires", text: "Wires" },
  { value: "tasks", text: "Order of work" },
  { value: "things", text: "Strips, cables" },
  { value: "parts", text: "Parts" },
  { value: "colours", text: "Colours" },
];
