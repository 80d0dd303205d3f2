/** What a meter said, and what it should have said; null for open. */
interface Said {
  expected: number | null;
  low: number | null;
  high: number | null;
  read: number | null;
}

/** How a reading differs from what it should be. */
export type Sign =
  | "agrees"
  /** More than it should be, or something where there should be nothing. */
  | "over"
  /** Less than it should be. */
  | "under"
  /** Nothing. */
  | "zero"
  /** As much as it should be, or something like it, the other way round. */
  | "reversed"
  /** The meter shows open. */
  | "open";

/** Of what is expected no more than this share counts as nothing (common practice). */
const NOTHING = 0.05;

/** How a reading differs from what it should be: a meter on the right range in the right place. */
export function signOf({ expected, low, high, read }: Said): Sign {
  if (read === null) return expected === null ? "agrees" : "open";
  if (expected === null || low === null || high === null) return "over";
  if (read >= low && read <= high) return "agrees";
  if (Math.abs(read) <= Math.abs(expected) * NOTHING) return "zero";
  if (expected !== 0 && Math.sign(read) !== Math.sign(expected)) return "reversed";
  return Math.abs(read) > Math.abs(expected) ? "over" : "under";
}

/** What a sign means for volts. */
const VOLTS: Record<Sign, string> = {
  agrees: "It agrees.",
  over: "More than it should be: nothing takes current here. The motor or a lead behind is open, or the motor is still moving; wait until it stands.",
  under:
    "Less than it should be: volts are lost in a bad joint before this place, or something behind it takes too much.",
  zero: "Nothing: the way here is open, the supply is off, or something behind is a short. Take the lead off here: if the volts come back, look behind it.",
  reversed: "The other way round: two leads are exchanged before this place, or the probes are.",
  open: "Nothing steady: nothing joins the two probes.",
};

/** What a sign means for ohms. */
const OHMS: Record<Sign, string> = {
  agrees: "It agrees.",
  over: "More than it should be: a bad joint, a thin strand, or the wrong winding.",
  under: "Less than it should be: something lies beside it, or part of the winding is shorted.",
  zero: "A short: two leads touch, or the winding is burnt through.",
  reversed: "Set the meter to zero and measure again.",
  open: "Open: the winding is broken, or a lead has come off.",
};

/** What a sign means for a diode. */
const DIODES: Record<Sign, string> = {
  agrees: "It agrees.",
  over: "More than a diode drops: a bad joint, or two of them in a row.",
  under: "Less than a diode drops: something lies beside it.",
  zero: "A short: a plain wire lies here, the diode has burnt through, or two joints touch.",
  reversed: "The probes are exchanged.",
  open: "Open: the diode lies the wrong way round, is broken, or a joint of it is.",
};

/** What to make of a reading that is not as it should be, in a sentence or two. */
export function signWords(unit: "V" | "ohm" | "diode", sign: Sign): string {
  return { V: VOLTS, ohm: OHMS, diode: DIODES }[unit][sign];
}
