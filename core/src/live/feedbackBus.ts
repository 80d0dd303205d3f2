import type { EncoderUnit, Hardware } from "./hardware.ts";

/** What can be amiss with the stand-in of a feedback bus. */
export const FEEDBACK_FAULTS = {
  "no-answer": "it does not answer",
  babbles: "it says what nobody did",
} as const;
export type FeedbackFault = keyof typeof FEEDBACK_FAULTS;

/** Encoders on a feedback bus, as a stand-in: an input that is worked goes over the bus by its number. PRESS FE1 3; RELEASE FE1 3. */
export class FeedbackBus {
  private readonly encoders: Map<string, EncoderUnit>;

  constructor({ encoders }: Hardware) {
    this.encoders = new Map(encoders.map((unit) => [unit.label, unit]));
  }

  answer(line: string): string[] {
    const [word = "", label = "", way = ""] = line.trim().split(/\s+/);
    const unit = this.encoders.get(label);
    const input = Number(way);
    if (!unit) return [`ERR there is no encoder ${label || "without a name"}`];
    if (!(input >= 1 && input <= unit.inputs)) return [`ERR ${label} has no input ${way}`];
    const upper = word.toUpperCase();
    if (upper !== "PRESS" && upper !== "RELEASE") return [`ERR ${word} is no command; PRESS and RELEASE are`];
    return [`INPUT ${unit.start + input - 1} ${upper === "PRESS" ? 1 : 0}`, "OK"];
  }
}
