import {
  asksBy,
  controlsOf,
  isCut,
  type Position,
  sideMade,
  staysMade,
  type Thread,
  type ThreadControl,
  type ThreadReading,
  traitsOf,
  wayName,
} from "@alderman/core";

/** Of a turnout's controls those that can ask for a position. */
export function controlsAsking(thread: Thread, position: Position): ThreadControl[] {
  return controlsOf(thread).filter(({ assignment: { to } }) => to === null || to === position);
}

/** A thread with the control by which it is thrown to a position before the others: the chosen one where it can ask for that. */
export function thrownBy(thread: Thread, by: string | undefined, position: Position): Thread {
  const asking = controlsAsking(thread, position);
  const used = asking.find(({ assignment }) => assignment.id === by) ?? asking[0];
  if (!used || used === thread.control) return thread;
  return { ...thread, control: used, moreControls: controlsOf(thread).filter((control) => control !== used) };
}

/** On which side a control is made in the moment that is looked at. */
export function madeNow(
  control: ThreadControl,
  reading: ThreadReading | null,
  by: string | undefined,
): Position | null {
  const used = by === undefined || by === control.assignment.id;
  if (!reading || (!staysMade(control) && (reading.moment === "rest" || !used))) return null;
  const { to, follows } = control.assignment;
  if (to !== null && to !== reading.position) return null;
  const side = sideMade(control, reading.position);
  // a train stands on a stretch that is followed, or does not
  return follows && control.type.zones !== undefined && side === "N" ? null : side;
}

/** What stands below the control: how it is made, and what it does when let go. */
export function controlWords(control: ThreadControl, made: Position | null): [string, string] {
  const { maintained, zones, drives } = control.type;
  const asks = asksBy(control);
  const { to, follows } = control.assignment;
  if (zones) return [made ? "occupied" : "clear", follows ? "is followed" : to ? `asks for ${to}` : "changes over"];
  if (drives) return [made ? `stands at ${made}` : "", "a decoder's output"];
  if (asks === "press") return [made ? "pressed" : "let go", to ? `asks for ${to}` : "changes over"];
  return [
    made ? `${asks === "poles" ? "made at" : "C to"} ${made}${asks === "poles" ? "" : " closed"}` : "all open",
    follows ? "is followed" : maintained ? "stays where put" : "springs back",
  ];
}

/** What decides whether a control acts, in a few words; null where nothing does. */
export function lockWords(control: ThreadControl): string | null {
  const { lock } = control;
  if (!lock) return null;
  if (!isCut(control)) return `unless ${lock.device.label} bars it`;
  return lock.way === null ? `through ${lock.device.label}` : `through ${lock.device.label}-S${lock.way}`;
}

/** What a control is called in a heading. */
export function controlName(control: ThreadControl): string {
  const { type } = control;
  const own = type.id === "push-pair" ? "Buttons" : NAMES[type.model];
  const inTrack = traitsOf(type).inTrack === "spot-sensor" ? "Spot" : "Zone";
  return `${own ?? (type.zones ? inTrack : type.drives ? "Output" : "Control")} ${controlLabel(control)}`;
}

/** A control by its label, and the way of it that commands, as "BD1-2". */
export function controlLabel({ device, assignment: { way } }: ThreadControl): string {
  return wayName(device.label, way);
}

const NAMES: Partial<Record<ThreadControl["type"]["model"], string>> = {
  "momentary-toggle": "Toggle",
  "latching-toggle": "Toggle",
  "reversing-toggle": "Toggle",
  "push-button": "Button",
  "push-poles": "Button",
  rotary: "Rotary",
  "touch-button": "Touch",
};

/** A control as it is named in a list of several, as "BD1-2 to R". */
export function controlInWords(control: ThreadControl): string {
  const { to, inverse, follows } = control.assignment;
  if (control.route) return `${controlLabel(control)}, ${control.route.label}`;
  return `${controlLabel(control)}${to ? ` to ${to}` : ""}${inverse ? " inverse" : ""}${follows ? " followed" : ""}`;
}
