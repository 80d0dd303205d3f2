import { type DeviceType, figure, terminals } from "./deviceType.ts";

export const TRACK: readonly DeviceType[] = [
  {
    id: "frog",
    name: "Frog of a turnout",
    short: "frog",
    family: "track",
    model: "frog",
    about: "The frog with the two stock rails beside it, told facing from the toe.",
    place: "layout",
    prefix: "F",
    terminals: terminals({ F: "frog", L: "left stock rail", R: "right stock rail" }),
    outputs: 0,
    contactSets: 0,
    figures: {
      leakOhms: figure(10e6, "ohm", "from a dead frog to either rail, through ballast and dust", {
        origin: "from memory",
      }),
    },
  },
];
