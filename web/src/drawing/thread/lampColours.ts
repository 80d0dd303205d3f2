import type { DeviceType } from "@alderman/core";

/** How a lamp's colour is drawn: a fill, the ink on it, and a short word for it. */
export interface LampColour {
  fill: string;
  ink: string;
  short: string;
}

/** Colours that are drawn as what they are, by a word in their name. */
const DRAWN: readonly [RegExp, Omit<LampColour, "short">][] = [
  [/green/, { fill: "var(--w-GN)", ink: "#fff" }],
  [/red/, { fill: "var(--w-RD)", ink: "#fff" }],
  [/yellow/, { fill: "var(--w-YE)", ink: "#15213A" }],
  [/orange|amber/, { fill: "var(--w-OG)", ink: "#15213A" }],
  [/blue/, { fill: "var(--w-BU)", ink: "#fff" }],
  [/violet|purple/, { fill: "var(--w-VT)", ink: "#fff" }],
  [/pink/, { fill: "var(--w-PK)", ink: "#15213A" }],
  [/white/, { fill: "var(--w-WH)", ink: "#15213A" }],
];

/** The colour of a lamp at normal or at reverse; one that is not known by its name is drawn grey, and named. */
export function lampColour({ colours }: DeviceType, side: "N" | "R"): LampColour {
  const name = colours?.[side === "N" ? 0 : 1] ?? "lamp";
  const [, drawn] = DRAWN.find(([word]) => word.test(name)) ?? [null, { fill: "var(--w-GY)", ink: "#15213A" }];
  return { ...drawn, short: name };
}
