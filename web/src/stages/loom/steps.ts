import type { LoomProgress, Wire, WireStep, WorkPlace } from "@alderman/core";

/** The steps of work on a wire, by what their columns and buttons are called. */
export const STEPS: readonly { step: WireStep; title: string; about: (wire: Wire) => string }[] = [
  { step: "cutAt", title: "Cut", about: () => "cut" },
  { step: "labelledAt", title: "Flags", about: () => "labelled at both ends" },
  { step: "fromJoinedAt", title: "At from", about: ({ from }) => `joined at ${from.name}` },
  { step: "toJoinedAt", title: "At to", about: ({ to }) => `joined at ${to.name}` },
  { step: "testedAt", title: "Test", about: () => "tested" },
];

/** Parts of the work, by where it is done. */
export const PARTS: readonly { part: keyof LoomProgress; words: string }[] = [
  { part: "cut", words: "Cut" },
  { part: "labelled", words: "Labelled" },
  { part: "bench", words: "Joined at the bench" },
  { part: "front", words: "Joined in front" },
  { part: "underneath", words: "Joined underneath" },
  { part: "tested", words: "Tested" },
];

/** Which wires of the schedule are shown, by what is left to do on them. */
export const WANTED = [
  { value: "all", text: "All wires" },
  { value: "cut", text: "To be cut" },
  { value: "labelled", text: "To be labelled" },
  { value: "bench", text: "To be joined at the bench" },
  { value: "front", text: "To be joined in front" },
  { value: "underneath", text: "To be joined underneath" },
  { value: "tested", text: "To be tested" },
  { value: "made", text: "Begun" },
  { value: "kept", text: "Kept as they are" },
] as const;
export type Wanted = (typeof WANTED)[number]["value"];

/** Whether a wire is among those that are wanted. */
export function isWanted({ fact, from, to, standing }: Wire, wanted: Wanted): boolean {
  const isOpen = (work: WorkPlace) =>
    (from.work === work && !fact?.fromJoinedAt) || (to.work === work && !fact?.toJoinedAt);
  switch (wanted) {
    case "all":
      return true;
    case "cut":
      return !fact?.cutAt;
    case "labelled":
      return !fact?.labelledAt;
    case "bench":
    case "front":
    case "underneath":
      return isOpen(wanted);
    case "tested":
      return !fact?.testedAt;
    case "made":
      return standing === "made";
    case "kept":
      return fact?.kept ?? false;
  }
}
