import { type DeviceType, figure, terminals } from "./deviceType.ts";

const TOGGLE = {
  family: "control",
  place: "panel",
  prefix: "T",
  terminals: terminals({ N: "made when thrown to normal", C: "common", R: "made when thrown to reverse" }),
  outputs: 0,
  contactSets: 0,
  figures: {
    contactOhms: figure(0.02, "ohm", "resistance of a closed contact", { origin: "from memory", max: 20 }),
    ratedAmps: figure(3, "A", "rating of the contact"),
  },
} as const;

export const CONTROLS: readonly DeviceType[] = [
  {
    ...TOGGLE,
    id: "toggle-centre-off",
    name: "Toggle, centre-off, momentary both ways",
    short: "sprung",
    model: "momentary-toggle",
    about: "Springs back to the centre when let go: a pulse for coils, and others may throw the turnout too.",
  },
  {
    ...TOGGLE,
    id: "toggle-latching",
    name: "Toggle, latching",
    short: "latching",
    model: "latching-toggle",
    about: "Stays where it is put, so it shows the position. For motors that may stay powered; never for coils.",
    caution: "Left on, it burns a coil or drains the discharge unit, and it locks other controls out.",
  },
];
