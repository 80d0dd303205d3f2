// Formatters are made once: making one takes milliseconds, and some stand where much is drawn.

const DATE_AND_TIME = new Intl.DateTimeFormat([], { dateStyle: "medium", timeStyle: "short" });
const SHORT = new Intl.DateTimeFormat([], { day: "numeric", month: "short", hour: "2-digit", minute: "2-digit" });
const TIME = new Intl.DateTimeFormat([], { hour: "2-digit", minute: "2-digit" });
const DATE = new Intl.DateTimeFormat([]);

/** Moments (ISO 8601) as the owner's locale writes them. */
export const dateAndTime = (at: string): string => DATE_AND_TIME.format(new Date(at));
export const shortDateAndTime = (at: string): string => SHORT.format(new Date(at));
export const time = (at: string): string => TIME.format(new Date(at));
export const date = (at: string): string => DATE.format(new Date(at));

/** How far a clock may be behind what was done before, milliseconds: another time zone or a slow clock is no matter. */
const BEHIND = 24 * 3600 * 1000;

/** Whether a clock stands at least a day before something that was done already, so that it must be wrong. */
export const isClockBehind = (done: readonly string[], now: number): boolean =>
  done.some((at) => Date.parse(at) - now > BEHIND);
