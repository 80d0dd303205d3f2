import type { SenseLink } from "../record/notes.ts";

/** What turning normal into reverse at one place takes, and what becomes of it. Minutes are common practice, with no source. */
export interface Place {
  name: string;
  /** The name is of several things. */
  many?: true;
  /** How it is turned; null for a place that is found out but turned elsewhere. */
  turn: string | null;
  minutes: number;
  /** Where the change stands afterwards. */
  stored: string;
  /** A reset of the device undoes it. */
  reset: boolean;
  /** How it is found out, and the minutes that takes. */
  find: string;
  findMinutes: number;
}

/** The places between finger and lamp, in that order. */
export const PLACES: Record<SenseLink, Place> = {
  label: {
    name: "label, for its own line",
    turn: "Change the label",
    minutes: 3,
    stored: "on the panel",
    reset: false,
    find: "read it from its own line",
    findMinutes: 1,
  },
  control: {
    name: "control and its leads",
    turn: "Exchange the outer leads",
    minutes: 2,
    stored: "at the control",
    reset: false,
    find: "ohms from its common to each side, thrown both ways",
    findMinutes: 1,
  },
  input: {
    name: "sense of the input",
    turn: "Invert the input",
    minutes: 1,
    stored: "in the board's settings",
    reset: true,
    find: "volts at the input, thrown both ways",
    findMinutes: 2,
  },
  inputs: {
    name: "sense of all inputs",
    turn: "Invert all inputs",
    minutes: 1,
    stored: "in the board's settings",
    reset: true,
    find: "the board's settings, read back",
    findMinutes: 1,
  },
  event: {
    name: "event as taught",
    turn: "Teach it inverted",
    minutes: 2,
    stored: "in the node",
    reset: true,
    find: "the node's table, read back",
    findMinutes: 2,
  },
  setting: {
    name: "direction in the settings",
    turn: "Reverse it in the setting",
    minutes: 1,
    stored: "in the decoder",
    reset: true,
    find: "volts at the output, commanded both ways",
    findMinutes: 2,
  },
  "end-points": {
    name: "end points",
    many: true,
    turn: "Exchange the end points",
    minutes: 2,
    stored: "in the servo's board",
    reset: true,
    find: "the two values, read back",
    findMinutes: 1,
  },
  leads: {
    name: "leads at the motor",
    many: true,
    turn: "Swap the leads",
    minutes: 3,
    stored: "at the motor's terminals",
    reset: false,
    find: "ohms from each lead to the output, power off",
    findMinutes: 3,
  },
  mounting: {
    name: "make and mounting",
    turn: "Turn the motor round",
    minutes: 20,
    stored: "under the turnout",
    reset: false,
    find: "drive it each way, and look at its arm",
    findMinutes: 3,
  },
  linkage: {
    name: "linkage to the blades",
    turn: "Move the link to the other side",
    minutes: 15,
    stored: "under the turnout",
    reset: false,
    find: "look at the arm and at the blades",
    findMinutes: 2,
  },
  contact: {
    name: "which side the contact makes",
    turn: null,
    minutes: 5,
    stored: "in the motor",
    reset: false,
    find: "ohms from its common to each side, blades at normal",
    findMinutes: 2,
  },
  frog: {
    name: "rails at the frog's contact",
    many: true,
    turn: "Swap the two rails",
    minutes: 5,
    stored: "at the contact's terminals",
    reset: false,
    find: "volts from the frog to the left rail, no train on the track",
    findMinutes: 2,
  },
  lamp: {
    name: "leads of the lamp",
    many: true,
    turn: "Swap its leads",
    minutes: 2,
    stored: "at the lamp",
    reset: false,
    find: "look at the lamp, blades at normal",
    findMinutes: 1,
  },
};
